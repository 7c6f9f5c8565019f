import type { Point } from "./transform";

/** Where an art lies on the stack: scaled, mirrored left to right, turned clockwise, then moved, in mm. */
export interface Place {
  readonly x_mm: number;
  readonly y_mm: number;
  readonly turn_deg: number;
  readonly scale_x: number;
  readonly scale_y: number;
  readonly mirrored: boolean;
}

/** A point of the stack in an art's own millimetres. */
export function intoArt(place: Place, mm: Point): Point {
  const turn = (-place.turn_deg * Math.PI) / 180;
  const [dx, dy] = [mm.x - place.x_mm, mm.y - place.y_mm];
  return {
    x: (Math.cos(turn) * dx - Math.sin(turn) * dy) / (place.mirrored ? -place.scale_x : place.scale_x),
    y: (Math.sin(turn) * dx + Math.cos(turn) * dy) / place.scale_y,
  };
}

/** A move on the stack as a move in an art's own millimetres. */
export function moveInArt(place: Place, by: Point): Point {
  return intoArt({ ...place, x_mm: 0, y_mm: 0 }, by);
}

/** How much larger an art lies on the stack than it is by itself. */
export function scaleOf(place: Place): number {
  return Math.sqrt(Math.abs(place.scale_x * place.scale_y));
}
