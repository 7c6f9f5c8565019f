import type { PictureArt } from "@/api/client";
import { showLength, type Unit } from "@/geometry/lengths";
import type { Place } from "@/geometry/place";
import { toPixel, type View } from "@/geometry/transform";
import type { Slip } from "@/state/proof";
import { fillFilm } from "./finish";
import { paintGuides } from "./guides";
import type { Guide } from "./handling";
import { CHOSEN, FAIL, FIRM, hairOn, INK, inkOn, SOFT, strokeCased, TABLE } from "./lines";
import type { Film, Scene } from "./scene";

export type Context = CanvasRenderingContext2D;
export type Pictures = ReadonlyMap<string, ImageBitmap>;

/** Draws in millimetres of the stack. */
export function inMillimetres(context: Context, view: View, ratio: number, draw: () => void): void {
  context.save();
  context.setTransform(view.scale * ratio, 0, 0, view.scale * ratio, view.x * ratio, view.y * ratio);
  draw();
  context.restore();
}

/** The finished decal: flat films with a hairline of edge, each casting a little shade on what lies below. */
export function paintFinished(
  context: Context,
  scene: Scene,
  view: View,
  ratio: number,
  chosen: string | null,
  pictures: Pictures,
  slip: Slip | null = null,
): void {
  inMillimetres(context, view, ratio, () => {
    for (const film of scene.films) {
      context.save();
      if (slip?.film === film.key) context.translate(slip.x, slip.y);
      context.shadowColor = "rgba(40, 34, 20, 0.34)";
      context.shadowBlur = 2.5 * ratio;
      context.shadowOffsetY = 0.8 * ratio;
      context.fillStyle = film.colour;
      context.fill(film.path, "evenodd");
      context.shadowColor = "transparent";
      if (film.finish.kind !== "matte") fillFilm(context, film, scene, view, pictures);
      context.lineWidth = 0.7 / view.scale;
      context.strokeStyle = "rgba(30, 26, 16, 0.52)";
      context.stroke(film.path);
      context.restore();
    }
    const film = scene.films.find((candidate) => candidate.key === chosen);
    if (film) outlineChosen(context, film, view);
  });
}

/** Where the blade runs: every film pale, its cut line in a colour that stands out from it. */
export function paintCutLines(context: Context, scene: Scene, view: View, ratio: number, chosen: string | null): void {
  inMillimetres(context, view, ratio, () => {
    for (const film of scene.films) {
      context.globalAlpha = film.key === chosen ? 0.95 : 0.6;
      context.fillStyle = film.colour;
      context.fill(film.path, "evenodd");
      context.globalAlpha = 1;
    }
    for (const film of scene.films) {
      const own = film.key === chosen;
      const line = own ? { colour: CHOSEN, width: 1.5 } : { colour: INK, width: 0.9 };
      strokeCased(context, { ...line, edge: 0.55, px: 1 / view.scale }, film.path);
    }
  });
}

/** What pens draw, each as wide as it is. */
export function paintPens(context: Context, scene: Scene, view: View, ratio: number): void {
  if (scene.pens.length === 0) return;
  inMillimetres(context, view, ratio, () => {
    for (const pen of scene.pens) {
      context.lineWidth = Math.max(pen.mm, 1 / view.scale);
      context.strokeStyle = pen.colour;
      context.stroke(pen.path);
    }
  });
}

function outlineChosen(context: Context, film: Film, view: View): void {
  const px = 1 / view.scale;
  if (film.before) {
    context.setLineDash([5 * px, 3 * px]);
    strokeCased(context, { colour: INK, width: 1.1, edge: 0.65, px }, film.before);
    context.setLineDash([]);
  }
  strokeCased(context, { colour: CHOSEN, width: 1.8, px }, film.path);
}

const TILT = { a: 0.86, b: 0.2, c: -0.42, d: 0.42 };

/** How far apart the films stand in the exploded view, in mm of the stage. */
function lift(scene: Scene): number {
  const depth = scene.width * TILT.b + scene.height * TILT.d;
  return Math.max(0.1 * depth, Math.min(0.5 * depth, (1.5 * depth) / Math.max(1, scene.films.length)));
}

/** The extent of the exploded view in mm, for fitting it into the stage. */
export function explodedBox(scene: Scene) {
  const { width: w, height: h } = scene;
  return {
    left: TILT.c * h,
    right: TILT.a * w + 0.34 * w,
    top: -lift(scene) * Math.max(0, scene.films.length - 1),
    bottom: TILT.b * w + TILT.d * h,
  };
}

