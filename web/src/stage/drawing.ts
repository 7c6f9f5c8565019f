import type { Box, Point, View } from "@/geometry/transform";
import type { Mode } from "@/state/mode";
import { arrival, type Knot, stretches } from "@/state/pen";
import type { Grip, HeldNode } from "./grip";
import { paintGuides } from "./guides";
import type { Guide } from "./handling";
import { CHOSEN, strokeCased } from "./lines";
import type { Context } from "./paint";

/** What the pen has drawn and is about to, or the node that is being led elsewhere; mm of the stack. */
export interface Drawing {
  readonly knots: readonly Knot[];
  /** The knot in hand, or where the next would come; null for none. */
  readonly next: Knot | null;
  readonly closes: boolean;
  readonly led: HeldNode | null;
  readonly guides: readonly Guide[];
}

const NO_GUIDES: readonly Guide[] = [];

/** What a hand draws with the pen, or leads a node by; `at` is where it points. Null where it does neither. */
export function drawingOf(mode: Mode, grip: Grip, at: Point | null): Drawing | null {
  if (mode.kind !== "mending") return null;
  if (grip.holds === "node" && grip.to) return { knots: [], next: null, closes: false, led: grip, guides: grip.guides };
  if (mode.step !== "draw-area") return null;
  const held = grip.holds === "knot" ? grip : null;
  const next = held ? held.knot : at && mode.knots.length > 0 ? { at, handle: at } : null;
  return { knots: mode.knots, next, closes: held?.closes ?? false, led: null, guides: held?.guides ?? NO_GUIDES };
}

/** Draws it over the stage. */
export function paintDrawing(context: Context, drawing: Drawing, box: Box, view: View, ratio: number): void {
  const px = 1 / view.scale;
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  context.lineJoin = "round";
  paintGuides(context, drawing.guides, box, px);
  if (drawing.led) paintLed(context, drawing.led, px);
  else paintWay(context, drawing, px);
  context.restore();
}

function paintLed(context: Context, { node, to }: HeldNode, px: number): void {
  if (!to) return;
  context.beginPath();
  context.moveTo(node.before.x, node.before.y);
  context.lineTo(to.x, to.y);
  context.lineTo(node.after.x, node.after.y);
  strokeCased(context, { colour: CHOSEN, width: 1.7, px });
  dot(context, to, 4.5 * px, px);
}

function paintWay(context: Context, { knots, next, closes }: Drawing, px: number): void {
  const way = next && !closes ? [...knots, next] : knots;
  context.beginPath();
  for (const [from, to] of stretches(way, closes)) {
    const [b, c] = [from.handle, arrival(to)];
    context.moveTo(from.at.x, from.at.y);
    context.bezierCurveTo(b.x, b.y, c.x, c.y, to.at.x, to.at.y);
  }
  strokeCased(context, { colour: CHOSEN, width: 1.7, px });
  for (const knot of way) {
    const back = arrival(knot);
    if (knot.handle.x === knot.at.x && knot.handle.y === knot.at.y) continue;
    context.beginPath();
    context.moveTo(back.x, back.y);
    context.lineTo(knot.handle.x, knot.handle.y);
    strokeCased(context, { colour: CHOSEN, width: 0.8, px });
    for (const end of [back, knot.handle]) dot(context, end, 2.5 * px, px);
  }
  way.forEach(({ at }, k) => {
    dot(context, at, (k === 0 ? 5 : 3.5) * px, px);
  });
}

function dot(context: Context, at: Point, radius: number, px: number): void {
  context.beginPath();
  context.arc(at.x, at.y, radius, 0, 2 * Math.PI);
  context.fillStyle = "#ffffff";
  context.fill();
  context.lineWidth = 1.4 * px;
  context.strokeStyle = CHOSEN;
  context.stroke();
}
