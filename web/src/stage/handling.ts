import type { Box } from "@/api/client";
import type { Point } from "@/geometry/transform";
import type { Scene } from "./scene";

/** A line that something lies along while it is moved. */
export interface Guide {
  readonly axis: "x" | "y";
  readonly at: number;
}

/** The art at a point: the smallest box round it, so that what lies on a plaque can be taken hold of. */
export function artAt(scene: Scene, at: Point, slack: number): string | null {
  const met = artsAt(scene, at, slack).sort((a, b) => area(a.box) - area(b.box));
  return met[0]?.id ?? null;
}

/** The chosen art that a drag from a point moves: it is moved even where smaller art lies over it. */
export function artToMove(scene: Scene, chosen: readonly string[], at: Point, slack: number): string | null {
  return artsAt(scene, at, slack).find(({ id }) => chosen.includes(id))?.id ?? null;
}

function artsAt(scene: Scene, at: Point, slack: number) {
  return scene.arts.filter(
    ({ box }) =>
      at.x >= box.left - slack && at.x <= box.right + slack && at.y >= box.top - slack && at.y <= box.bottom + slack,
  );
}

/** The letter of an art at a point, by its place in the text. */
export function letterAt(scene: Scene, art: string, at: Point): number | null {
  const letters = scene.arts.find((candidate) => candidate.id === art)?.letters ?? [];
  const met = letters
    .filter(({ box }) => at.x >= box.left && at.x <= box.right && at.y >= box.top && at.y <= box.bottom)
    .sort((a, b) => area(a.box) - area(b.box));
  return met[0]?.index ?? null;
}

function area(box: Box): number {
  return (box.right - box.left) * (box.bottom - box.top);
}

/**
 * A move drawn to the edges and middles of other art, and to gaps as wide as those there are: the move that makes a side
 * or the middle of `box` lie exactly there, if that is within `reach` mm, and the lines it then lies along.
 */
export function drawn(box: Box, by: Point, others: readonly Box[], reach: number): { by: Point; guides: Guide[] } {
  const guides: Guide[] = [];
  const snap = (own: number[], lines: number[], axis: "x" | "y", move: number): number => {
    let best: { by: number; at: number } | null = null;
    for (const { side, at } of gaps(others, axis)) {
      const off = at - ((side === "low" ? own[0] : side === "high" ? own[2] : own[1]) ?? 0) - move;
      if (Math.abs(off) <= reach && (best === null || Math.abs(off) < Math.abs(best.by))) best = { by: off, at };
    }
    for (const line of lines) {
      for (const side of own) {
        const off = line - (side + move);
        if (Math.abs(off) <= reach && (best === null || Math.abs(off) < Math.abs(best.by)))
          best = { by: off, at: line };
      }
    }
    if (!best) return move;
    guides.push({ axis, at: best.at });
    return move + best.by;
  };
  const across = (b: Box) => [b.left, (b.left + b.right) / 2, b.right];
  const down = (b: Box) => [b.top, (b.top + b.bottom) / 2, b.bottom];
  const x = snap(across(box), others.flatMap(across), "x", by.x);
  const y = snap(down(box), others.flatMap(down), "y", by.y);
  return { by: { x, y }, guides };
}

/** Where a side or the middle of a box lies beside others, or between them, with gaps as wide as theirs. */
function gaps(others: readonly Box[], axis: "x" | "y"): { side: "low" | "middle" | "high"; at: number }[] {
  const [low, high] = axis === "x" ? (["left", "right"] as const) : (["top", "bottom"] as const);
  const row = [...others].sort((a, b) => a[low] - b[low]);
  return row.flatMap((box, k) => {
    const next = row[k + 1];
    if (!next || next[low] <= box[high]) return [];
    const gap = next[low] - box[high];
    return [
      { side: "low" as const, at: next[high] + gap },
      { side: "middle" as const, at: (box[high] + next[low]) / 2 },
      { side: "high" as const, at: box[low] - gap },
    ];
  });
}
