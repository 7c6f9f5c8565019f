import type { VectorArt } from "@/api/client";
import { showLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import { useOpenDesign, useUnit } from "@/state/design";
import { useView } from "@/state/view";
import { useArtBox, useArtChange } from "./useArt";

const READINGS: { value: VectorArt["reading"]; text: string }[] = [
  { value: "as-told", text: "as the file tells" },
  { value: "96-dpi", text: "bare units at 96 dpi" },
  { value: "90-dpi", text: "bare units at 90 dpi" },
  { value: "72-dpi", text: "bare units at 72 dpi" },
  { value: "mm", text: "bare units are mm" },
];

/** What files that list lines may be drawn in, where they do not tell. */
const UNITS: typeof READINGS = [
  { value: "as-told", text: "as the file tells" },
  { value: "mm", text: "its units are mm" },
  { value: "cm", text: "its units are cm" },
  { value: "in", text: "its units are inches" },
];

const OPEN_PATHS: { value: VectorArt["open_paths"]; text: string }[] = [
  { value: "as-told", text: "as the file paints them" },
  { value: "close", text: "closed to areas" },
  { value: "expand", text: "expanded to lines" },
];

/** Files of these kinds list lines one by one, to be joined to outlines. */
const LISTS_LINES = /\.(dxf|plt|hpgl)$/i;

/** A vector file: what its units are taken for, and what becomes of its open paths. */
export function VectorFields({ art }: { art: VectorArt }) {
  const { built } = useOpenDesign();
  const { change } = useArtChange(art);
  const unit = useUnit();
  const box = useArtBox(art.id);
  const found = built.arts.find((a) => a.id === art.id);
  const colours = found?.file_colours ?? [];
  const layers = found?.layers ?? [];
  const goTo = useView((view) => view.goTo);
  return (
    <div className="flex flex-col gap-3">
      <p>
        <span className="block truncate font-semibold">{art.filename || "Vector file"}</span>
        <span className="measure text-soft">
          {showLength(box.right - box.left, unit)} × {showLength(box.bottom - box.top, unit)} of film
        </span>
      </p>
      {(found?.pages ?? 1) > 1 && (
        <SelectField
          label="Page"
          value={String(art.page ?? 1)}
          options={Array.from({ length: found?.pages ?? 1 }, (_, k) => ({
            value: String(k + 1),
            text: `${k + 1} of ${found?.pages}`,
          }))}
          onChange={(page) => change({ page: Number(page) })}
        />
      )}
      {layers.length > 0 && (
        <SelectField
          label="Films"
          value={art.films_by}
          options={[
            { value: "colours", text: "one for each colour" },
            { value: "layers", text: `one for each of its ${layers.length} layers` },
          ]}
          onChange={(films_by) => change({ films_by, merges: [], dropped: [] })}
        />
      )}
      {!found?.fixed_size && (
        <SelectField
          label="Size"
          value={art.reading}
          options={LISTS_LINES.test(art.filename) ? UNITS : READINGS}
          onChange={(reading) => change({ reading })}
        />
      )}
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
      {LISTS_LINES.test(art.filename) && (
        <LengthField label="Join gaps up to" mm={art.gap_mm} onCommit={(text) => change({ gap_mm: text })} />
      )}
      <button type="button" className="act self-start" onClick={() => goTo("Colours")}>
        {colours.length === 1 ? "1 colour" : `${colours.length} colours`}: look at them
      </button>
    </div>
  );
}
