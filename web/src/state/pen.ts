import type { Art, Edit, Mend } from "@/api/client";
import type { Point } from "@/geometry/transform";
import { artPoint, claimEdit, taken } from "@/state/gesture";
import type { Mending } from "@/state/mode";
import type { Areas } from "@/state/regions";

/** A point that the pen was put down at, and its handle; both mm of the stack. At a corner they are the same. */
export interface Knot {
  readonly at: Point;
  readonly handle: Point;
}

/** A node of a film's edge with those beside it, mm of the stack; how many its ring has. */
export interface EdgeNode {
  readonly film: string;
  readonly before: Point;
  readonly at: Point;
  readonly after: Point;
  readonly ring: number;
}

export type NodeForm = "as-drawn" | "smooth" | "corner";

/** What has three corners is gone without one of them. */
export const FEWEST_NODES = 4;
const CURVE_STEPS = 24;

const share = (value: number) => Number(value.toFixed(6));

function shares(art: Art, mm: Point, width: number): Point {
  const { x, y } = artPoint(art, mm);
  return { x: share(x / width), y: share(y / width) };
}

/** Where a way arrives at a knot from: opposite its handle. */
export function arrival({ at, handle }: Knot): Point {
  return { x: 2 * at.x - handle.x, y: 2 * at.y - handle.y };
}

/** Neighbouring knots of a way. */
export function stretches(knots: readonly Knot[], closed: boolean): (readonly [Knot, Knot])[] {
  return knots.flatMap((knot, k) => {
    const next = knots[k + 1] ?? (closed && knots.length > 1 ? knots[0] : undefined);
    return next ? [[knot, next] as const] : [];
  });
}

/** Points along a way that is closed. */
function around(knots: readonly Knot[]): Point[] {
  return stretches(knots, true).flatMap(([from, to]) => {
    const [b, c] = [from.handle, arrival(to)];
    return Array.from({ length: CURVE_STEPS }, (_, k) => {
      const t = k / CURVE_STEPS;
      const r = 1 - t;
      const on = (axis: "x" | "y") =>
        r ** 3 * from.at[axis] + 3 * r * r * t * b[axis] + 3 * r * t * t * c[axis] + t ** 3 * to.at[axis];
      return { x: on("x"), y: on("y") };
    });
  });
}

/** Whether a way can be closed: round an area, not along one line and back. */
export function canClose(knots: readonly Knot[]): boolean {
  const curved = knots.some(({ at, handle }) => at.x !== handle.x || at.y !== handle.y);
  return knots.length > 2 || (knots.length === 2 && curved);
}

/** What the pen's way comes to: a new area, an opening, a line, or a claim. Null where it is not one yet. */
export function penEdit(tool: Mending, art: Art, width: number, areas: Areas | null, closed: boolean): Edit | null {
  const { knots, gives, film } = tool;
  if (closed ? !canClose(knots) : knots.length < 2) return null;
  if (gives === "claim") {
    if (!closed || film === null || !areas) return null;
    const points = around(knots).map((point) => artPoint(art, point));
    const claiming = { kind: "claiming", art: art.id, target: { film }, reach: "one", by: "lasso" } as const;
    const regions = taken({ ...claiming, under: "as-film", near: 0 }, { points, touched: [] }, areas, new Map());
    return regions.length > 0 ? claimEdit({ art: art.id, under: "as-film" }, { film }, areas, regions) : null;
  }
  if (gives === "film" && film === null) return null;
  const mend: Mend = {
    ...{ id: "new", on: true, kind: "draw-area", closed },
    film: gives === "opening" ? null : film,
    path: knots.map(({ at }) => shares(art, at, width)),
    handles: knots.map(({ handle }) => shares(art, handle, width)),
    width_mm: tool.mm ?? 1,
  };
  return { kind: "add-mend", art: art.id, mend };
}

/** Why the pen's way comes to nothing. */
export function whyNot({ gives, film, knots }: Mending, closed: boolean): { detail: string; remedy: string } {
  if (gives !== "opening" && film === null)
    return { detail: "No film is chosen for it.", remedy: "Choose a film in the panel; what is drawn stays." };
  if (closed && canClose(knots))
    return {
      detail: "No region lies inside what was drawn.",
      remedy: "Draw round all of a region, or give it a film.",
    };
  return { detail: "This goes round nothing yet.", remedy: "Put down one more point." };
}

/** The step that leads an edge through another point, between the nodes on both sides. */
export function nodeMend(art: Art, node: EdgeNode, to: Point, form: NodeForm, width: number): Mend {
  const own = (mm: Point) => shares(art, mm, width);
  const { film, before, at, after } = node;
  const ends = { before: own(before), at: own(at), after: own(after), to: own(to) };
  return { id: "new", on: true, kind: "put-node", film, ...ends, form };
}

/** The step that takes a node out: the edge is straight between those beside it. */
export function withoutNode(art: Art, node: EdgeNode, width: number): Mend {
  const own = (mm: Point) => shares(art, mm, width);
  const [start, end, through] = [own(node.before), own(node.after), own(node.at)];
  return { id: "new", on: true, kind: "straighten", film: node.film, start, end, through };
}