/** The films lifted off each other, bottom one lowest, each with its name. */
export function paintExploded(context: Context, scene: Scene, view: View, ratio: number, chosen: string | null): void {
  const step = lift(scene);
  scene.films.forEach((film, k) => {
    context.save();
    const s = view.scale * ratio;
    const e = view.x * ratio;
    const f = (view.y - k * step * view.scale) * ratio;
    context.setTransform(TILT.a * s, TILT.b * s, TILT.c * s, TILT.d * s, e, f);
    context.translate(-scene.box.left, -scene.box.top);
    const { left, top } = scene.box;
    context.fillStyle = film.key === chosen ? "rgba(109, 52, 104, 0.10)" : "rgba(140, 130, 105, 0.10)";
    context.fillRect(left, top, scene.width, scene.height);
    context.lineWidth = 0.8 / view.scale;
    context.strokeStyle = film.key === chosen ? CHOSEN : FIRM;
    context.strokeRect(left, top, scene.width, scene.height);
    context.fillStyle = film.colour;
    context.fill(film.path, "evenodd");
    context.strokeStyle = "rgba(30, 26, 16, 0.5)";
    context.stroke(film.path);
    context.restore();
    const corner = toPixel(view, { x: TILT.a * scene.width, y: TILT.b * scene.width - k * step });
    context.save();
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.strokeStyle = SOFT;
    context.beginPath();
    context.moveTo(corner.x + 3, corner.y);
    context.lineTo(corner.x + 22, corner.y);
    context.stroke();
    context.font = `${film.key === chosen ? 600 : 400} 14px "Source Sans 3 Variable", sans-serif`;
    context.fillStyle = INK;
    context.textBaseline = "middle";
    context.fillText(`${k + 1}  ${film.name}`, corner.x + 27, corner.y);
    context.restore();
  });
}

/** How far dimension lines lie from the decal: within the room it is fitted with. */
const AWAY_PX = 10;

/** Dimension lines above and left of the decal, as on a drawing. */
export function paintDimensions(
  context: Context,
  scene: Scene,
  view: View,
  ratio: number,
  unit: Unit,
  ground: string,
): void {
  const from = toPixel(view, { x: scene.box.left, y: scene.box.top });
  const to = toPixel(view, { x: scene.box.right, y: scene.box.bottom });
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.font = '13px "Source Sans 3 Variable", sans-serif';
  context.textAlign = "center";
  const y = Math.round(from.y - AWAY_PX) + 0.5;
  dimension(context, from.x, to.x, y, showLength(scene.width, unit), ground);
  context.translate(Math.round(from.x - AWAY_PX) + 0.5, to.y);
  context.rotate(-Math.PI / 2);
  dimension(context, 0, to.y - from.y, 0, showLength(scene.height, unit), ground);
  context.restore();
}

/** A mug or window is shaded: round lines and figures the plain colour of the ground is kept, on which they are read. */
function dimension(context: Context, a: number, b: number, y: number, text: string, ground: string): void {
  const half = context.measureText(text).width / 2 + 6;
  const middle = (a + b) / 2;
  context.beginPath();
  for (const end of [a, b]) {
    context.moveTo(end, y - 4);
    context.lineTo(end, y + 4);
  }
  if (b - a > 2 * half) {
    context.moveTo(a, y);
    context.lineTo(middle - half, y);
    context.moveTo(middle + half, y);
    context.lineTo(b, y);
  }
  const ink = inkOn(ground);
  strokeCased(context, { colour: ink, width: 1, around: ground });
  context.textBaseline = "middle";
  context.lineJoin = "round";
  context.lineWidth = 3;
  context.strokeStyle = ground;
  context.strokeText(text, middle, y);
  context.fillStyle = ink;
  context.fillText(text, middle, y);
}

/** A picture as it was brought in, laid where it lies on the stack. */
export function paintOriginal(
  context: Context,
  art: Pick<PictureArt, "place" | "width_mm">,
  view: View,
  ratio: number,
  image: ImageBitmap,
  alpha: number,
): void {
  inMillimetres(context, view, ratio, () => {
    context.globalAlpha = alpha;
    context.imageSmoothingEnabled = view.scale < 12;
    enterArt(context, art.place);
    context.drawImage(image, 0, 0, art.width_mm, (art.width_mm * image.height) / image.width);
  });
}

