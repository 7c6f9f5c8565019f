import type { Lettering } from "@/api/client";
import { Select } from "@/entry/Entry";
import { Choice } from "@/parts/Choice";
import { FilmField } from "@/parts/FilmField";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import type { Taken } from "@/state/moves";
import { FontAxes } from "./FontChoices";
import { FontField } from "./FontField";
import { useArtBox, useArtChange } from "./useArt";

type Line = NonNullable<Lettering["lines"]>[number];
const PLAIN: Line = {
  font: null,
  axes: [],
  height_mm: null,
  width_mm: null,
  like: null,
  spacing_mm: null,
  spread: false,
  film: null,
};

/** What single lines have of their own: font, height, and how wide they run. */
export function LineFields({ art, rows }: { art: Lettering; rows: number }) {
  const texts = art.text.split("\n");
  const { change } = useArtChange(art);
  return (
    <section>
      <h3 className="heading mb-1">Single lines</h3>
      <ul className="flex flex-col gap-1">
        {Array.from({ length: rows }, (_, k) => k).map((k) => (
          <li key={k} className="flex items-center justify-between gap-2">
            <span className="min-w-0 flex-1 truncate">
              {k + 1} {texts[k]}
            </span>
            <FilmField
              label={`Film of line ${k + 1}`}
              film={art.lines?.[k]?.film ?? art.film}
              onFilm={(film) => change({ lines: linesWith(art, rows, k, { film }) })}
            />
            <Panel label={`Line ${k + 1}`} trigger={told(art.lines?.[k] ?? PLAIN)} triggerClass="act text-sm">
              <LinePanel art={art} row={k} rows={rows} />
            </Panel>
          </li>
        ))}
      </ul>
    </section>
  );
}

function told(line: Line): string {
  if (line.like !== null && line.like !== undefined) return `as wide as line ${line.like + 1}`;
  if (line.width_mm) return `${line.width_mm} mm wide`;
  return line.font || line.height_mm || line.spacing_mm ? "of its own" : "like the others";
}

/** A line's choices as an edit takes them. */
type TakenLine = NonNullable<Taken<Lettering>["lines"]>[number];

/** All lines, one of them changed. */
function linesWith(art: Lettering, rows: number, row: number, changes: Partial<TakenLine>): TakenLine[] {
  const lines: TakenLine[] = Array.from(
    { length: Math.max(rows, art.lines?.length ?? 0) },
    (_, k) => art.lines?.[k] ?? PLAIN,
  );
  lines[row] = { ...(lines[row] ?? PLAIN), ...changes };
  return lines;
}

function LinePanel({ art, row, rows }: { art: Lettering; row: number; rows: number }) {
  const { change } = useArtChange(art);
  const box = useArtBox(art.id);
  const line = art.lines?.[row] ?? PLAIN;
  const set = (changes: Partial<TakenLine>) => change({ lines: linesWith(art, rows, row, changes) });
  return (
    <div className="flex flex-col gap-3">
      <p className="font-semibold">Line {row + 1}</p>
      <FontField
        label={`Font of line ${row + 1}`}
        font={line.font ?? art.font}
        onFont={(font) => set({ font, axes: [] })}
      />
      {line.font && <FontAxes font={line.font} axes={line.axes ?? []} onAxes={(axes) => set({ axes })} />}
      <LengthField
        label="Letter height"
        mm={line.height_mm ?? art.height_mm}
        onCommit={(text) => set({ height_mm: text })}
      />
      <LengthField
        label="Letter spacing"
        signed
        mm={line.spacing_mm ?? art.spacing_mm}
        onCommit={(text) => set({ spacing_mm: text })}
      />
      <label className="flex flex-col">
        <span className="heading">Width</span>
        <Select
          value={line.width_mm ? "exact" : line.like === null || line.like === undefined ? "" : String(line.like)}
          onChange={(event) => {
            const value = event.target.value;
            if (value === "") set({ width_mm: null, like: null });
            else if (value === "exact") set({ width_mm: Number((box.right - box.left).toFixed(2)), like: null });
            else set({ width_mm: null, like: Number(value) });
          }}
        >
          <option value="">as its letters come</option>
          <option value="exact">an exact width</option>
          {Array.from({ length: rows }, (_, k) => k)
            .filter((k) => k !== row)
            .map((k) => (
              <option key={k} value={k}>
                as wide as line {k + 1}
              </option>
            ))}
        </Select>
      </label>
      {line.width_mm && (
        <LengthField label="Exact width" mm={line.width_mm} onCommit={(text) => set({ width_mm: text })} />
      )}
      {(line.width_mm || (line.like !== null && line.like !== undefined)) && (
        <Choice
          label="Made as wide"
          value={line.spread ? "spread" : "scaled"}
          options={[
            { value: "scaled", text: "Larger letters" },
            { value: "spread", text: "Letters farther apart" },
          ]}
          onChange={(how) => set({ spread: how === "spread" })}
        />
      )}
      <button type="button" className="quiet self-start" onClick={() => set(PLAIN)}>
        Like the other lines
      </button>
    </div>
  );
}
