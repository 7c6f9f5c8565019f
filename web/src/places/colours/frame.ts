import type { Corner } from "./corners";

/** A frame on a picture, as shares of its sides. */
export interface Sides {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

export const WHOLE: Sides = { left: 0, top: 0, right: 1, bottom: 1 };

/** A small picture is framed to the pixel; a large one to the blocks that JPEG is made of, so that it is read as before. */
const BLOCK_PX = 8;
const SMALL_PX = 400;
const LEAST_PX = 16;

/** The frame between two places, however they lie to each other, on whole pixels of the picture. */
export function between(a: Corner, b: Corner, size: Size): Sides {
  const [left, right] = span(a.x, b.x, size.width);
  const [top, bottom] = span(a.y, b.y, size.height);
  return { left, top, right, bottom };
}

/** How far a side moves at least, of a picture so many pixels wide or high. */
export function stepPx(px: number): number {
  return px < SMALL_PX ? 1 : BLOCK_PX;
}

function span(a: number, b: number, px: number): [number, number] {
  const step = stepPx(px);
  const to = (share: number) =>
    Math.min(px, Math.max(0, step * Math.round((Math.min(1, Math.max(0, share)) * px) / step)));
  let [low, high] = [to(Math.min(a, b)), to(Math.max(a, b))];
  if (high - low < LEAST_PX) {
    high = Math.min(px, low + LEAST_PX);
    low = Math.max(0, high - LEAST_PX);
  }
  return [low / px, high / px];
}

/** The corners of a frame, clockwise from its top left; across one lies the one that stays when it is dragged. */
export function cornersOf({ left, top, right, bottom }: Sides): readonly Corner[] {
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}

/** A frame as designs tell it: all sides in shares of the picture's width. */
export function toldByWidth({ left, top, right, bottom }: Sides, size: Size): Sides {
  const tall = size.height / size.width;
  return { left, right, top: top * tall, bottom: bottom * tall };
}

export function toldBySides({ left, top, right, bottom }: Sides, size: Size): Sides {
  const tall = size.height / size.width;
  return { left, right, top: Math.min(1, top / tall), bottom: Math.min(1, bottom / tall) };
}
