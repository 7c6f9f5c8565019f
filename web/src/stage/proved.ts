import type { FoundPlace } from "@/api/client";
import { showArea, showLength, type Unit } from "@/geometry/lengths";
import { type Point, toPixel, type View } from "@/geometry/transform";
import { type AnyFinding, isSamePlace, type Slipped } from "@/state/proof";
import { FAIL, INK, strokeCased } from "./lines";
import type { Look } from "./look";
import { ringOf } from "./overlay";
import { type Context, inMillimetres, strokeRing } from "./paint";

const FONT = '600 13px "Source Sans 3 Variable", sans-serif';
const ARROW_PX = 22;
const WASTE = "#1f5f8f";
/** Films under a measure are pale, so that it is seen on any of them. */
const PALE = 0.28;

/** Two arrows that point at each other across what is too narrow, with its width: as on a drawing. */
export function paintMeasure(
  context: Context,
  findings: readonly AnyFinding[],
  shown: FoundPlace,
  view: View,
  ratio: number,
  unit: Unit,
): void {
  const found = findings.find(({ place, measure }) => measure && isSamePlace(place, shown));
  const across = shown.across;
  if (!found?.measure || !across) return;
  const a = toPixel(view, { x: across.start.x_mm, y: across.start.y_mm });
  const b = toPixel(view, { x: across.end.x_mm, y: across.end.y_mm });
  const far = Math.hypot(b.x - a.x, b.y - a.y);
  const way = far > 1e-6 ? { x: (b.x - a.x) / far, y: (b.y - a.y) / far } : { x: 1, y: 0 };
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  const lines = new Path2D();
  for (const [tip, sign] of [
    [a, -1],
    [b, 1],
  ] as const) {
    const tail = { x: tip.x + sign * ARROW_PX * way.x, y: tip.y + sign * ARROW_PX * way.y };
    lines.moveTo(tail.x, tail.y);
    lines.lineTo(tip.x, tip.y);
    for (const side of [-1, 1]) {
      lines.moveTo(tip.x, tip.y);
      lines.lineTo(tip.x + sign * 7 * way.x - side * 4 * way.y, tip.y + sign * 7 * way.y + side * 4 * way.x);
    }
  }
  strokeCased(context, { colour: FAIL, width: 1.8, edge: 1.4 }, lines);
  const text = found.measure.unit === "mm" ? showLength(found.measure.figure, unit, unit === "mm" ? 2 : 4) : "";
  if (text) said(context, text, { x: b.x + (ARROW_PX + 8) * way.x, y: b.y + (ARROW_PX + 8) * way.y }, way.x >= 0);
  context.restore();
}

const DOT_PX = { stop: 4.5, mind: 3.5, note: 0 } as const;

/** A dot at every place that is told of, fuller where it will fail; the one that is shown has its ring. */
export function paintProof(
  context: Context,
  findings: readonly AnyFinding[],
  shown: FoundPlace | null,
  view: View,
  ratio: number,
): void {
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  for (const { place, severity } of findings) {
    const at = place?.at;
    if (!at || isSamePlace(place, shown) || severity === "note") continue;
    const { x, y } = toPixel(view, { x: at.x_mm, y: at.y_mm });
    const dot = new Path2D();
    dot.arc(x, y, DOT_PX[severity], 0, 2 * Math.PI);
    strokeCased(context, { colour: FAIL, width: 1.4, edge: 1 }, dot);
    context.fillStyle = severity === "stop" ? FAIL : "#ffffff";
    context.fill(dot);
  }
  if (shown) strokeRing(context, ringOf(shown, true, view), true);
  context.restore();
}

function said(context: Context, text: string, at: Point, onward: boolean): void {
  context.font = FONT;
  context.textAlign = onward ? "left" : "right";
  context.textBaseline = "middle";
  context.lineJoin = "round";
  context.lineWidth = 4;
  context.strokeStyle = "#ffffff";
  context.strokeText(text, at.x, at.y);
  context.fillStyle = FAIL;
  context.fillText(text, at.x, at.y);
}

