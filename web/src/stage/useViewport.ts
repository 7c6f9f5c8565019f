import { type RefObject, useCallback, useEffect, useMemo, useState } from "react";
import { type Box, fitView, type Point, panBy, shownAt, type View, zoomAt } from "@/geometry/transform";
import type { Pane } from "./look";

const ROOM_PX = 64;
const ZOOM_STEP = 1.25;
const WHEEL = 0.0015;

/** How the table is looked at: the view of the pane that the result lies in, and ways to move it. */
export function useViewport(table: RefObject<HTMLElement | null>, box: Box, boxKey: string, beside: boolean) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [view, setView] = useState<View | null>(null);
  const left = beside ? Math.round(size.width / 2) : 0;
  const pane: Pane = useMemo(
    () => ({ left, width: size.width - left, height: size.height }),
    [left, size.width, size.height],
  );
  const width = beside ? size.width / 2 : size.width;

  useEffect(() => {
    const element = table.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, [table]);

  const fit = useCallback(() => {
    if (size.width > 0) setView(fitView(box, width, size.height, ROOM_PX));
  }, [box, size, width]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view is fitted anew only when what is shown changes its extent
  useEffect(fit, [boxKey, width, size.height]);

  /** A point of the table as one of the pane it lies in: beside the original, both panes show the same place. */
  const onPane = useCallback(
    (at: Point): Point => ({ x: left > 0 && at.x > left ? at.x - left : at.x, y: at.y }),
    [left],
  );

  useEffect(() => {
    const element = table.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      if (!(event.target instanceof HTMLCanvasElement)) return;
      event.preventDefault();
      const at = onPane(within(element, event));
      setView((now) => now && zoomAt(now, at, Math.exp(-event.deltaY * WHEEL)));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [table, onPane]);

  const zoom = (steps: number) =>
    setView((now) => now && zoomAt(now, { x: width / 2, y: size.height / 2 }, ZOOM_STEP ** steps));
  const pan = (dx: number, dy: number) => setView((now) => now && panBy(now, dx, dy));
  const bringIntoSight = (mm: Point) => setView((now) => now && shownAt(now, mm, width, size.height));
  return { size, pane, view, fit, zoom, pan, bringIntoSight, onPane };
}

/** Where a pointer is in an element. */
export function within(element: Element, event: { clientX: number; clientY: number }): Point {
  const box = element.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
