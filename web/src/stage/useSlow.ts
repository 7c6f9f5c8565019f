import { useEffect, useRef } from "react";
import type { Point } from "@/geometry/transform";

const SLOW_PX_PER_MS = 0.12;
const REST_MS = 80;

interface Moment {
  readonly at: Point;
  readonly time: number;
}

/**
 * Lets through what is asked for while a hand is slow or rests, and drops what a fast one has left behind: nobody reads
 * joints on the fly, and what is built for them would take the frames of what follows the hand.
 */
export function useSlow() {
  const last = useRef<Moment | null>(null);
  const rest = useRef<number | undefined>(undefined);
  const stop = () => {
    window.clearTimeout(rest.current);
    last.current = null;
  };
  useEffect(() => () => window.clearTimeout(rest.current), []);
  return {
    stop,
    /** The hand has come to `at` (pixels) at `time` (ms). */
    come(at: Point, time: number, act: () => void): void {
      const before = last.current;
      last.current = { at, time };
      window.clearTimeout(rest.current);
      if (before && isSlow(before, { at, time })) act();
      else rest.current = window.setTimeout(act, REST_MS);
    },
  };
}

/** Whether a hand that went from one place to another was slow: under about 3 cm a second. */
export function isSlow(from: Moment, to: Moment): boolean {
  const way = Math.hypot(to.at.x - from.at.x, to.at.y - from.at.y);
  return way < SLOW_PX_PER_MS * Math.max(1, to.time - from.time);
}
