import { isRaster } from "@/api/client";
import { type Point, toPixel, type View } from "@/geometry/transform";
import { addressOf } from "@/state/original";
import { patchAt } from "./differing";
import type { Look } from "./look";
import { type Context, enterArt, inMillimetres } from "./paint";
import { faded } from "./reference";

/**
 * The films held against the pictures they came from: white where both are alike, the darker the more they differ.
 *
 * What was dropped as background counts as it was in the picture, for nothing of it is missed.
 */
export function paintDifferences(
  context: Context,
  look: Look,
  view: View,
  ratio: number,
  wanted: (on: Context) => void,
): void {
  faded(context, 1, (on) => {
    wanted(on);
    on.globalCompositeOperation = "difference";
    faded(on, 1, (got) => paintGot(got, look, view, ratio));
    // Turned round, so that what is alike is as light as paper.
    faded(on, 1, (page) => onPages(page, look, view, ratio, () => "#ffffff"));
    on.globalCompositeOperation = "destination-in";
    faded(on, 1, (page) => onPages(page, look, view, ratio, () => "#ffffff"));
  });
}

function paintGot(context: Context, look: Look, view: View, ratio: number): void {
  onPages(context, look, view, ratio, (art) => look.behind.get(art) ?? null);
  inMillimetres(context, view, ratio, () => {
    for (const film of look.scene.films) {
      context.fillStyle = film.colour;
      context.fill(film.path, "evenodd");
    }
  });
}

/** How films and picture differ at a place: the area that hangs together there and how wide it is, as far as is looked at. */
export interface Difference {
  readonly mm2: number;
  readonly mm: number;
  readonly more: boolean;
}

/** How far round the pointer it is looked, in pixels of the screen. */
const AROUND_PX = 120;

let kept: Context | null = null;

/** A canvas to read pixels off: reading the painted one again and again would slow it. */
function reading(): Context | null {
  kept ??= document.createElement("canvas").getContext("2d", { willReadFrequently: true });
  return kept;
}

/** The difference at a point of the stack, read off what the lens has painted; null where both are alike. */
export function differenceAt(painted: HTMLCanvasElement | null, view: View, mm: Point): Difference | null {
  const context = reading();
  if (!painted || !context) return null;
  const ratio = window.devicePixelRatio || 1;
  const at = toPixel(view, mm);
  const [x, y, reach] = [at.x, at.y, AROUND_PX].map((length) => Math.round(length * ratio)) as [number, number, number];
  const [left, top] = [Math.max(0, x - reach), Math.max(0, y - reach)];
  const width = Math.min(painted.width, x + reach + 1) - left;
  const height = Math.min(painted.height, y + reach + 1) - top;
  if (x < left || y < top || x - left >= width || y - top >= height) return null;
  context.canvas.width = width;
  context.canvas.height = height;
  context.drawImage(painted, left, top, width, height, 0, 0, width, height);
  const patch = patchAt(context.getImageData(0, 0, width, height).data, width, height, x - left, y - top);
  const pixel = 1 / (view.scale * ratio);
  return patch && { mm2: patch.pixels * pixel * pixel, mm: patch.across * pixel, more: patch.more };
}

/** Fills the page of every picture. */
function onPages(
  context: Context,
  look: Look,
  view: View,
  ratio: number,
  colour: (art: string) => string | null,
): void {
  for (const art of look.sources) {
    if (!isRaster(art)) continue;
    const image = look.pictures.get(addressOf(art));
    const fill = colour(art.id);
    if (!image || !fill) continue;
    inMillimetres(context, view, ratio, () => {
      enterArt(context, art.place);
      context.fillStyle = fill;
      context.fillRect(0, 0, art.width_mm, (art.width_mm * image.height) / image.width);
    });
  }
}
