import { useEffect } from "react";
import type { FoundPlace } from "@/api/client";
import type { Point } from "@/geometry/transform";
import { useView } from "@/state/view";
import { middleOf } from "./overlay";
import type { Rings } from "./pieces";
import type { Scene } from "./scene";

const MEASURE_PX = 20;
const CLOSEST_PX = 36;

/** How large a place has to be seen for its measure to be read, pixels a mm. */
function closeEnough({ across }: FoundPlace): number {
  if (!across) return 0;
  const mm = Math.hypot(across.end.x_mm - across.start.x_mm, across.end.y_mm - across.start.y_mm);
  return Math.min(CLOSEST_PX, MEASURE_PX / Math.max(mm, 1e-3));
}

/** Moves the table to what is stepped to or asked for: regions that wait, pieces and gaps, the place of a finding. */
export function useComingIntoSight(
  scene: Scene,
  ringed: Rings | null,
  bringIntoSight: (mm: Point, pxPerMm?: number) => void,
): void {
  const { arts: held, waitingAt, shown, pieces } = useView();
  // So does the next region when one is claimed.
  const holder = scene.arts.find((art) => (held.length === 0 || held.includes(art.id)) && art.waiting.length > 0);
  const waits = waitingAt === null ? undefined : holder?.waiting[waitingAt];
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the step itself moves the table
  useEffect(() => {
    if (waits) bringIntoSight({ x: waits.x_mm, y: waits.y_mm });
  }, [waitingAt, waits?.region]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the asking moves the table
  useEffect(() => {
    const middle = shown && middleOf(shown.place);
    if (middle) bringIntoSight(middle, shown && closeEnough(shown.place));
  }, [shown]);
  const spot = pieces?.at === null || pieces?.at === undefined ? undefined : ringed?.at[pieces.at];
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the step itself moves the table
  useEffect(() => {
    if (spot) bringIntoSight(spot);
  }, [pieces?.at, spot?.x, spot?.y]);
}
