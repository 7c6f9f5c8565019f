import { contrast } from "@/geometry/contrast";

export const INK = "#25231e";
export const SOFT = "#625d52";
export const FIRM = "#827c6e";
export const CHOSEN = "#6d3468";
export const FAIL = "#a8321a";
export const TABLE = "#fbfaf7";
/** What lies round a line that must be seen on any film and any ground. */
export const CASE = "#ffffff";

interface Line {
  readonly colour: string;
  /** Pixels. */
  readonly width: number;
  /** How much of its case is seen on either side, pixels. */
  readonly edge?: number;
  /** A pixel in the units that are drawn in. */
  readonly px?: number;
  /** The colour of its case. */
  readonly around?: string;
}

/** Strokes a path, or what was begun last, in a colour within a case: white, it is seen on any film. */
export function strokeCased(context: CanvasRenderingContext2D, line: Line, path?: Path2D): void {
  const { colour, width, edge = 0.8, px = 1, around = CASE } = line;
  for (const [wide, paint] of [
    [width + 2 * edge, around],
    [width, colour],
  ] as const) {
    context.lineWidth = wide * px;
    context.strokeStyle = paint;
    if (path) context.stroke(path);
    else context.stroke();
  }
}

const READ = 4.5;
const SEEN = 3;

/** The ink of thin lines and figures on a ground: the quietest that is read on it. */
export function inkOn(ground: string): string {
  return [SOFT, INK, TABLE, "#000000"].find((ink) => contrast(ink, ground) >= READ) ?? "#ffffff";
}

/** Quieter still, for lines that nothing is read from: seen on a ground, no more. */
export function hairOn(ground: string): string {
  return contrast(FIRM, ground) >= SEEN ? FIRM : inkOn(ground);
}
