import { showArea, showLength, type Unit } from "@/geometry/lengths";
import { type FilmChange, useCompared } from "@/state/compare";
import { useUnit } from "@/state/design";
import { useView } from "@/state/view";

/** How the films differ from what they were at a step, in figures. */
export function Since({ className = "" }: { className?: string }) {
  const unit = useUnit();
  const compareWith = useView((view) => view.compareWith);
  const compared = useCompared();
  if (!compared) return null;
  const { since, changes, failed, settled } = compared;
  return (
    <section
      aria-label="Compared"
      className={`rounded border border-firm bg-paper px-3 py-2 text-sm shadow ${className}`}
    >
      <div className="flex items-start justify-between gap-3">
        <h2 className="font-semibold">Since “{since.label}”</h2>
        <button type="button" className="quiet shrink-0" onClick={() => compareWith(null)}>
          Close
        </button>
      </div>
      <div role="status">
        {failed ?? (!changes || !settled ? "Comparing…" : changes.length === 0 && "Every film is cut as it was.")}
      </div>
      {changes && changes.length > 0 && (
        <>
          <ul className="max-h-40 overflow-y-auto">
            {changes.map((one) => (
              <li key={one.film} className="flex gap-2 py-0.5">
                <span
                  className="mt-0.5 h-4 w-4 shrink-0 rounded-sm border border-firm"
                  style={{ background: one.colour }}
                />
                <span className="min-w-0">
                  <span className="font-semibold">{one.name}</span>{" "}
                  <span className="measure text-soft">{changeSaid(one, unit)}</span>
                </span>
              </li>
            ))}
          </ul>
          <p className="mt-1 flex gap-4 text-xs text-soft">
            <span className="flex items-center gap-1">
              <span className="h-3 w-3 bg-chosen" /> more now
            </span>
            <span className="flex items-center gap-1">
              <span className="h-3 w-3 border border-dashed border-fail bg-failtint" /> gone
            </span>
          </p>
        </>
      )}
    </section>
  );
}

/** What has become of a film, such as "2.1 mm² more, edges up to 0.30 mm away". */
export function changeSaid(one: FilmChange, unit: Unit): string {
  if (one.state === "new") return `new: ${showArea(one.come_mm2, unit)}`;
  if (one.state === "gone") return `gone: ${showArea(one.gone_mm2, unit)}`;
  const parts = [
    one.come_mm2 > 0 && `${showArea(one.come_mm2, unit)} more`,
    one.gone_mm2 > 0 && `${showArea(one.gone_mm2, unit)} gone`,
    one.apart_mm !== null && `up to ${showLength(one.apart_mm, unit, unit === "mm" ? 2 : 3)} away`,
  ];
  return parts.filter(Boolean).join(", ");
}
