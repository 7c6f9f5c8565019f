import type { Art, Edit, Mend } from "@/api/client";
import { never } from "@/geometry/kinds";
import { intoArt } from "@/geometry/place";
import type { Point } from "@/geometry/transform";
import type { Claiming, Mending, Target } from "@/state/mode";
import { type Area, type Areas, alike, goneRound, type Owners } from "@/state/regions";

/** What a tool has met since the pointer went down: where it went (art mm), and the regions it touched. */
export interface Trail {
  readonly points: readonly Point[];
  readonly touched: readonly number[];
}

/** The trail carried on to a point; points closer than `step` mm to the last are left out. */
export function carriedOn(trail: Trail, to: Point, touched: Area | null, step: number): Trail {
  const last = trail.points.at(-1);
  const far = !last || Math.hypot(to.x - last.x, to.y - last.y) >= step;
  const fresh = touched && !trail.touched.includes(touched.index);
  if (!far && !fresh) return trail;
  return {
    points: far ? [...trail.points, to] : trail.points,
    touched: fresh ? [...trail.touched, touched.index] : trail.touched,
  };
}

/** The corners of a box between two points, or the lasso itself. */
export function around(points: readonly Point[], by: "box" | "lasso"): Point[] {
  const [a, b] = [points[0], points.at(-1)];
  if (by === "lasso" || !a || !b) return [...points];
  return [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }];
}

/**
 * The regions that a claim takes: those touched, or for the most part inside the box or lasso, and those like them. A box
 * round areas of line art leaves the ink between them alone.
 */
export function taken(tool: Claiming, trail: Trail, areas: Areas, owners: Owners): number[] {
  const gone = tool.by === "touch" ? null : around(trail.points, tool.by);
  const inside = gone ? areas.all.filter((area) => goneRound(gone, area)) : [];
  const paper = inside.filter((area) => area.colour === null);
  const first = gone ? (paper.length > 0 ? paper : inside).map((area) => area.index) : trail.touched;
  return [...new Set(first.flatMap((index) => alike(areas, { index }, tool.reach, owners, tool.near)))];
}

/** The edit that says of regions what they are to be. */
export function claimEdit(
  tool: Pick<Claiming, "art" | "under">,
  target: Target,
  areas: Areas,
  indices: readonly number[],
): Edit {
  const said =
    target.film === null
      ? { film: null, becomes: target.becomes, under: "as-film" as const }
      : { film: target.film, becomes: "film" as const, under: tool.under };
  const pins = indices.flatMap((index) => {
    const area = areas.all[index];
    return area ? [{ x: area.x, y: area.y, ...said }] : [];
  });
  return { kind: "claim-regions", art: tool.art, pins };
}

const share = (value: number) => Number(value.toFixed(6));

/** The step of mending that a gesture has drawn; `film` is the one it began on. Null if it is none yet. */
export function mendOf(tool: Mending, trail: Trail, width: number, film: string | null): Mend | null {
  const spots = trail.points.map(({ x, y }) => ({ x: share(x / width), y: share(y / width) }));
  const [start, end] = [spots[0], spots.at(-1)];
  const base = { id: "new", on: true };
  const own = tool.film ?? film;
  if (!start || !end) return null;
  switch (tool.step) {
    case "bridge":
      return { ...base, kind: "bridge", start, end, width_mm: tool.mm, follow: tool.follow, film: tool.film };
    case "brush":
      return own ? { ...base, kind: "brush", film: own, path: spots, width_mm: tool.mm ?? 1, mode: tool.mode } : null;
    case "smooth":
      return own ? { ...base, kind: "smooth", film: own, start, end, reach_mm: tool.mm ?? 1 } : null;
    case "straighten":
      return own ? { ...base, kind: "straighten", film: own, start, end, through: null } : null;
    case "move-edge":
      return own ? { ...base, kind: "move-edge", film: own, start, end, mm: tool.mm ?? 6 } : null;
    case "draw-edge":
      return own && spots.length > 1 ? { ...base, kind: "draw-edge", film: own, path: spots } : null;
    case "push":
      return own ? { ...base, kind: "push", film: own, start, end, mm: tool.mm ?? 0.6 } : null;
    case "cut-away":
    case "take-over": {
      const gone = around(trail.points, tool.by).map(({ x, y }) => ({ x: share(x / width), y: share(y / width) }));
      if (gone.length < 3) return null;
      if (tool.step === "cut-away") return { ...base, kind: "cut-away", film: tool.film, around: gone };
      return { ...base, kind: "take-over", film: tool.film, into: tool.into, around: gone, thinner_mm: tool.mm };
    }
    case "nodes":
    case "draw-area":
      return null;
    default:
      return never(tool.step);
  }
}

/** A point of the stack in an art's own mm. */
export function artPoint(art: Art, mm: Point): Point {
  return intoArt(art.place, mm);
}
