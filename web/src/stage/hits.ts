import { type Built, isRaster, type RegionArt } from "@/api/client";
import { intoArt } from "@/geometry/place";
import type { Point } from "@/geometry/transform";
import { addressOf } from "@/state/original";
import { coreSample, type Scene } from "./scene";
import type { Original } from "./useOriginal";

const REACHES_PX = [0, 3, 6, 10];
const WAYS = 8;

/** The film that lies on top at a point (mm), or at the nearest film within a few pixels of it. */
export function topFilm(context: CanvasRenderingContext2D, scene: Scene, at: Point, pxPerMm: number): string | null {
  for (const reach of REACHES_PX) {
    for (let k = 0; k < (reach === 0 ? 1 : WAYS); k += 1) {
      const turn = (2 * Math.PI * k) / WAYS;
      const [dx, dy] = [(reach * Math.cos(turn)) / pxPerMm, (reach * Math.sin(turn)) / pxPerMm];
      const top = coreSample(context, scene, at.x + dx, at.y + dy)[0];
      if (top) return top.key;
    }
  }
  return null;
}

/** The colour of the topmost picture at a point (mm) of the stack. */
export function colourAt(
  arts: readonly RegionArt[],
  originals: ReadonlyMap<string, Original>,
  mm: Point,
): { colour: string; art: string } | null {
  for (const art of [...arts].reverse()) {
    if (!isRaster(art)) continue;
    const image = originals.get(addressOf(art));
    if (!image) continue;
    const { x, y } = intoArt(art.place, mm);
    const height = (art.width_mm * image.picture.height) / image.picture.width;
    const colour = image.colourAt(x / art.width_mm, y / height);
    if (colour) return { colour, art: art.id };
  }
  return null;
}

type Hole = Built["holes"][number];
const outlines = new WeakMap<Hole, Path2D>();

/** Whether a point (mm) lies in a hole of a shadow. */
export function inHole(context: CanvasRenderingContext2D, hole: Hole, mm: Point): boolean {
  const outline = outlines.get(hole) ?? new Path2D(hole.path);
  outlines.set(hole, outline);
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  const met = context.isPointInPath(outline, mm.x, mm.y, "evenodd");
  context.restore();
  return met;
}

/** The hole of a shadow at a point (mm), if there is one. */
export function holeAt(
  context: CanvasRenderingContext2D,
  holes: readonly Hole[],
  making: string | null,
  mm: Point,
): Hole | null {
  return holes.find((hole) => hole.making === making && inHole(context, hole, mm)) ?? null;
}
