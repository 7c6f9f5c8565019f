import type { FoundPlace, RegionArt } from "@/api/client";
import { type Point, toPixel, type View } from "@/geometry/transform";
import { around, type Trail } from "@/state/gesture";
import type { AnyFinding } from "@/state/proof";
import type { Area, Areas } from "@/state/regions";
import type { Doing } from "./doing";
import { CHOSEN, strokeCased } from "./lines";
import { type Context, enterArt, strokeRing } from "./paint";
import { nodesOf, type Scene } from "./scene";

export function paintDoing(context: Context, view: View, ratio: number, doing: Doing): void {
  const { art, areas, mode, trail } = doing;
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  enterArt(context, art.place);
  const px = 1 / (view.scale * Math.max(1e-6, Math.abs(art.place.scale_x)));
  for (const index of doing.pending) {
    const area = areas?.all[index];
    if (area && doing.colour) fill(context, area, doing.colour, 1);
  }
  for (const index of doing.hovered) {
    const area = areas?.all[index];
    if (!area) continue;
    fill(context, area, doing.colour ?? "#ffffff", 0.55);
    strokeCased(context, { colour: CHOSEN, width: 1.8, px }, area.shape);
  }
  if (trail && trail.points.length > 0) paintTrail(context, mode, trail, px);
  context.restore();
}

function fill(context: Context, area: Area, colour: string, alpha: number): void {
  context.globalAlpha = alpha;
  context.fillStyle = colour;
  context.fill(area.shape, "evenodd");
  context.globalAlpha = 1;
}

function paintTrail(context: Context, mode: Doing["mode"], trail: Trail, px: number): void {
  const areal = mode.kind === "claiming" ? mode.by !== "touch" : mode.step === "cut-away" || mode.step === "take-over";
  if (mode.kind === "claiming" && mode.by === "touch") return;
  const brush = mode.kind === "mending" && mode.step === "brush";
  const freehand = mode.kind === "mending" && mode.step === "draw-edge";
  const by = mode.by === "touch" ? "lasso" : mode.by;
  const whole = areal ? around(trail.points, by) : brush || freehand ? trail.points : ends(trail);
  const [first] = whole;
  if (!first) return;
  context.beginPath();
  context.moveTo(first.x, first.y);
  for (const point of whole.slice(1)) context.lineTo(point.x, point.y);
  if (areal) context.closePath();
  context.lineJoin = "round";
  context.lineCap = "round";
  if (brush) {
    if (whole.length === 1) context.lineTo(first.x + 1e-3, first.y);
    context.globalAlpha = 0.55;
    context.lineWidth = mode.mm ?? 1;
    context.strokeStyle = CHOSEN;
    context.stroke();
    context.globalAlpha = 1;
    return;
  }
  if (areal) {
    context.fillStyle = "rgba(109, 52, 104, 0.14)";
    context.fill();
  }
  context.setLineDash(areal ? [6 * px, 4 * px] : []);
  strokeCased(context, { colour: CHOSEN, width: 1.7, px });
  context.setLineDash([]);
  if (areal) return;
  for (const point of ends(trail)) {
    context.beginPath();
    context.arc(point.x, point.y, 5 * px, 0, 2 * Math.PI);
    context.fillStyle = "#ffffff";
    context.fill();
    context.stroke();
  }
}

function ends(trail: Trail) {
  const [first, last] = [trail.points[0], trail.points.at(-1)];
  return first && last ? [first, last] : [];
}

/** A vector file as it was brought in, by the colours of its regions. */
export function paintSource(
  context: Context,
  art: RegionArt,
  areas: Areas,
  view: View,
  ratio: number,
  alpha: number,
): void {
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  enterArt(context, art.place);
  for (const area of areas.all) if (area.colour) fill(context, area, area.colour, alpha);
  context.restore();
}

/** A small square at every node: where the blade turns, or one curve ends and the next begins. */
export function paintNodes(context: Context, scene: Scene, view: View, ratio: number): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  const half = view.scale > 6 ? 2.4 : 1.6;
  for (const film of scene.films) {
    context.fillStyle = "#ffffff";
    context.strokeStyle = "#1b1812";
    context.lineWidth = 1;
    for (const node of nodesOf(film)) {
      const at = toPixel(view, node);
      if (at.x < -9 || at.y < -9 || at.x > context.canvas.width || at.y > context.canvas.height) continue;
      context.fillRect(at.x - half, at.y - half, 2 * half, 2 * half);
      context.strokeRect(at.x - half, at.y - half, 2 * half, 2 * half);
    }
  }
  context.restore();
}

/** Stands out from paper and from ink. */
const EDGE = "#c0267a";

/** Only the traced edges, in a colour that stands out from paper and ink. */
export function paintEdges(context: Context, scene: Scene, view: View, ratio: number): void {
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  for (const film of scene.films) {
    strokeCased(context, { colour: EDGE, width: 1.5, px: 1 / view.scale }, film.path);
  }
  context.restore();
}

/** Where a finding is, for bringing it into sight. */
export function middleOf(place: FoundPlace): Point | null {
  if (place.at) return { x: place.at.x_mm, y: place.at.y_mm };
  return place.box && { x: (place.box.left + place.box.right) / 2, y: (place.box.top + place.box.bottom) / 2 };
}

/** Rings round what is told of the design; the one that is shown stands out. */
export function paintFindings(
  context: Context,
  findings: readonly AnyFinding[],
  shown: FoundPlace | null,
  view: View,
  ratio: number,
): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  for (const { place, severity } of findings) {
    if (!place || (severity === "note" && place !== shown)) continue;
    strokeRing(context, ringOf(place, place === shown, view), place === shown);
  }
  context.restore();
}

/** The ring round a place: its outlines, a circle, or, of what is shown, a box. */
export function ringOf(place: FoundPlace, strong: boolean, view: View): Path2D {
  const ring = new Path2D();
  if (place.outline)
    ring.addPath(new Path2D(place.outline), new DOMMatrix([view.scale, 0, 0, view.scale, view.x, view.y]));
  else if (place.at) {
    const at = toPixel(view, { x: place.at.x_mm, y: place.at.y_mm });
    ring.arc(at.x, at.y, strong ? 16 : 10, 0, 2 * Math.PI);
  } else if (place.box && strong) {
    const from = toPixel(view, { x: place.box.left, y: place.box.top });
    const to = toPixel(view, { x: place.box.right, y: place.box.bottom });
    ring.roundRect(from.x - 6, from.y - 6, to.x - from.x + 12, to.y - from.y + 12, 8);
  }
  return ring;
}
