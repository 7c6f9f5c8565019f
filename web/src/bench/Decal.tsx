import { type PartName, type Plan, useBench } from "@/state/job";

type DecalOf = Plan["decals"][number];

/** The decals of a job, small and always in sight; pointing at a part lights it up on the strips, and the other way round. */
export function Decals({ plan }: { plan: Plan }) {
  return (
    <ul aria-label="Designs of this job" className="flex gap-3 overflow-x-auto">
      {plan.decals.map((decal) => (
        <li key={decal.design}>
          <Decal decal={decal} seams={plan.seams.filter((own) => own.design === decal.design)} />
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

function Decal({ decal, seams }: { decal: DecalOf; seams: Plan["seams"] }) {
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
      <path
        d={seams
          .flatMap((own) => [
            ...own.x.map((x) => `M${x} ${top}V${bottom}`),
            ...own.y.map((y) => `M${left} ${y}H${right}`),
          ])
          .join("")}
        stroke="#a8321a"
        strokeWidth={1.2 / px}
        strokeDasharray={`${4 / px} ${3 / px}`}
        pointerEvents="none"
      />
    </svg>
  );
}
