/** How the stage shows millimetres: pixel = mm * scale + offset. An immutable value. */
export interface View {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

const LEAST_SCALE = 0.02;
const MOST_SCALE = 400;

/** The view that shows `box` (mm) whole in `width` x `height` pixels, with room around it. */
export function fitView(box: Box, width: number, height: number, room: number): View {
  const w = Math.max(1e-6, box.right - box.left);
  const h = Math.max(1e-6, box.bottom - box.top);
  const scale = clampScale(Math.min((width - 2 * room) / w, (height - 2 * room) / h));
  return {
    scale,
    x: width / 2 - ((box.left + box.right) / 2) * scale,
    y: height / 2 - ((box.top + box.bottom) / 2) * scale,
  };
}

/** The view scaled by `factor` so that what lies under `at` (pixels) stays there. */
export function zoomAt(view: View, at: Point, factor: number): View {
  const scale = clampScale(view.scale * factor);
  const k = scale / view.scale;
  return { scale, x: at.x - (at.x - view.x) * k, y: at.y - (at.y - view.y) * k };
}

export function panBy(view: View, dx: number, dy: number): View {
  return { ...view, x: view.x + dx, y: view.y + dy };
}

const RIM_PX = 40;

/** The view moved so that a place (mm) is in its middle, if it is not well in sight already. */
export function shownAt(view: View, mm: Point, width: number, height: number): View {
  const at = toPixel(view, mm);
  const inside = at.x > RIM_PX && at.y > RIM_PX && at.x < width - RIM_PX && at.y < height - RIM_PX;
  return inside ? view : panBy(view, width / 2 - at.x, height / 2 - at.y);
}

/** Whether all of a box (mm) is in sight. */
export function inSight(view: View, box: Box, size: { width: number; height: number }): boolean {
  const from = toPixel(view, { x: box.left, y: box.top });
  const to = toPixel(view, { x: box.right, y: box.bottom });
  return from.x >= 0 && from.y >= 0 && to.x <= size.width && to.y <= size.height;
}

export function toMm(view: View, pixel: Point): Point {
  return { x: (pixel.x - view.x) / view.scale, y: (pixel.y - view.y) / view.scale };
}

export function toPixel(view: View, mm: Point): Point {
  return { x: mm.x * view.scale + view.x, y: mm.y * view.scale + view.y };
}

function clampScale(scale: number): number {
  return Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));
}
