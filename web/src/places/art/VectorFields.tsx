import type { VectorArt } from "@/api/client";
import { showLength } from "@/lengths";
import { useOpenDesign, useUnit } from "@/state/design";
import { ClaimFields } from "./ClaimFields";
import { useArtBox, useArtChange } from "./useArt";

const READINGS: { value: VectorArt["reading"]; text: string }[] = [
  { value: "as-told", text: "as the file tells" },
  { value: "96-dpi", text: "bare units at 96 dpi" },
  { value: "90-dpi", text: "bare units at 90 dpi" },
  { value: "72-dpi", text: "bare units at 72 dpi" },
  { value: "mm", text: "bare units are mm" },
];

/** A vector file: what its units are taken for, the films of its colours, and regions claimed for others. */
export function VectorFields({ art }: { art: VectorArt }) {
  const { built } = useOpenDesign();
  const { change } = useArtChange(art);
  const unit = useUnit();
  const box = useArtBox(art.id);
  const colours = built.arts.find((a) => a.id === art.id)?.file_colours ?? [];
  return (
    <div className="flex flex-col gap-3">
      <p>
        <span className="block truncate font-semibold">{art.filename || "Vector file"}</span>
        <span className="measure text-soft">
          {showLength(box.right - box.left, unit)} × {showLength(box.bottom - box.top, unit)}
        </span>
      </p>
      <label className="grid grid-cols-[84px_1fr] items-center gap-2">
        <span className="heading">Size</span>
        <select
          className="rounded border border-firm bg-table px-2 py-1"
          value={art.reading}
          onChange={(event) => change({ reading: event.target.value as VectorArt["reading"] })}
        >
          {READINGS.map(({ value, text }) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      </label>
      <section>
        <h3 className="heading mb-1">Its colours</h3>
        <ul aria-label="Colours of the file" className="border-t border-line">
          {colours.map((colour) => (
            <ColourOfFile key={colour} art={art} colour={colour} colours={colours} />
          ))}
        </ul>
      </section>
      <ClaimFields art={art} />
    </div>
  );
}

function ColourOfFile({ art, colour, colours }: { art: VectorArt; colour: string; colours: string[] }) {
  const { change } = useArtChange(art);
  const into = art.merges.find((merge) => merge.colour === colour)?.into;
  const dropped = art.dropped.includes(colour);
  return (
    <li className="flex items-center gap-2 border-b border-line py-1">
      <span
        className={`h-6 w-6 shrink-0 rounded-sm border border-firm ${dropped ? "opacity-40" : ""}`}
        style={{ background: colour }}
      />
      <select
        aria-label={`What becomes of ${colour}`}
        className="min-w-0 flex-1 rounded border border-firm bg-table px-2 py-0.5"
        value={dropped ? "drop" : (into ?? "own")}
        onChange={(event) => {
          const value = event.target.value;
          const merges = art.merges.filter((merge) => merge.colour !== colour);
          const rest = art.dropped.filter((other) => other !== colour);
          if (value === "own") change({ merges, dropped: rest });
          else if (value === "drop") change({ merges, dropped: [...rest, colour] });
          else change({ merges: [...merges, { colour, into: value }], dropped: rest });
        }}
      >
        <option value="own">a film: {colour}</option>
        <option value="drop">dropped</option>
        {colours
          .filter((other) => other !== colour)
          .map((other) => (
            <option key={other} value={other}>
              one film with {other}
            </option>
          ))}
      </select>
    </li>
  );
}
