import { type RefObject, useCallback, useEffect, useMemo, useState } from "react";
import { type Box, fitView, type Point, panBy, shownAt, type View, zoomAt } from "@/geometry/transform";
import type { Pane } from "./look";

// Room for the dimension lines; a square decal then takes half of a screen of 1280 x 800.
const ROOM_PX = 18;
const ZOOM_STEP = 1.25;
const WHEEL = 0.0015;
const PINCH = 0.01;
const MOUSE_STEP = 50;
const REST_MS = 250;

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
    const last = { at: Number.NEGATIVE_INFINITY, pans: false };
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = onPane(within(element, event));
      // A pinch on a trackpad comes as a wheel with Ctrl; two fingers drawn come in small steps, a mouse's wheel in large ones.
      const wheel = event.deltaMode !== 0 || (event.deltaX === 0 && Math.abs(event.deltaY) >= MOUSE_STEP);
      if (event.timeStamp - last.at > REST_MS) last.pans = !event.ctrlKey && !wheel;
      last.at = event.timeStamp;
      if (last.pans) setView((now) => now && panBy(now, -event.deltaX, -event.deltaY));
      else
        setView((now) => now && zoomAt(now, at, Math.exp(-event.deltaY * (event.ctrlKey && !wheel ? PINCH : WHEEL))));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [table, onPane]);

  const zoom = (steps: number) =>
    setView((now) => now && zoomAt(now, { x: width / 2, y: size.height / 2 }, ZOOM_STEP ** steps));
  const pan = (dx: number, dy: number) => setView((now) => now && panBy(now, dx, dy));
  /** Two fingers drawn from two points to two others: what lay between them stays between them. */
  const pinch = (from: readonly [Point, Point], to: readonly [Point, Point]) => {
    const middle = ([a, b]: readonly [Point, Point]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
    const apart = ([a, b]: readonly [Point, Point]) => Math.max(1, Math.hypot(a.x - b.x, a.y - b.y));
    const [was, is] = [middle(from), middle(to)];
    setView((now) => now && zoomAt(panBy(now, is.x - was.x, is.y - was.y), is, apart(to) / apart(from)));
  };
  /** Moves a point into sight; where it is to be seen no smaller than so many pixels a mm, it comes into the middle. */
  const bringIntoSight = (mm: Point, pxPerMm = 0) =>
    setView((now) => {
      if (!now || now.scale >= pxPerMm) return now && shownAt(now, mm, width, size.height);
      return { scale: pxPerMm, x: width / 2 - pxPerMm * mm.x, y: size.height / 2 - pxPerMm * mm.y };
    });
  return { size, pane, view, fit, zoom, pan, pinch, bringIntoSight, onPane };
}

/** Where a pointer is in an element. */
export function within(element: Element, event: { clientX: number; clientY: number }): Point {
  const box = element.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
