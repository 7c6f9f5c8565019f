import { TriangleAlert } from "lucide-react";
import type { Layer } from "@/api/client";
import { showLength } from "@/lengths";
import { Choice } from "@/parts/Choice";
import { Findings } from "@/parts/Findings";
import { LengthField } from "@/parts/LengthField";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useView } from "@/state/view";

interface Sheet {
  width_mm: number | string;
  height_mm: number | string;
  margin_mm: number | string;
}

/** One sheet for each film: its material, size and margin, and whether the film fits. */
export function Sheets() {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const { film: chosen, choose } = useView();
  const unit = useUnit();
  return (
    <div className="flex flex-col gap-4">
      <Findings findings={built.findings.filter((finding) => finding.code === "nothing-left")} />
      <Choice
        label="Film of the design"
        value={recipe.method}
        options={[
          { value: "adhesive", text: "Adhesive" },
          { value: "heat-transfer", text: "Heat-transfer, mirrored" },
        ]}
        onChange={(method) => edit({ kind: "set-method", method })}
      />
      <SheetFields sheet={recipe.sheet} onCommit={(sheet) => edit({ kind: "set-sheet", sheet })} />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="h-4 w-4 accent-chosen"
          checked={recipe.marks}
          onChange={(event) => edit({ kind: "set-marks", marks: event.target.checked })}
        />
        Registration marks, the same on every sheet
      </label>
      <ul aria-label="Sheets, top film first" className="border-t border-line">
        {built.layers
          .map((layer, k) => ({ layer, k }))
          .reverse()
          .map(({ layer, k }) => (
            <li key={layer.film} className="border-b border-line">
              <button
                type="button"
                aria-expanded={chosen === layer.film}
                className={`grid w-full grid-cols-[26px_1fr_auto] items-center gap-2 py-1.5 text-left ${chosen === layer.film ? "bg-tint" : "hover:bg-bench"}`}
                onClick={() => choose(chosen === layer.film ? null : layer.film)}
              >
                <span className="ml-1 h-6 w-6 rounded-sm border border-firm" style={{ background: layer.colour }} />
                <span className="min-w-0">
                  <span className="block truncate font-semibold">
                    {k + 1} {layer.name}
                  </span>
                  <span className="measure block text-sm leading-tight text-soft">
                    needs {showLength(layer.sheet.used_width_mm, unit)} × {showLength(layer.sheet.used_height_mm, unit)}
                  </span>
                </span>
                <span className="pr-2 text-right text-sm text-soft">
                  {layer.sheet.mirrored ? "mirrored" : ""}
                  <Excess sheet={layer.sheet} />
                </span>
              </button>
              {chosen === layer.film && <OwnSheet layer={layer} />}
            </li>
          ))}
      </ul>
    </div>
  );
}

/** By how much a film is too large for its sheet; nothing if it fits. */
function Excess({ sheet }: { sheet: Layer["sheet"] }) {
  const unit = useUnit();
  if (sheet.fits) return null;
  const over = [
    sheet.over_width_mm > 0 && `${showLength(sheet.over_width_mm, unit)} too wide`,
    sheet.over_height_mm > 0 && `${showLength(sheet.over_height_mm, unit)} too high`,
  ].filter(Boolean);
  return (
    <span className="flex items-center justify-end gap-1 font-semibold text-fail">
      <TriangleAlert aria-hidden size={15} />
      {over.join(", ")}
    </span>
  );
}

/** What one film has of its own, in place of the design's material and sheet. */
function OwnSheet({ layer }: { layer: Layer }) {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const own = recipe.films?.find((film) => film.film === layer.film);
  const { film } = layer;
  return (
    <div className="flex flex-col gap-3 bg-tint/50 px-2 py-3">
      <Choice
        label={`Film of ${layer.name}`}
        value={own?.method ?? "design"}
        options={[
          { value: "design", text: "As the design" },
          { value: "adhesive", text: "Adhesive" },
          { value: "heat-transfer", text: "Heat-transfer" },
        ]}
        onChange={(method) => edit({ kind: "set-method", film, method: method === "design" ? null : method })}
      />
      <SheetFields
        sheet={own?.sheet ?? recipe.sheet}
        of={layer.name}
        onCommit={(sheet) => edit({ kind: "set-sheet", film, sheet })}
      />
      {own?.sheet && (
        <button
          type="button"
          className="quiet self-start"
          onClick={() => edit({ kind: "set-sheet", film, sheet: null })}
        >
          Same sheet as the design
        </button>
      )}
    </div>
  );
}

function SheetFields({ sheet, of, onCommit }: { sheet: Sheet; of?: string; onCommit(sheet: Sheet): Promise<unknown> }) {
  const suffix = of ? ` of ${of}` : "";
  return (
    <fieldset className="flex justify-between" aria-label={`Sheet${suffix}`}>
      <LengthField
        label="Sheet width"
        mm={Number(sheet.width_mm)}
        onCommit={(width_mm) => onCommit({ ...sheet, width_mm })}
      />
      <LengthField
        label="Sheet height"
        mm={Number(sheet.height_mm)}
        onCommit={(height_mm) => onCommit({ ...sheet, height_mm })}
      />
      <LengthField
        label="Margin"
        mm={Number(sheet.margin_mm)}
        onCommit={(margin_mm) => onCommit({ ...sheet, margin_mm })}
      />
    </fieldset>
  );
}
