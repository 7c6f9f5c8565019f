import { useEffect, useRef } from "react";
import { type Box, inSight, toMm, type View } from "@/geometry/transform";
import { see } from "@/state/sight";
import { useTries } from "@/state/tries";

interface Size {
  readonly width: number;
  readonly height: number;
}

/** What grows out of sight while it is written or arranged is brought back into it; and what is in sight is told. */
export function useKeptInSight(
  view: View | null,
  pane: Size,
  box: Box,
  follows: () => boolean,
  fitDecal: () => void,
): void {
  const was = useRef(box);
  const trying = useTries((tries) => tries.tried !== null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a change of the decal's extent counts, once it is kept
  useEffect(() => {
    if (trying) return;
    const before = was.current;
    was.current = box;
    if (!view || !follows()) return;
    const seen = { width: pane.width, height: pane.height };
    if (inSight(view, before, seen) && !inSight(view, box, seen)) fitDecal();
  }, [box, trying]);

  // What is brought in comes to lie in the middle of what is seen.
  useEffect(() => {
    if (!view || pane.width === 0) return;
    const [from, to] = [toMm(view, { x: 0, y: 0 }), toMm(view, { x: pane.width, y: pane.height })];
    see({ left: from.x, top: from.y, right: to.x, bottom: to.y });
  }, [view, pane.width, pane.height]);
}
