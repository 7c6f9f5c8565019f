import { useEffect, useState } from "react";

/** A count that grows by `step` with each frame until it has reached `total`: what is many is drawn some at a time, and
 * the page is not held up meanwhile. */
export function useGrowing(total: number, step: number): number {
  const [count, setCount] = useState(step);
  useEffect(() => {
    if (count >= total) return;
    const frame = requestAnimationFrame(() => setCount(count + step));
    return () => cancelAnimationFrame(frame);
  }, [count, total, step]);
  return count;
}
