/** A patch where films and picture differ, as far as it is seen: its pixels, and how many it is across where it is widest. */
export interface Patch {
  readonly pixels: number;
  readonly across: number;
  /** Whether it runs on beyond what was looked at. */
  readonly more: boolean;
}

/** What is lighter than this is alike: where both agree, the lens is as light as paper. */
const ALIKE = 215;
/** Steps of a chamfer distance: 3 to a side, 4 across a corner (Borgefors 1986). */
const SIDE = 3;
const CORNER = 4;

/** A pointer means what differs no farther than this from it: most of it is lines. */
const NEAR = 4;

/** The patch of differing pixels at a pixel or next to it, in an RGBA picture; null where both are alike. */
export function patchAt(data: Uint8ClampedArray, width: number, height: number, x: number, y: number): Patch | null {
  const own = new Uint8Array(width * height);
  const differs = (k: number) => {
    const light = (data[4 * k] ?? 255) * 0.3 + (data[4 * k + 1] ?? 255) * 0.59 + (data[4 * k + 2] ?? 255) * 0.11;
    return (data[4 * k + 3] ?? 0) > 0 && light < ALIKE;
  };
  const first = nearest(x, y);
  if (first === null) return null;
  const left = [first];
  own[first] = 1;
  let pixels = 0;
  let more = false;
  for (let k = left.pop(); k !== undefined; k = left.pop()) {
    pixels += 1;
    const [column, row] = [k % width, Math.floor(k / width)];
    more ||= column === 0 || row === 0 || column === width - 1 || row === height - 1;
    if (column > 0) push(k - 1);
    if (column < width - 1) push(k + 1);
    if (row > 0) push(k - width);
    if (row < height - 1) push(k + width);
  }
  return { pixels, across: widest(own, width, height), more };

  function nearest(x: number, y: number): number | null {
    let best: { k: number; far: number } | null = null;
    for (let row = Math.max(0, y - NEAR); row <= Math.min(height - 1, y + NEAR); row += 1)
      for (let column = Math.max(0, x - NEAR); column <= Math.min(width - 1, x + NEAR); column += 1) {
        const far = Math.hypot(column - x, row - y);
        if (far <= NEAR && (!best || far < best.far) && differs(row * width + column))
          best = { k: row * width + column, far };
      }
    return best?.k ?? null;
  }

  function push(k: number): void {
    if (own[k] || !differs(k)) return;
    own[k] = 1;
    left.push(k);
  }
}

/** How many pixels the widest disc within a patch is across. */
function widest(own: Uint8Array, width: number, height: number): number {
  const far = new Int32Array(width * height);
  const at = (column: number, row: number) =>
    column < 0 || row < 0 || column >= width || row >= height ? 0 : (far[row * width + column] ?? 0);
  const stepped = (column: number, row: number, way: 1 | -1) =>
    Math.min(
      at(column - way, row) + SIDE,
      at(column, row - way) + SIDE,
      at(column - way, row - way) + CORNER,
      at(column + way, row - way) + CORNER,
    );
  let most = 0;
  for (let row = 0; row < height; row += 1)
    for (let column = 0; column < width; column += 1) {
      const k = row * width + column;
      far[k] = own[k] ? stepped(column, row, 1) : 0;
    }
  for (let row = height - 1; row >= 0; row -= 1)
    for (let column = width - 1; column >= 0; column -= 1) {
      const k = row * width + column;
      if (!own[k]) continue;
      far[k] = Math.min(far[k] ?? 0, stepped(column, row, -1));
      most = Math.max(most, far[k] ?? 0);
    }
  // A line of one pixel is one across; each further layer all round adds two.
  return Math.max(1, (2 * most) / SIDE - 1);
}
