import type { View } from "@/geometry/transform";
import { type Film, luminance, type Scene } from "./scene";

type Context = CanvasRenderingContext2D;

/** Fills a film so that it looks like what it is made of. The context is in millimetres; `pictures` are by hash. */
export function fillFilm(
  context: Context,
  film: Film,
  scene: Scene,
  view: View,
  pictures: ReadonlyMap<string, CanvasImageSource & { width: number; height: number }>,
): void {
  context.fillStyle = film.colour;
  context.fill(film.path, "evenodd");
  const { finish } = film;
  if (finish.kind === "matte") return;
  context.save();
  context.clip(film.path, "evenodd");
  const { left, top, right, bottom } = scene.box;
  const light = luminance(film.colour) > 150;
  const cover = () => context.fillRect(left - 50, top - 50, right - left + 100, bottom - top + 100);
  if (finish.kind === "gloss") {
    const sheen = context.createLinearGradient(left, top, left + 0.55 * (right - left), bottom);
    sheen.addColorStop(0, "rgba(255,255,255,0.34)");
    sheen.addColorStop(0.42, "rgba(255,255,255,0.06)");
    sheen.addColorStop(0.46, "rgba(255,255,255,0.26)");
    sheen.addColorStop(0.62, "rgba(255,255,255,0)");
    context.fillStyle = sheen;
    cover();
  } else if (finish.kind === "metallic" || finish.kind === "foil") {
    const bands = finish.kind === "foil" ? 7 : 3;
    const sheen = context.createLinearGradient(left, top, right, bottom);
    for (let k = 0; k <= 2 * bands; k++) {
      const bright = k % 2 === 0;
      const strength = finish.kind === "foil" ? 0.5 : 0.3;
      sheen.addColorStop(
        k / (2 * bands),
        bright ? `rgba(255,255,255,${strength})` : `rgba(0,0,0,${light ? 0.16 : 0.3})`,
      );
    }
    context.fillStyle = sheen;
    cover();
  } else if (finish.kind === "glitter" || finish.kind === "flock") {
    const tile = speckled(finish.kind, light);
    const pattern = context.createPattern(tile, "repeat");
    if (pattern) {
      pattern.setTransform(new DOMMatrix().scale((finish.kind === "glitter" ? 12 : 7) / tile.width));
      context.fillStyle = pattern;
      cover();
    }
  } else {
    const image = finish.pattern === "picture" ? pictures.get(`/api/pictures/${finish.picture ?? ""}`) : undefined;
    const tile = image ?? drawnTile(finish.pattern, film.colour, finish.second);
    const pattern = context.createPattern(tile, "repeat");
    if (pattern) {
      const scale = finish.scale_mm / tile.width;
      pattern.setTransform(
        new DOMMatrix().translate(left + finish.shift_x_mm, top + finish.shift_y_mm).scale(scale, scale),
      );
      context.fillStyle = pattern;
      context.imageSmoothingEnabled = view.scale * scale < 4;
      cover();
    }
  }
  context.restore();
}

const tiles = new Map<string, OffscreenCanvas>();

function tile(key: string, size: number, draw: (context: OffscreenCanvasRenderingContext2D) => void): OffscreenCanvas {
  const known = tiles.get(key);
  if (known) return known;
  const canvas = new OffscreenCanvas(size, size);
  const context = canvas.getContext("2d");
  if (context) draw(context);
  tiles.set(key, canvas);
  return canvas;
}

/** Grains spread by a fixed sequence, so that they lie still from one drawing to the next. */
function speckled(kind: "glitter" | "flock", light: boolean): OffscreenCanvas {
  const size = 128;
  return tile(`${kind}${light}`, size, (context) => {
    let seed = 7;
    const next = () => {
      seed = (seed * 16807) % 2147483647;
      return seed / 2147483647;
    };
    const count = kind === "glitter" ? 620 : 2400;
    for (let k = 0; k < count; k++) {
      const bright = next() < (kind === "glitter" ? 0.62 : 0.5);
      const strength = kind === "glitter" ? 0.2 + 0.75 * next() : 0.05 + 0.12 * next();
      context.fillStyle = bright ? `rgba(255,255,255,${strength})` : `rgba(0,0,0,${strength * (light ? 0.5 : 0.8)})`;
      const grain = kind === "glitter" ? 1 + 2.6 * next() : 1 + next();
      context.fillRect(next() * size, next() * size, grain, kind === "flock" ? 2.5 * grain : grain);
    }
  });
}

function drawnTile(pattern: string, first: string, second: string): OffscreenCanvas {
  const size = 64;
  return tile(`${pattern}${first}${second}`, size, (context) => {
    context.fillStyle = first;
    context.fillRect(0, 0, size, size);
    context.fillStyle = second;
    if (pattern === "stripes") context.fillRect(0, 0, size / 2, size);
    else if (pattern === "checks") {
      context.fillRect(0, 0, size / 2, size / 2);
      context.fillRect(size / 2, size / 2, size / 2, size / 2);
    } else {
      context.beginPath();
      context.arc(size / 2, size / 2, size * 0.28, 0, 2 * Math.PI);
      context.fill();
    }
  });
}
