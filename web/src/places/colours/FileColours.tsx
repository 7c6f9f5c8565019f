import { useState } from "react";
import type { VectorArt } from "@/api/client";
import { Select } from "@/entry/Entry";
import { Findings } from "@/parts/Findings";
import { Slide } from "@/parts/Slide";
import { useArtChange } from "@/places/art/useArt";
import { useOpenDesign } from "@/state/design";

const FEWEST = 3;
/** So many colours are listed at first: more cannot be looked over. */
const MOST_LISTED = 40;

/** The colours of a vector file: how many of them are films, and what becomes of each. */
export function FileColours({ art }: { art: VectorArt }) {
  const { built } = useOpenDesign();
  const { change, show } = useArtChange(art);
  const found = built.arts.find((a) => a.id === art.id);
  const colours = found?.file_colours ?? [];
  const alike = found?.alike ?? [];
  const films = found?.films ?? [];
  const nameOf = (colour: string) => built.layers.find((layer) => layer.film === colour)?.name ?? colour;
  const [all, setAll] = useState(false);
  const chosen = (colour: string) =>
    films.includes(colour) || art.dropped.includes(colour) || art.merges.some((merge) => merge.colour === colour);
  // What became one film with its nearest is not chosen for by itself, where there are very many.
  const own = colours.length > MOST_LISTED ? colours.filter(chosen) : colours;
  const others = colours.length > MOST_LISTED ? own.slice(0, MOST_LISTED) : colours;
  const listed = all ? own : own.slice(0, MOST_LISTED);
  const told = built.findings.filter((finding) => finding.beside === "palette" && finding.about === art.id);
  // At its right end the slider leaves the colours as drawn.
  const counted = (value: number) => ({ count: value >= colours.length ? null : value });
  return (
    <div className="flex flex-col gap-4">
      <Findings findings={told} />
      <p className="measure text-lg font-semibold" aria-live="polite">
        {films.length === 1 ? "1 film" : `${films.length} films`}
        <span className="font-normal text-soft">
          {" "}
          of {colours.length === 1 ? "1 colour" : `${colours.length} colours`}
        </span>
      </p>
      {colours.length > FEWEST && (
        <div>
          <div className="flex items-center gap-3">
            <span className="text-sm text-soft">{FEWEST}</span>
            <Slide
              label="Most films of its colours"
              value={Math.min(art.count ?? colours.length, colours.length)}
              least={FEWEST}
              most={colours.length}
              step={1}
              onSlide={(value) => show(counted(value))}
              onSettle={(value) => change(counted(value))}
            />
            <span className="text-sm text-soft">as drawn</span>
          </div>
          <p className="text-sm text-soft">With fewer, the nearest colours become one film.</p>
        </div>
      )}
      <section>
        <div className="mb-1 flex items-center justify-between">
          <h2 className="heading">Its colours</h2>
          {alike.length > 0 && (
            <button
              type="button"
              className="act text-sm"
              onClick={() => change((now) => ({ merges: [...now.merges, ...alike] }))}
            >
              Merge {alike.length === 1 ? "1 near-equal shade" : `${alike.length} near-equal shades`}
            </button>
          )}
        </div>
        <ul aria-label="Colours of the file" className="border-t border-line">
          {listed.map((colour) => (
            <ColourOfFile
              key={colour}
              art={art}
              colour={colour}
              colours={others}
              isFilm={films.includes(colour)}
              nameOf={nameOf}
            />
          ))}
        </ul>
        {own.length > listed.length && (
          <button type="button" className="act mt-2 text-sm" onClick={() => setAll(true)}>
            Show the other {own.length - listed.length}
          </button>
        )}
        {own.length < colours.length && (
          <p className="mt-1 text-sm text-soft">
            {colours.length - own.length} more of its colours are one film with the nearest of these.
          </p>
        )}
      </section>
    </div>
  );
}

interface ColourProps {
  art: VectorArt;
  colour: string;
  colours: string[];
  isFilm: boolean;
  nameOf(colour: string): string;
}

function ColourOfFile({ art, colour, colours, isFilm, nameOf }: ColourProps) {
  const { change } = useArtChange(art);
  const into = art.merges.find((merge) => merge.colour === colour)?.into;
  const dropped = art.dropped.includes(colour);
  return (
    <li className="flex items-center gap-2 border-b border-line py-1">
      <span
        className={`h-6 w-6 shrink-0 rounded-sm border border-firm ${dropped ? "opacity-40" : ""}`}
        style={{ background: colour }}
      />
      <Select
        aria-label={`What becomes of ${colour}`}
        className="flex-1 py-0.5"
        value={dropped ? "drop" : (into ?? "own")}
        onChange={(event) => {
          const value = event.target.value;
          change((now) => {
            const merges = now.merges.filter((merge) => merge.colour !== colour);
            const rest = now.dropped.filter((other) => other !== colour);
            if (value === "own") return { merges, dropped: rest };
            if (value === "drop") return { merges, dropped: [...rest, colour] };
            return { merges: [...merges, { colour, into: value }], dropped: rest };
          });
        }}
      >
        <option value="own">
          {isFilm || dropped || into ? `its own film: ${nameOf(colour)}` : "one film with the nearest"}
        </option>
        <option value="drop">dropped</option>
        {colours
          .filter((other) => other !== colour)
          .map((other) => (
            <option key={other} value={other}>
              one film with {nameOf(other)}
            </option>
          ))}
      </Select>
    </li>
  );
}
