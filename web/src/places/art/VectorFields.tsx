import type { VectorArt } from "@/api/client";
import { showLength } from "@/lengths";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import { useOpenDesign, useUnit } from "@/state/design";
import { useArtBox, useArtChange } from "./useArt";

const READINGS: { value: VectorArt["reading"]; text: string }[] = [
  { value: "as-told", text: "as the file tells" },
  { value: "96-dpi", text: "bare units at 96 dpi" },
  { value: "90-dpi", text: "bare units at 90 dpi" },
  { value: "72-dpi", text: "bare units at 72 dpi" },
  { value: "mm", text: "bare units are mm" },
];

const OPEN_PATHS: { value: VectorArt["open_paths"]; text: string }[] = [
  { value: "as-told", text: "as the file paints them" },
  { value: "close", text: "closed to areas" },
  { value: "expand", text: "expanded to lines" },
];

/** A vector file: what its units are taken for, the films of its colours, and regions claimed for others. */
export function VectorFields({ art }: { art: VectorArt }) {
  const { built } = useOpenDesign();
  const { change } = useArtChange(art);
  const unit = useUnit();
  const box = useArtBox(art.id);
  const found = built.arts.find((a) => a.id === art.id);
  const colours = found?.file_colours ?? [];
  const alike = found?.alike ?? [];
  return (
    <div className="flex flex-col gap-3">
      <p>
        <span className="block truncate font-semibold">{art.filename || "Vector file"}</span>
        <span className="measure text-soft">
          {showLength(box.right - box.left, unit)} × {showLength(box.bottom - box.top, unit)} of film
        </span>
      </p>
      <SelectField label="Size" value={art.reading} options={READINGS} onChange={(reading) => change({ reading })} />
      {(found?.open_paths ?? 0) > 0 && (
        <>
          <SelectField
            label="Open paths"
            value={art.open_paths}
            options={OPEN_PATHS}
            onChange={(open_paths) => change({ open_paths })}
          />
          {art.open_paths === "expand" && (
            <LengthField label="Width of their lines" mm={art.line_mm} onCommit={(text) => change({ line_mm: text })} />
          )}
        </>
      )}
      <section>
        <div className="mb-1 flex items-center justify-between">
          <h3 className="heading">Its colours</h3>
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
          {colours.map((colour) => (
            <ColourOfFile key={colour} art={art} colour={colour} colours={colours} />
          ))}
        </ul>
      </section>
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
          change((now) => {
            const merges = now.merges.filter((merge) => merge.colour !== colour);
            const rest = now.dropped.filter((other) => other !== colour);
            if (value === "own") return { merges, dropped: rest };
            if (value === "drop") return { merges, dropped: [...rest, colour] };
            return { merges: [...merges, { colour, into: value }], dropped: rest };
          });
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
