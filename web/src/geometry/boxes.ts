import type { Box } from "./transform";

export type Side = "left" | "centre" | "right" | "top" | "middle" | "bottom";

export const ZERO: Box = { left: 0, top: 0, right: 0, bottom: 0 };

/** How far each box has to move so that one side of all lies as in the box around them. */
export function alignment(boxes: readonly Box[], side: Side): { x: number; y: number }[] {
  const whole = around(boxes);
  const at: Record<Side, (b: Box) => number> = {
    left: (b) => b.left,
    centre: (b) => (b.left + b.right) / 2,
    right: (b) => b.right,
    top: (b) => b.top,
    middle: (b) => (b.top + b.bottom) / 2,
    bottom: (b) => b.bottom,
  };
  const across = side === "left" || side === "centre" || side === "right";
  return boxes.map((box) => {
    const by = at[side](whole) - at[side](box);
    return across ? { x: by, y: 0 } : { x: 0, y: by };
  });
}

/** How far each box has to move so that the gaps between them are equal; the outermost two stay. */
export function spread(boxes: readonly Box[], axis: "x" | "y"): { x: number; y: number }[] {
  const [low, high] = axis === "x" ? (["left", "right"] as const) : (["top", "bottom"] as const);
  const order = boxes.map((_, k) => k).sort((a, b) => (boxes[a]?.[low] ?? 0) - (boxes[b]?.[low] ?? 0));
  const first = boxes[order[0] ?? 0] ?? ZERO;
  const last = boxes[order[order.length - 1] ?? 0] ?? ZERO;
  const taken = boxes.reduce((sum, box) => sum + box[high] - box[low], 0);
  const gap = (last[high] - first[low] - taken) / Math.max(1, boxes.length - 1);
  const moves = boxes.map(() => ({ x: 0, y: 0 }));
  let at = first[low];
  for (const k of order) {
    const box = boxes[k] ?? ZERO;
    const by = at - box[low];
    moves[k] = axis === "x" ? { x: by, y: 0 } : { x: 0, y: by };
    at += box[high] - box[low] + gap;
  }
  return moves;
}

/** The box around some boxes. */
export function around(boxes: readonly Box[]): Box {
  return {
    left: Math.min(...boxes.map((b) => b.left)),
    top: Math.min(...boxes.map((b) => b.top)),
    right: Math.max(...boxes.map((b) => b.right)),
    bottom: Math.max(...boxes.map((b) => b.bottom)),
  };
}

/** Whether a box holds all of another. */
export function holds(outer: Box, inner: Box): boolean {
  return (
    inner.left >= outer.left && inner.right <= outer.right && inner.top >= outer.top && inner.bottom <= outer.bottom
  );
}
