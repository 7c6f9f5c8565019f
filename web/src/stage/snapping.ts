import { around as roundAll } from "@/geometry/boxes";
import type { Box, Point } from "@/geometry/transform";
import type { EdgeNode } from "@/state/pen";
import type { Guide } from "./handling";
import { type Scene, type Segment, segmentsOf } from "./scene";

/** A point drawn to what lies near it, and the lines it then lies along. */
export interface Snapped {
  readonly at: Point;
  readonly guides: readonly Guide[];
}

const SAMPLES = 16;

/**
 * A point drawn, within `reach` mm, to a node; else to an edge; else to the middles of art and of the whole, level with
 * points put down before (`knots`), or as far from the last of them as that is from the one before.
 */
export function snapped(scene: Scene, mm: Point, knots: readonly Point[], reach: number, held?: EdgeNode): Snapped {
  const node = nearestEnd(scene, mm, reach, held?.at);
  if (node) return { at: node, guides: [] };
  // An edge that is taken along would hold its own node fast.
  const edge = held ? null : edgeAt(scene, mm, null, reach);
  if (edge) return { at: edge.at, guides: [] };
  const guides: Guide[] = [];
  const along = (axis: "x" | "y") => {
    const lines = linesOf(scene, knots, axis);
    const best = lines.reduce<number | null>(
      (found, line) => (Math.abs(line - mm[axis]) < Math.abs((found ?? Infinity) - mm[axis]) ? line : found),
      null,
    );
    if (best === null || Math.abs(best - mm[axis]) > reach) return mm[axis];
    guides.push({ axis, at: best });
    return best;
  };
  return { at: { x: along("x"), y: along("y") }, guides };
}

function linesOf(scene: Scene, knots: readonly Point[], axis: "x" | "y"): number[] {
  const middle = (box: Box) => (axis === "x" ? (box.left + box.right) / 2 : (box.top + box.bottom) / 2);
  const boxes = scene.arts.map((art) => art.box);
  const whole = boxes.length > 0 ? [middle(roundAll(boxes))] : [];
  const [last, before] = [knots.at(-1), knots.at(-2)];
  const equal = last && before ? [2 * last[axis] - before[axis]] : [];
  return [...boxes.map(middle), ...whole, ...knots.map((knot) => knot[axis]), ...equal];
}

function nearestEnd(scene: Scene, mm: Point, reach: number, but?: Point): Point | null {
  let best: Point | null = null;
  let least = reach;
  for (const film of scene.films) {
    for (const ring of segmentsOf(film)) {
      for (const { from } of ring) {
        const far = Math.hypot(from.x - mm.x, from.y - mm.y);
        const own = but && Math.hypot(from.x - but.x, from.y - but.y) < reach;
        if (far < least && !own) [best, least] = [from, far];
      }
    }
  }
  return best;
}

/** The point of an edge within `reach` mm of a point, of the topmost film that has one there or of the one that is chosen. */
export function edgeAt(scene: Scene, mm: Point, film: string | null, reach: number): EdgeNode | null {
  const films = film === null ? [...scene.films].reverse() : scene.films.filter((one) => one.key === film);
  for (const one of films) {
    let best: EdgeNode | null = null;
    let least = reach;
    for (const ring of segmentsOf(one)) {
      for (const segment of ring) {
        const { at, far } = nearestOn(segment, mm);
        if (far >= least) continue;
        least = far;
        best = { film: one.key, before: segment.from, at, after: segment.to, ring: ring.length };
      }
    }
    if (best) return best;
  }
  return null;
}

function nearestOn(segment: Segment, mm: Point): { at: Point; far: number } {
  const steps = segment.bend ? SAMPLES : 1;
  let [at, far] = [segment.from, Number.POSITIVE_INFINITY];
  let last = segment.from;
  for (let k = 1; k <= steps; k += 1) {
    const next = onSegment(segment, k / steps);
    const [dx, dy] = [next.x - last.x, next.y - last.y];
    const length = dx * dx + dy * dy;
    const t = length === 0 ? 0 : Math.min(1, Math.max(0, ((mm.x - last.x) * dx + (mm.y - last.y) * dy) / length));
    const foot = { x: last.x + t * dx, y: last.y + t * dy };
    const off = Math.hypot(foot.x - mm.x, foot.y - mm.y);
    if (off < far) [at, far] = [foot, off];
    last = next;
  }
  return { at, far };
}

function onSegment({ from, to, bend }: Segment, t: number): Point {
  const r = 1 - t;
  if (!bend) return { x: r * from.x + t * to.x, y: r * from.y + t * to.y };
  const on = (axis: "x" | "y") =>
    r ** 3 * from[axis] + 3 * r * r * t * bend[0][axis] + 3 * r * t * t * bend[1][axis] + t ** 3 * to[axis];
  return { x: on("x"), y: on("y") };
}
