import { useState } from "react";
import type { Edit, Layer } from "@/api/client";
import { readLength, showArea, showLength, squareMm } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { gapsOf, smallOf } from "@/stage/pieces";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";
import { type Ringed, useView } from "@/state/view";

/** The pieces of a film: those too small to handle, and gaps between pieces that nearly touch; stepped through, mended. */
export function PiecesFields({ layer }: { layer: Layer }) {
  return (
    <section aria-label={`Pieces of ${layer.name}`} className="flex flex-col gap-2">
      <SmallPieces layer={layer} />
      <Gaps layer={layer} />
    </section>
  );
}

function SmallPieces({ layer }: { layer: Layer }) {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const unit = useUnit();
  const limit = recipe.small_mm2;
  const small = smallOf(layer.shape, limit);
  const at = useStep(layer.film, "small", limit, small.length);
  const bit = at === null ? undefined : small[at];
  const own = recipe.films?.find((film) => film.film === layer.film);
  const all = (how: "drop" | "merge") => edit({ kind: "tidy-film", film: layer.film, below_mm2: limit, how });
  const one = (how: "drop" | "merge") =>
    bit && edit({ kind: "settle-piece", film: layer.film, x_mm: bit.x_mm, y_mm: bit.y_mm, how });
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-end gap-3">
        <NumberField
          label="Pieces below"
          value={Number((limit / squareMm(unit)).toFixed(4))}
          suffix={` ${unit}²`}
          onCommit={(value) => edit({ kind: "set-small", mm2: Math.max(0, value * squareMm(unit)) })}
        />
        <p className="measure pb-1 text-sm" aria-live="polite">
          {small.length === 0 ? "none" : small.length === 1 ? "1 piece" : `${small.length} pieces`}
          {bit && `, this one ${showArea(bit.area_mm2, unit)}`}
        </p>
        {small.length > 0 && <Stepper film={layer.film} of="small" limit={limit} count={small.length} at={at} />}
      </div>
      {small.length > 0 && (
        <p className="flex flex-wrap gap-1.5">
          <button
            type="button"
            className="act text-sm"
            title="Each goes to the film beside it"
            onClick={() => all("merge")}
          >
            Merge all
          </button>
          <button type="button" className="act text-sm" title="What lies below shows there" onClick={() => all("drop")}>
            Drop all
          </button>
          {bit && (
            <>
              <button type="button" className="act text-sm" onClick={() => one("merge")}>
                Merge this one
              </button>
              <button type="button" className="act text-sm" onClick={() => one("drop")}>
                Drop this one
              </button>
            </>
          )}
        </p>
      )}
      {own?.small && (
        <p className="flex items-center gap-2 text-sm text-soft">
          Pieces below {showArea(own.small.below_mm2, unit)} are {own.small.how === "drop" ? "dropped" : "merged"}.
          <button
            type="button"
            className="quiet"
            onClick={() => edit({ kind: "tidy-film", film: layer.film, below_mm2: 0, how: "drop" })}
          >
            keep them
          </button>
        </p>
      )}
    </div>
  );
}

function Gaps({ layer }: { layer: Layer }) {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const unit = useUnit();
  const closed = recipe.films?.find((film) => film.film === layer.film)?.close_mm ?? 0;
  const [limit, setLimit] = useState(closed || 2);
  const gaps = gapsOf(layer.shape, limit);
  const at = useStep(layer.film, "gaps", limit, gaps.length);
  const gap = at === null ? undefined : gaps[at];
  const close = (): Edit | null =>
    gap
      ? {
          kind: "close-gap",
          film: layer.film,
          gap: { x1_mm: gap.x1_mm, y1_mm: gap.y1_mm, x2_mm: gap.x2_mm, y2_mm: gap.y2_mm },
        }
      : null;
  const [first, last] = [gaps[0], gaps.at(-1)];
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-end gap-3">
        <LengthField
          label="Gaps up to"
          mm={limit}
          onCommit={async (text) => {
            const mm = readLength(text, unit);
            if (mm === null || mm <= 0) return unread(text);
            setLimit(mm);
            return mm;
          }}
        />
        <p className="measure pb-1 text-sm" aria-live="polite">
          {!first || !last
            ? "none between its pieces"
            : gap
              ? `this one ${showLength(gap.mm, unit)}`
              : gaps.length === 1
                ? `1, ${showLength(first.mm, unit)} wide`
                : `${gaps.length}, ${showLength(first.mm, unit)} to ${showLength(last.mm, unit)}`}
        </p>
        {gaps.length > 0 && <Stepper film={layer.film} of="gaps" limit={limit} count={gaps.length} at={at} />}
      </div>
      {gaps.length > 0 && (
        <p className="flex flex-wrap gap-1.5">
          <button
            type="button"
            className="act text-sm"
            title="Bridges as wide as the strokes weld the pieces in one"
            onClick={() => edit({ kind: "close-gaps", film: layer.film, mm: limit })}
          >
            Close all
          </button>
          {gap && (
            <button type="button" className="act text-sm" onClick={() => edit(close)}>
              Close this one
            </button>
          )}
        </p>
      )}
      {closed > 0 && (
        <p className="flex items-center gap-2 text-sm text-soft">
          Gaps up to {showLength(closed, unit)} are closed.
          <button type="button" className="quiet" onClick={() => edit({ kind: "close-gaps", film: layer.film, mm: 0 })}>
            open them again
          </button>
        </p>
      )}
    </div>
  );
}

/** Which piece or gap of a film is looked at; null if none is. */
function useStep(film: string, of: Ringed["of"], limit: number, count: number): number | null {
  const pieces = useView((view) => view.pieces);
  if (!pieces || pieces.film !== film || pieces.of !== of || pieces.limit !== limit || pieces.at === null) return null;
  return pieces.at < count ? pieces.at : null;
}

interface StepperProps {
  film: string;
  of: Ringed["of"];
  limit: number;
  count: number;
  at: number | null;
}

/** Rings them on the stage, and steps through them. */
function Stepper({ film, of, limit, count, at }: StepperProps) {
  const { pieces, ring } = useView();
  const shown = pieces?.film === film && pieces.of === of;
  const to = (next: number | null) => ring({ film, of, limit, at: next });
  return (
    <span className="ml-auto flex gap-1">
      <button
        type="button"
        className="act text-sm"
        aria-pressed={shown}
        onClick={() => (shown ? ring(null) : to(null))}
      >
        {shown ? "Hide" : "Show"}
      </button>
      <button
        type="button"
        className="act text-sm"
        aria-label={of === "small" ? "Next small piece" : "Next gap"}
        onClick={() => to(at === null ? 0 : (at + 1) % count)}
      >
        Next
      </button>
    </span>
  );
}
