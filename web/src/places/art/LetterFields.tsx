import type { Lettering } from "@/api/client";
import { FilmField } from "@/parts/FilmField";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { useOpenDesign } from "@/state/design";
import type { Taken } from "@/state/moves";
import { useView } from "@/state/view";
import { LetterForms } from "./FontChoices";
import { useArtChange } from "./useArt";

type Tweak = NonNullable<Lettering["letters"]>[number];

const tweakIn = (letters: readonly Tweak[], index: number): Tweak =>
  letters.find((t) => t.index === index) ?? { index, dx_mm: 0, dy_mm: 0, turn_deg: 0, scale: 1, forms: [] };

/** A nudge as an edit takes it. */
type TakenTweak = NonNullable<Taken<Lettering>["letters"]>[number];

/** Single letters, chosen here or on the stage: nudged, turned, scaled, or given to another film. */
export function LetterFields({ art }: { art: Lettering }) {
  const { built } = useOpenDesign();
  const { letters: chosen, chooseLetters } = useView();
  const { change } = useArtChange(art);
  const letters = built.arts.find((candidate) => candidate.id === art.id)?.letters ?? [];
  const tweakOf = (index: number): Tweak => tweakIn(art.letters ?? [], index);
  const filmOf = (index: number) =>
    [...(art.films ?? [])].reverse().find((span) => span.start <= index && index < span.end)?.film ??
    art.lines?.[rowOf(art, index)]?.film ??
    art.film ??
    null;
  const colourOf = (index: number) => {
    const film = filmOf(index);
    return built.layers.find((layer) => layer.film === film)?.colour ?? film ?? "#25231e";
  };
  const first = chosen[0];
  const nudge = (changes: Partial<TakenTweak>) =>
    change(({ letters = [] }) => {
      const others = letters.filter((t) => !chosen.includes(t.index));
      const nudged = chosen.map((index) => ({ ...tweakIn(letters, index), ...changes }));
      return { letters: [...others, ...nudged] };
    });
  const toFilm = (film: string) =>
    change(({ films = [] }) => {
      const spans = chosen.map((index) => ({ start: index, end: index + 1, film }));
      return { films: [...films.filter((s) => s.end - s.start > 1 || !chosen.includes(s.start)), ...spans] };
    });
  return (
    <section>
      <h3 className="heading mb-1">Single letters</h3>
      <fieldset className="flex flex-wrap gap-0.5" aria-label="Letters">
        {[...letters]
          .sort((a, b) => a.index - b.index)
          .map((letter) => (
            <button
              key={letter.index}
              type="button"
              aria-pressed={chosen.includes(letter.index)}
              aria-label={`Letter ${letter.text}`}
              className="min-w-6 rounded border border-transparent px-1 text-lg font-semibold hover:border-firm aria-pressed:border-chosen aria-pressed:bg-tint"
              onDoubleClick={() => chooseLetters(wordOf(art.text, letter.index, letters))}
              onClick={(event) => {
                const more = event.shiftKey || event.ctrlKey || event.metaKey;
                const rest = chosen.filter((index) => index !== letter.index);
                chooseLetters(chosen.includes(letter.index) ? rest : more ? [...chosen, letter.index] : [letter.index]);
              }}
            >
              <span className="border-b-4" style={{ borderColor: colourOf(letter.index) }}>
                {letter.text}
              </span>
            </button>
          ))}
      </fieldset>
      {first === undefined ? (
        <p className="mt-1 text-sm text-soft">
          Choose letters, more with Shift, a word with two clicks: to move them or give them a film.
        </p>
      ) : (
        <div className="mt-2 flex flex-col gap-2 rounded bg-tint/50 p-2">
          <LetterForms
            font={fontOf(art, first)}
            text={chosen.map((index) => art.text[index] ?? "").join("")}
            forms={tweakOf(first).forms ?? []}
            onForms={(forms) => nudge({ forms })}
          />
          <div className="flex justify-between">
            <LengthField
              label="Right by"
              signed
              mm={tweakOf(first).dx_mm}
              onCommit={(text) => nudge({ dx_mm: text })}
            />
            <LengthField label="Down by" signed mm={tweakOf(first).dy_mm} onCommit={(text) => nudge({ dy_mm: text })} />
          </div>
          {chosen.length === 1 && <PairField art={art} index={first} letters={letters} />}
          <div className="flex justify-between">
            <NumberField
              label="Turned"
              value={tweakOf(first).turn_deg}
              suffix="°"
              onCommit={(turn_deg) => nudge({ turn_deg })}
            />
            <NumberField
              label="Scaled"
              value={tweakOf(first).scale * 100}
              suffix=" %"
              onCommit={(percent) => nudge({ scale: percent / 100 })}
            />
            <div className="min-w-0 max-w-36">
              <span className="heading">Film</span>
              <FilmField label="Film of the letters" film={filmOf(first)} onFilm={toFilm} />
            </div>
          </div>
        </div>
      )}
    </section>
  );
}

interface PairFieldProps {
  art: Lettering;
  index: number;
  letters: readonly { index: number; text: string }[];
}

type TakenPair = NonNullable<Taken<Lettering>["pairs"]>[number];

/** How far a letter is set from the one before it, wherever the two meet. */
function PairField({ art, index, letters }: PairFieldProps) {
  const { change } = useArtChange(art);
  const second = letters.find((letter) => letter.index === index)?.text;
  const first = letters.find((letter) => letter.index === index - 1)?.text;
  if (!first || !second) return null;
  const isIt = (pair: { first: string; second: string }) => pair.first === first && pair.second === second;
  return (
    <div className="flex items-end gap-3">
      <LengthField
        label={`After “${first}”`}
        signed
        mm={art.pairs?.find(isIt)?.mm ?? 0}
        onCommit={(text) =>
          change(({ pairs = [] }) => {
            const own = { first, second, mm: text } as TakenPair;
            return { pairs: [...pairs.filter((pair) => !isIt(pair)), own] };
          })
        }
      />
      <p className="pb-1 text-sm text-soft">
        Farther apart wherever “{first}” stands before “{second}”, in names too.
      </p>
    </div>
  );
}

/** The font of the line that a letter stands in. */
function fontOf(art: Lettering, index: number): string {
  return art.lines?.[rowOf(art, index)]?.font ?? art.font;
}

/** The number of the line that a letter stands in. */
function rowOf(art: Lettering, index: number): number {
  return art.text.slice(0, index).split("\n").length - 1;
}

/** The letters of the word round one of its characters. */
function wordOf(text: string, index: number, letters: { index: number }[]): number[] {
  const isGap = (at: number) => /\s/.test(text[at] ?? " ");
  let [from, to] = [index, index];
  while (from > 0 && !isGap(from - 1)) from--;
  while (to < text.length - 1 && !isGap(to + 1)) to++;
  return letters.map((letter) => letter.index).filter((at) => at >= from && at <= to);
}
