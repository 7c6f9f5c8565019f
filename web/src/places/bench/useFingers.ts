import { type RefObject, useEffect, useRef } from "react";
import type { Point } from "@/geometry/transform";

interface Table {
  readonly zoom: number;
  readonly scale: (zoom: number) => void;
}

/**
 * Fingers on the bench: one on a part moves that, one beside all parts the bench; two move and enlarge it, whatever
 * the first was about to do.
 */
export function useFingers(frame: RefObject<HTMLElement | null>, table: Table): void {
  const now = useRef(table);
  now.current = table;
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const down = new Map<number, Point & { target: EventTarget | null }>();
    let begun: { apart: number; zoom: number } | null = null;

    const apart = () => {
      const [a, b] = [...down.values()];
      return a && b ? Math.hypot(a.x - b.x, a.y - b.y) : 0;
    };
    const middle = (): Point => {
      const all = [...down.values()];
      return { x: sum(all, "x") / all.length, y: sum(all, "y") / all.length };
    };
    const onDown = (event: PointerEvent) => {
      if (event.pointerType !== "touch") return;
      down.set(event.pointerId, { x: event.clientX, y: event.clientY, target: event.target });
      if (down.size !== 2) return;
      event.stopPropagation();
      const [first] = down.entries();
      // What the first finger holds is let go where it was.
      if (first)
        first[1].target?.dispatchEvent(new PointerEvent("pointercancel", { pointerId: first[0], bubbles: true }));
      begun = { apart: apart(), zoom: now.current.zoom };
    };
    const onMove = (event: PointerEvent) => {
      const held = down.get(event.pointerId);
      if (!held) return;
      const holdsPart = held.target instanceof Element && held.target.closest("[data-part][role]") !== null;
      const before = middle();
      down.set(event.pointerId, { x: event.clientX, y: event.clientY, target: held.target });
      if (down.size === 1 && holdsPart) return;
      event.stopPropagation();
      const after = middle();
      element.scrollBy(before.x - after.x, before.y - after.y);
      if (begun && begun.apart > 0 && down.size === 2) now.current.scale((begun.zoom * apart()) / begun.apart);
    };
    const onUp = (event: PointerEvent) => {
      // Its own cancelling of a part is no finger that was lifted.
      if (!event.isTrusted) return;
      down.delete(event.pointerId);
      if (down.size < 2) begun = null;
    };
    element.addEventListener("pointerdown", onDown, { capture: true });
    element.addEventListener("pointermove", onMove, { capture: true });
    window.addEventListener("pointerup", onUp, { capture: true });
    window.addEventListener("pointercancel", onUp, { capture: true });
    return () => {
      element.removeEventListener("pointerdown", onDown, { capture: true });
      element.removeEventListener("pointermove", onMove, { capture: true });
      window.removeEventListener("pointerup", onUp, { capture: true });
      window.removeEventListener("pointercancel", onUp, { capture: true });
    };
  }, [frame]);
}

function sum(points: readonly Point[], axis: "x" | "y"): number {
  return points.reduce((all, point) => all + point[axis], 0);
}
