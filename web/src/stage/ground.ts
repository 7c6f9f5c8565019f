import type { Recipe } from "@/api/client";
import { toPixel, type View } from "@/geometry/transform";
import { luminance, type Scene } from "./scene";

type Ground = NonNullable<Recipe["ground"]>;

const ROOM = 0.22;

/** What the decal is decorated on, drawn behind it: cloth, glaze, glass or boards about its size. */
export function paintGround(
  context: CanvasRenderingContext2D,
  scene: Scene,
  view: View,
  ratio: number,
  ground: Ground,
): void {
  if (ground.kind === "table") return;
  const { left, top, right, bottom } = scene.box;
  const room = ROOM * Math.max(right - left, bottom - top);
  const from = toPixel(view, { x: left - room, y: top - room });
  const to = toPixel(view, { x: right + room, y: bottom + room });
  const [w, h] = [to.x - from.x, to.y - from.y];
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.beginPath();
  context.roundRect(from.x, from.y, w, h, ground.kind === "mug" ? 22 : 6);
  context.clip();
  context.fillStyle = ground.colour;
  context.fillRect(from.x, from.y, w, h);
  const dark = luminance(ground.colour) < 128;
  if (ground.kind === "shirt") weave(context, from.x, from.y, w, h, dark);
  if (ground.kind === "mug") {
    const round = context.createLinearGradient(from.x, 0, to.x, 0);
    round.addColorStop(0, "rgba(0,0,0,0.30)");
    round.addColorStop(0.22, "rgba(255,255,255,0.28)");
    round.addColorStop(0.5, "rgba(255,255,255,0)");
    round.addColorStop(1, "rgba(0,0,0,0.34)");
    context.fillStyle = round;
    context.fillRect(from.x, from.y, w, h);
  }
  if (ground.kind === "window") {
    const sky = context.createLinearGradient(from.x, from.y, from.x + 0.4 * w, to.y);
    sky.addColorStop(0, "rgba(255,255,255,0.55)");
    sky.addColorStop(0.45, "rgba(255,255,255,0.05)");
    sky.addColorStop(0.5, "rgba(255,255,255,0.3)");
    sky.addColorStop(1, "rgba(60,90,110,0.22)");
    context.fillStyle = sky;
    context.fillRect(from.x, from.y, w, h);
  }
  if (ground.kind === "wood") boards(context, from.x, from.y, w, h);
  context.restore();
}

function weave(context: CanvasRenderingContext2D, x: number, y: number, w: number, h: number, dark: boolean): void {
  context.strokeStyle = dark ? "rgba(255,255,255,0.055)" : "rgba(0,0,0,0.05)";
  context.lineWidth = 1;
  context.beginPath();
  for (let at = -h; at < w; at += 3) {
    context.moveTo(x + at, y);
    context.lineTo(x + at + h, y + h);
  }
  context.stroke();
}

function boards(context: CanvasRenderingContext2D, x: number, y: number, w: number, h: number): void {
  const count = 5;
  for (let board = 0; board < count; board++) {
    const top = y + (board * h) / count;
    context.fillStyle = board % 2 === 0 ? "rgba(0,0,0,0.05)" : "rgba(255,255,255,0.06)";
    context.fillRect(x, top, w, h / count);
    context.strokeStyle = "rgba(60,30,10,0.12)";
    context.lineWidth = 1;
    for (let grain = 1; grain < 6; grain++) {
      const line = top + (grain * h) / count / 6;
      context.beginPath();
      context.moveTo(x, line);
      for (let at = 0; at <= w; at += 24) context.lineTo(x + at, line + 2.2 * Math.sin(at / 70 + 1.7 * grain + board));
      context.stroke();
    }
    context.strokeStyle = "rgba(40,20,5,0.35)";
    context.beginPath();
    context.moveTo(x, top);
    context.lineTo(x + w, top);
    context.stroke();
  }
}
