import type { ArtBox, Box, Built, Finish } from "@/api/client";
import type { Point } from "@/geometry/transform";
import { fromTheGround } from "@/state/arts";

/** A film ready to be drawn: its path in millimetres. */
export interface Film {
  readonly key: string;
  readonly colour: string;
  readonly name: string;
  readonly finish: Finish;
  readonly path: Path2D;
  /** Its outline before it was made heavier or lighter. */
  readonly before: Path2D | null;
  /** Its outline as path data. */
  readonly outline: string;
}

export interface Scene {
  /** The extent of the films. */
  readonly box: Box;
  /** What the pages of the art take in besides. */
  readonly page: Box;
  readonly width: number;
  readonly height: number;
  /** Whether no film has any shape, so that there is nothing to be measured. */
  readonly empty: boolean;
  readonly films: readonly Film[];
  /** What a pen draws on films. */
  readonly pens: readonly { colour: string; mm: number; path: Path2D }[];
  readonly arts: readonly (ArtBox & { openingPath: Path2D | null })[];
}

type Drawn = Pick<Film, "path" | "before" | "outline">;
export const PER_MM = 1000;
const drawn = new WeakMap<object, Drawn>();

/** A layer's paths, made once for each outline that was sent: it is sent in thousandths of a millimetre. */
function drawnOf({ shape }: Built["layers"][number]): Drawn {
  const known = drawn.get(shape);
  if (known) return known;
  const made = { path: inMm(shape.path), before: shape.before ? inMm(shape.before) : null, outline: shape.path };
  drawn.set(shape, made);
  return made;
}

function inMm(text: string): Path2D {
  const path = new Path2D();
  path.addPath(new Path2D(text), new DOMMatrix([1 / PER_MM, 0, 0, 1 / PER_MM, 0, 0]));
  return path;
}

/** What the stage draws of a build; films from the ground up. */
export function sceneOf(built: Built, hidden: readonly string[] = []): Scene {
  return {
    box: built.box,
    page: built.page,
    width: built.width_mm,
    height: built.height_mm,
    empty: built.layers.length === 0,
    films: built.layers
      .filter((layer) => !hidden.includes(layer.film))
      .map((layer) => ({
        key: layer.film,
        colour: layer.colour,
        name: layer.name,
        finish: layer.finish,
        ...drawnOf(layer),
      })),
    pens: built.pens.map((pen) => ({ colour: pen.colour, mm: pen.line_mm, path: inMm(pen.path) })),
    arts: fromTheGround(built).map((art) => ({ ...art, openingPath: art.opening ? new Path2D(art.opening) : null })),
  };
}

/** A line or curve of an outline, mm; a curve has two points that bend it. */
export interface Segment {
  readonly from: Point;
  readonly to: Point;
  readonly bend: readonly [Point, Point] | null;
}

const parted = new WeakMap<Pick<Film, "outline">, Segment[][]>();

/** The lines and curves of a film's outline, ring by ring. */
export function segmentsOf(film: Pick<Film, "outline">): Segment[][] {
  const known = parted.get(film);
  if (known) return known;
  const rings: Segment[][] = [];
  let from: Point = { x: 0, y: 0 };
  let begin = from;
  for (const [, kind, text = ""] of film.outline.matchAll(/([MlcZ])([^MlcZ]*)/g)) {
    const moves = (text.match(/-?\d+/g) ?? []).map((number) => Number(number) / PER_MM);
    const points = [0, 2, 4].flatMap((k) => {
      const [dx, dy] = [moves[k], moves[k + 1]];
      return dx === undefined || dy === undefined ? [] : [{ x: from.x + dx, y: from.y + dy }];
    });
    const to = kind === "Z" ? begin : (points.at(-1) ?? from);
    if (kind === "M") {
      from = { x: moves[0] ?? 0, y: moves[1] ?? 0 };
      begin = from;
      rings.push([]);
      continue;
    }
    const [first, second] = points;
    if (from.x !== to.x || from.y !== to.y)
      rings.at(-1)?.push({ from, to, bend: kind === "c" && first && second ? [first, second] : null });
    from = to;
  }
  parted.set(film, rings);
  return rings;
}

/** The ends of all lines and curves of a film's outline, mm. */
export function nodesOf(film: Pick<Film, "outline">): Point[] {
  return segmentsOf(film).flatMap((ring) => ring.map(({ from }) => from));
}

/** A darker or lighter neighbour of a colour that stands out from it on any film. */
export function lineColour(colour: string): string {
  return luminance(colour) > 110 ? "#1b1812" : "#f4efe3";
}

/** How light a colour looks, 0 to 255. */
export function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
  return 0.299 * r + 0.587 * g + 0.114 * b;
}

/** The films under a point (mm), from the top down. */
export function coreSample(context: CanvasRenderingContext2D, scene: Scene, x: number, y: number): Film[] {
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  const met = scene.films.filter((film) => context.isPointInPath(film.path, x, y, "evenodd"));
  context.restore();
  return met.reverse();
}