/** The chosen art's box, the letters chosen in it, openings that no film shows, and the lines a moved art lies along. */
export function paintHandling(
  context: Context,
  scene: Scene,
  view: View,
  ratio: number,
  chosen: readonly string[],
  letters: readonly number[],
  guides: readonly Guide[],
): void {
  inMillimetres(context, view, ratio, () => {
    const px = 1 / view.scale;
    for (const art of scene.arts) {
      const own = chosen.includes(art.id);
      if (art.openingPath) {
        context.setLineDash([4 * px, 3 * px]);
        strokeCased(context, { colour: own ? CHOSEN : INK, width: own ? 1.8 : 1, px }, art.openingPath);
        context.setLineDash([]);
      }
      if (!own) continue;
      const { left, top, right, bottom } = art.box;
      context.beginPath();
      context.rect(left, top, right - left, bottom - top);
      strokeCased(context, { colour: CHOSEN, width: 1.3, px });
      for (const letter of art.letters) {
        if (chosen.length !== 1 || !letters.includes(letter.index)) continue;
        const b = letter.box;
        context.fillStyle = "rgba(109, 52, 104, 0.22)";
        context.fillRect(b.left, b.top, b.right - b.left, b.bottom - b.top);
      }
    }
    paintGuides(context, guides, scene.box, px);
  });
}

/** A small ring on every region that waits for a film, a large one on the one that is looked at. */
export function paintWaiting(
  context: Context,
  scene: Scene,
  view: View,
  ratio: number,
  chosen: readonly string[],
  claiming: boolean,
  lookedAt: number | null,
): void {
  if (!claiming && lookedAt === null) return;
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  for (const art of scene.arts) {
    if (chosen.length > 0 && !chosen.includes(art.id)) continue;
    art.waiting.forEach((region, k) => {
      const at = toPixel(view, { x: region.x_mm, y: region.y_mm });
      context.beginPath();
      context.arc(at.x, at.y, k === lookedAt ? 13 : 4, 0, 2 * Math.PI);
      context.lineWidth = k === lookedAt ? 3 : 1.6;
      context.strokeStyle = CHOSEN;
      context.fillStyle = "rgba(255, 255, 255, 0.85)";
      context.fill();
      context.stroke();
    });
  }
  context.restore();
}

/** The evenly lit table that everything lies on. */
export function paintTable(context: Context, width: number, height: number, ratio: number): void {
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.fillStyle = TABLE;
  context.fillRect(0, 0, width, height);
}

const SAME_SHARE = 0.01;

/** Whether the pages of the art take in more than its films do. */
export function hasPage({ box, page, width, height }: Pick<Scene, "box" | "page" | "width" | "height">): boolean {
  return (
    page.right - page.left > width * (1 + SAME_SHARE) ||
    page.bottom - page.top > height * (1 + SAME_SHARE) ||
    page.left < box.left - SAME_SHARE * width ||
    page.top < box.top - SAME_SHARE * height
  );
}

/** The edge of the page that the art came on, where it is not that of the films. */
export function paintFrame(context: Context, scene: Scene, view: View, ratio: number, ground: string): void {
  if (!hasPage(scene)) return;
  const { left, top, right, bottom } = scene.page;
  inMillimetres(context, view, ratio, () => {
    const px = 1 / view.scale;
    context.setLineDash([2 * px, 4 * px]);
    context.beginPath();
    context.rect(left, top, right - left, bottom - top);
    strokeCased(context, { colour: hairOn(ground), width: 1, px, around: ground });
    context.setLineDash([]);
  });
}

/** A ring round what is told of, seen on any film; the one that is looked at stands out. */
export function strokeRing(context: Context, ring: Path2D, strong: boolean): void {
  strokeCased(
    context,
    strong ? { colour: FAIL, width: 2.5, edge: 1.8 } : { colour: FAIL, width: 1.5, edge: 1.2 },
    ring,
  );
}

/** Turns a drawing context from the stack's millimetres to an art's own. */
export function enterArt(context: Context, place: Place): void {
  context.translate(place.x_mm, place.y_mm);
  context.rotate((place.turn_deg * Math.PI) / 180);
  context.scale(place.mirrored ? -place.scale_x : place.scale_x, place.scale_y);
}
