import type { Built } from "@/api/client";
import { type Point, toPixel, type View } from "@/geometry/transform";
import type { Ringed } from "@/state/view";
import { CHOSEN, strokeCased } from "./lines";
import { type Context, strokeRing } from "./paint";

type Shape = Built["layers"][number]["shape"];

/** The pieces or gaps of a film that are ringed: where each is, for gaps both ends, and the one that is looked at. */
export interface Rings {
  readonly at: readonly Point[];
  readonly gaps: readonly (readonly [Point, Point])[];
  readonly current: number | null;
}

/** The pieces of a film below an area, the smallest first. */
export function smallOf(shape: Shape, limit: number): Shape["small"] {
  return shape.small.filter((bit) => bit.area_mm2 < limit);
}

/** The gaps of a film up to a width, the narrowest first. */
export function gapsOf(shape: Shape, limit: number): Shape["gaps"] {
  return shape.gaps.filter((gap) => gap.mm <= limit + 1e-9);
}

/** What is to be ringed of a build. */
export function ringedIn(built: Built, pieces: Ringed | null): Rings | null {
  const shape = built.layers.find((layer) => layer.film === pieces?.film)?.shape;
  if (!pieces || !shape) return null;
  if (pieces.of === "small") {
    const at = smallOf(shape, pieces.limit).map((bit) => ({ x: bit.x_mm, y: bit.y_mm }));
    return { at, gaps: [], current: pieces.at };
  }
  const gaps = gapsOf(shape, pieces.limit).map(
    (gap) =>
      [
        { x: gap.x1_mm, y: gap.y1_mm },
        { x: gap.x2_mm, y: gap.y2_mm },
      ] as const,
  );
  const at = gaps.map(([a, b]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }));
  return { at, gaps, current: pieces.at };
}

/** A ring round every small piece or gap; the one that is looked at stands out, a gap with the way across it. */
export function paintRings(context: Context, rings: Rings, view: View, ratio: number): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  rings.at.forEach((point, k) => {
    const at = toPixel(view, point);
    const strong = k === rings.current;
    const ring = new Path2D();
    ring.arc(at.x, at.y, strong ? 16 : 9, 0, 2 * Math.PI);
    const [a, b] = rings.gaps[k] ?? [];
    if (a && b) {
      const [from, to] = [toPixel(view, a), toPixel(view, b)];
      ring.moveTo(from.x, from.y);
      ring.lineTo(to.x, to.y);
    }
    strokeRing(context, ring, strong);
  });
  context.restore();
}

/** The holes of a shadow that can be filled and opened by a click: open ones outlined, filled ones hatched. */
export function paintHoles(context: Context, holes: Built["holes"], view: View, ratio: number): void {
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  for (const hole of holes) {
    const outline = new Path2D(hole.path);
    if (hole.filled) {
      context.fillStyle = "rgba(109, 52, 104, 0.35)";
      context.fill(outline, "evenodd");
    }
    context.setLineDash(hole.filled ? [] : [5 / view.scale, 3 / view.scale]);
    strokeCased(context, { colour: CHOSEN, width: 1.7, px: 1 / view.scale }, outline);
  }
  context.restore();
}
