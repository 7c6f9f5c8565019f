import { useMemo } from "react";
import { type Box, type Point, toPixel, type View } from "@/geometry/transform";
import { showLength, showTime } from "@/lengths";
import { useOpenDesign, useUnit } from "@/state/design";
import { useView } from "@/state/view";
import { figuresOf } from "./look";

/** The box that is drawn round what is to be chosen. */
export function Gathered({ box, view, left }: { box: Box; view: View; left: number }) {
  const [a, b] = [toPixel(view, { x: box.left, y: box.top }), toPixel(view, { x: box.right, y: box.bottom })];
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute border border-dashed border-chosen bg-chosen/10"
      style={{ left: left + a.x, top: a.y, width: b.x - a.x, height: b.y - a.y }}
    />
  );
}

export function Crosshair({ at, left }: { at: Point; left: number }) {
  return (
    <svg
      aria-hidden="true"
      viewBox="-20 -20 40 40"
      className="pointer-events-none absolute h-10 w-10"
      style={{ left: left + at.x - 20, top: at.y - 20 }}
    >
      <path d="M-19 0H-4M4 0H19M0 -19V-4M0 4V19" stroke="white" strokeWidth="4" />
      <path d="M-19 0H-4M4 0H19M0 -19V-4M0 4V19" stroke="#6d3468" strokeWidth="2" />
    </svg>
  );
}

const PX_PER_MM = 96 / 25.4;

/** How large the decal is shown, and ways to change it. */
export function ZoomBar({ scale, zoom, fit }: { scale: number | null; zoom(steps: number): void; fit(): void }) {
  return (
    <div className="pointer-events-auto ml-auto flex items-center gap-1 rounded-full border border-line bg-paper/95 px-2 py-1 text-soft">
      <button type="button" aria-label="Smaller" className="px-2" onClick={() => zoom(-1)}>
        −
      </button>
      <button type="button" className="measure min-w-16 text-center text-sm" title="Fit the decal" onClick={fit}>
        {scale ? `${Math.round((scale / PX_PER_MM) * 100)} %` : ""}
      </button>
      <button type="button" aria-label="Larger" className="px-2" onClick={() => zoom(1)}>
        +
      </button>
    </div>
  );
}

/** Says that films are hidden, wherever the decal is looked at, and brings them back. */
export function OutOfSight() {
  const { built } = useOpenDesign();
  const { hidden, showAll } = useView();
  const away = built.layers.filter((layer) => hidden.includes(layer.film));
  if (away.length === 0) return null;
  const names = away.map((layer) => layer.name).join(", ");
  return (
    <p
      role="status"
      className="absolute top-3 left-4 flex max-w-[60%] items-center gap-3 rounded-full border border-fail bg-paper py-1 pr-2 pl-4"
    >
      <span className="truncate" title={names}>
        {away.length === 1 ? `${names} is hidden` : `${away.length} films are hidden: ${names}`}
      </span>
      <button type="button" className="act shrink-0 text-sm" onClick={showAll}>
        Show all
      </button>
    </p>
  );
}

/** The figures of the whole decal, where the eye checks them. */
export function Figures() {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const { length, nodes, seconds } = useMemo(() => figuresOf(built), [built]);
  return (
    <p className="measure pointer-events-none absolute top-3 right-4 flex gap-4 rounded bg-table/85 px-1 text-sm text-soft">
      <span>{built.layers.length === 1 ? "1 film" : `${built.layers.length} films`}</span>
      <span>{built.max_thickness === 1 ? "1 layer" : `up to ${built.max_thickness} layers`} thick</span>
      <span>{showLength(length, unit)} to cut</span>
      <span>{nodes} nodes</span>
      <span title="At 80 mm a second, slower in turns">about {showTime(seconds)}</span>
    </p>
  );
}