/** What a film in hand bares glows, with its area. */
export function paintBared(context: Context, slipped: Slipped, view: View, ratio: number, unit: Unit): void {
  if (!slipped.path) return;
  const path = new Path2D(slipped.path);
  inMillimetres(context, view, ratio, () => {
    context.shadowColor = "#ff3b1f";
    context.shadowBlur = 14 * ratio;
    context.fillStyle = "#ff5a3c";
    context.fill(path, "evenodd");
    context.shadowColor = "transparent";
    strokeCased(context, { colour: FAIL, width: 1.2, edge: 0.6, px: 1 / view.scale }, path);
  });
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  said(context, `${showArea(slipped.area_mm2, unit)} shows through`, { x: 40, y: 40 }, true);
  context.restore();
}

/** How a width is toned: below the limit as what will fail, up to twice of it fading away. */
export function toneOf(mm: number, limit: number, waste: boolean): { colour: string; alpha: number } {
  const near = Math.min(1, Math.max(0, 2 - mm / Math.max(1e-9, limit)));
  return { colour: waste ? WASTE : FAIL, alpha: mm < limit ? 0.95 : 0.55 * near };
}

/** Films pale, and on them every stretch of film and of waste that is narrow, as wide as it is. */
export function paintNarrow(context: Context, look: Look, view: View, ratio: number): void {
  inMillimetres(context, view, ratio, () => {
    for (const film of look.scene.films) {
      context.globalAlpha = PALE;
      context.fillStyle = film.colour;
      context.fill(film.path, "evenodd");
      context.globalAlpha = 0.6;
      context.lineWidth = 0.6 / view.scale;
      context.strokeStyle = INK;
      context.stroke(film.path);
    }
    const seen = new Set(look.scene.films.map((film) => film.key));
    context.lineCap = "round";
    for (const film of look.widths) {
      if (!seen.has(film.film)) continue;
      for (const { points, waste } of film.narrow) {
        const limit = waste ? film.least_waste_mm : film.least_part_mm;
        for (let k = 3; k < points.length; k += 3) {
          const [u = 0, v = 0, , x = 0, y = 0, mm = 0] = points.slice(k - 3, k + 3);
          const { colour, alpha } = toneOf(mm, limit, waste);
          context.globalAlpha = alpha;
          context.strokeStyle = colour;
          context.lineWidth = Math.max(mm, 2.5 / view.scale);
          context.beginPath();
          context.moveTo(u, v);
          context.lineTo(x, y);
          context.stroke();
        }
      }
    }
    context.globalAlpha = 1;
  });
}

const TONES = ["#e9e4d6", "#c9b896", "#a8865a", "#7f5233", "#55291b", "#2c110c"];

/** Where one, two, three ... films lie on one another: the more, the darker; and the figure in each. */
export function paintThickness(context: Context, look: Look, view: View, ratio: number): void {
  inMillimetres(context, view, ratio, () => {
    context.fillStyle = TONES[0] ?? INK;
    for (const film of look.scene.films) context.fill(film.path, "evenodd");
    for (const level of look.levels) {
      if (level.films < 2) continue;
      context.fillStyle = TONES[Math.min(level.films, TONES.length) - 1] ?? INK;
      context.fill(new Path2D(level.path), "evenodd");
    }
    for (const film of look.scene.films) {
      context.lineWidth = 0.6 / view.scale;
      context.strokeStyle = "rgba(30, 26, 16, 0.35)";
      context.stroke(film.path);
    }
  });
}

/** The narrow place at a point (mm), if there is one within reach: how wide it is, and the limit. */
export function narrowAt(
  look: Pick<Look, "widths">,
  at: Point,
  reach: number,
): { mm: number; limit: number; waste: boolean; film: string } | null {
  let best: { mm: number; limit: number; waste: boolean; film: string } | null = null;
  let nearest = Number.POSITIVE_INFINITY;
  for (const { film, narrow, least_part_mm, least_waste_mm } of look.widths) {
    for (const { points, waste } of narrow) {
      for (let k = 0; k < points.length; k += 3) {
        const [x = 0, y = 0, mm = 0] = points.slice(k, k + 3);
        const far = Math.hypot(x - at.x, y - at.y);
        if (far < nearest && far <= Math.max(reach, mm / 2)) {
          nearest = far;
          best = { mm, limit: waste ? least_waste_mm : least_part_mm, waste, film };
        }
      }
    }
  }
  return best;
}
