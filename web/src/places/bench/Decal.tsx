import { type PointerEvent, useState } from "react";
import { type PartName, type Plan, useBench } from "@/state/job";

type DecalOf = Plan["decals"][number];

/** A seam dragged somewhere: of which design and film, along which axis, the how-manieth of how many, and where. */
export interface SeamPut {
  design: string;
  film: string;
  axis: "x" | "y";
  index: number;
  at_mm: number;
  of: { x: number; y: number };
}

/** The decals of a job, small and always in sight; pointing at a part lights it up on the strips, and the other way round. */
export function Decals({ plan, onSeam }: { plan: Plan; onSeam?(seam: SeamPut): unknown }) {
  return (
    <ul aria-label="Designs of this job" className="flex gap-3 overflow-x-auto">
      {plan.decals.map((decal) => (
        <li key={decal.design}>
          <Decal decal={decal} seams={plan.seams.filter((own) => own.design === decal.design)} onSeam={onSeam} />
          <span className="block max-w-40 truncate text-sm text-soft">
            {decal.copies > 1 && `${decal.copies} × `}
            {decal.name}
          </span>
        </li>
      ))}
    </ul>
  );
}

const WIDE = 170;
const HIGH = 104;

function Decal({ decal, seams, onSeam }: { decal: DecalOf; seams: Plan["seams"]; onSeam?(seam: SeamPut): unknown }) {
  const point = useBench((bench) => bench.point);
  const pointed = useBench((bench) => bench.pointed);
  const { left, top, right, bottom } = decal.frame;
  const px = Math.min(WIDE / (right - left), HIGH / (bottom - top));
  const pad = 4 / px;
  const isLit = (part: PartName) =>
    pointed?.design === part.design && pointed.film === part.film && pointed.part === part.part;
  return (
    <svg
      role="img"
      aria-label={`${decal.name}, as it will look`}
      width={(right - left) * px + 8}
      height={(bottom - top) * px + 8}
      viewBox={`${left - pad} ${top - pad} ${right - left + 2 * pad} ${bottom - top + 2 * pad}`}
      className="rounded bg-table"
      onPointerLeave={() => point(null)}
    >
      {decal.films.map((film) => (
        <g key={film.film} fill={film.colour} fillRule="evenodd">
          {film.parts.map((path, k) => (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: parts have no other name than their number
              key={k}
              d={path}
              transform="scale(0.001)"
              stroke={isLit({ design: decal.design, film: film.film, part: k }) ? "#6d3468" : "none"}
              strokeWidth={(3 / px) * 1000}
              onPointerEnter={() => point({ design: decal.design, film: film.film, part: k })}
            />
          ))}
        </g>
      ))}
      {seams.flatMap((own) =>
        (["x", "y"] as const).flatMap((axis) =>
          own[axis].map(({ at }, index) => (
            <Seam
              // biome-ignore lint/suspicious/noArrayIndexKey: a seam has no other name than its number
              key={`${own.film} ${axis} ${index}`}
              axis={axis}
              at={at}
              ends={axis === "x" ? [top, bottom] : [left, right]}
              px={px}
              onPut={
                onSeam &&
                ((at_mm) =>
                  onSeam({
                    design: decal.design,
                    film: own.film,
                    axis,
                    index,
                    at_mm,
                    of: { x: own.x.length, y: own.y.length },
                  }))
              }
            />
          )),
        ),
      )}
    </svg>
  );
}

interface SeamProps {
  axis: "x" | "y";
  at: number;
  ends: [number, number];
  px: number;
  onPut?(at: number): unknown;
}

/** A seam on the decal; it can be dragged. */
function Seam({ axis, at, ends, px, onPut }: SeamProps) {
  const [held, setHeld] = useState<{ from: number; by: number } | null>(null);
  const shown = at + (held?.by ?? 0);
  const [a, b] = ends;
  const line = axis === "x" ? `M${shown} ${a}V${b}` : `M${a} ${shown}H${b}`;
  const where = (event: PointerEvent) => (axis === "x" ? event.clientX : event.clientY);
  return (
    <g>
      <path
        d={line}
        stroke="#a8321a"
        strokeWidth={1.2 / px}
        strokeDasharray={`${4 / px} ${3 / px}`}
        pointerEvents="none"
      />
      <path
        d={line}
        stroke="transparent"
        strokeWidth={9 / px}
        className={onPut && (axis === "x" ? "cursor-ew-resize" : "cursor-ns-resize")}
        onPointerDown={(event) => {
          if (!onPut) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld({ from: where(event), by: 0 });
        }}
        onPointerMove={(event) => held && setHeld({ ...held, by: (where(event) - held.from) / px })}
        onPointerUp={() => {
          if (held && Math.abs(held.by) * px > 2) onPut?.(Number((at + held.by).toFixed(2)));
          setHeld(null);
        }}
        onPointerCancel={() => setHeld(null)}
      >
        <title>Seam: drag it to where it is to run</title>
      </path>
    </g>
  );
}
