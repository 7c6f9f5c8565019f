import type { Box, Point } from "@/geometry/transform";
import { INK, SOFT, strokeCased, TABLE } from "./lines";
import type { Context } from "./paint";

/** Draws only within a box of the stage, in pixels. */
export function onlyIn(context: Context, ratio: number, box: Box, draw: () => void): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.beginPath();
  context.rect(box.left, box.top, box.right - box.left, box.bottom - box.top);
  context.clip();
  draw();
  context.restore();
}

/** Draws through a layer of its own, which is then laid on with `alpha`. */
export function faded(context: Context, alpha: number, draw: (on: Context) => void): void {
  const { width, height } = context.canvas;
  const sheet = new OffscreenCanvas(width, height);
  const own = sheet.getContext("2d") as unknown as Context | null;
  if (!own) return;
  draw(own);
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = alpha;
  context.drawImage(sheet, 0, 0);
  context.restore();
}

/** The line between the original and the result beside it, and which is which. */
export function paintDivide(context: Context, x: number, height: number, ratio: number): void {
  const below = 96;
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.fillStyle = SOFT;
  context.fillRect(x - 0.5, 0, 1, height);
  context.font = '13px "Source Sans 3 Variable", sans-serif';
  context.fillStyle = SOFT;
  context.textAlign = "right";
  context.fillText("original", x - 10, below);
  context.textAlign = "left";
  context.fillText("result", x + 10, below);
  context.restore();
}

const LOUPE_PX = 92;

/** A round glass at the pointer: the original in its left half, the result in its right. */
export function paintLoupe(context: Context, at: Point, ratio: number, original: () => void, result: () => void): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.beginPath();
  context.arc(at.x, at.y, LOUPE_PX, 0, 2 * Math.PI);
  context.fillStyle = TABLE;
  context.fill();
  context.clip();
  const { x, y } = at;
  onlyIn(context, ratio, { left: x - LOUPE_PX, top: y - LOUPE_PX, right: x, bottom: y + LOUPE_PX }, original);
  onlyIn(context, ratio, { left: x, top: y - LOUPE_PX, right: x + LOUPE_PX, bottom: y + LOUPE_PX }, result);
  context.restore();
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.beginPath();
  context.arc(x, y, LOUPE_PX, 0, 2 * Math.PI);
  strokeCased(context, { colour: INK, width: 2, edge: 1 });
  context.beginPath();
  context.moveTo(x, y - LOUPE_PX);
  context.lineTo(x, y + LOUPE_PX);
  strokeCased(context, { colour: INK, width: 1 });
  context.restore();
}
