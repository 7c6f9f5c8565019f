/** A place on a picture, as shares of its sides. */
export interface Corner {
  readonly x: number;
  readonly y: number;
}

/** Where the handles lie before any was moved: a little within the picture, to be seen. */
export const START: readonly Corner[] = [
  { x: 0.05, y: 0.05 },
  { x: 0.95, y: 0.05 },
  { x: 0.95, y: 0.95 },
  { x: 0.05, y: 0.95 },
];

const STEP = { fine: 0.002, wide: 0.02 };

/** The corners with one of them elsewhere, but never outside the picture. */
export function moved(corners: readonly Corner[], which: number, to: Corner): Corner[] {
  const within = (share: number) => Math.min(1, Math.max(0, share));
  return corners.map((one, k) => (k === which ? { x: within(to.x), y: within(to.y) } : one));
}

/** How far an arrow key moves a corner, as shares of the sides; null for other keys. */
export function reaches(key: string, wide: boolean): Corner | null {
  const step = wide ? STEP.wide : STEP.fine;
  const ways: Record<string, Corner> = {
    ArrowLeft: { x: -step, y: 0 },
    ArrowRight: { x: step, y: 0 },
    ArrowUp: { x: 0, y: -step },
    ArrowDown: { x: 0, y: step },
  };
  return ways[key] ?? null;
}
