import type { Point } from "@/geometry/transform";
import type { EdgeNode } from "@/state/pen";
import { type Scene, segmentsOf } from "./scene";

/** The node within `reach` mm of a point, of the topmost film that has one there or of the one that is chosen. */
export function nodeAt(scene: Scene, mm: Point, film: string | null, reach: number): EdgeNode | null {
  const films = film === null ? [...scene.films].reverse() : scene.films.filter((one) => one.key === film);
  for (const one of films) {
    let best: EdgeNode | null = null;
    let least = reach;
    for (const ring of segmentsOf(one)) {
      ring.forEach((segment, k) => {
        const at = segment.from;
        const far = Math.hypot(at.x - mm.x, at.y - mm.y);
        const before = ring.at(k - 1)?.from;
        if (far > least || !before) return;
        least = far;
        best = { film: one.key, before, at, after: segment.to, ring: ring.length };
      });
    }
    if (best) return best;
  }
  return null;
}
