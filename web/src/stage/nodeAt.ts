import type { Point } from "@/geometry/transform";
import type { EdgeNode } from "@/state/gesture";
import { ringsOf, type Scene } from "./scene";

const SAME_MM = 1e-6;

/** The node within `reach` mm of a point, of the topmost film that has one there or of the one that is chosen. */
export function nodeAt(scene: Scene, mm: Point, film: string | null, reach: number): EdgeNode | null {
  const films = film === null ? [...scene.films].reverse() : scene.films.filter((one) => one.key === film);
  for (const { key, outline } of films) {
    let best: EdgeNode | null = null;
    let least = reach;
    for (const ring of ringsOf(outline)) {
      const nodes = closed(ring);
      nodes.forEach((at, k) => {
        const far = Math.hypot(at.x - mm.x, at.y - mm.y);
        const before = nodes.at(k - 1);
        const after = nodes[(k + 1) % nodes.length];
        // What has three corners is gone without one of them.
        if (far > least || nodes.length < 4 || !before || !after) return;
        least = far;
        best = { film: key, before, at, after };
      });
    }
    if (best) return best;
  }
  return null;
}

/** A ring's nodes, each once. */
function closed(ring: readonly number[]): Point[] {
  const nodes: Point[] = [];
  for (let k = 0; k < ring.length; k += 2) nodes.push({ x: ring[k] ?? 0, y: ring[k + 1] ?? 0 });
  const [first, last] = [nodes[0], nodes.at(-1)];
  if (first && last && nodes.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < SAME_MM) nodes.pop();
  return nodes;
}
