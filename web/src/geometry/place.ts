import type { PictureArt } from "@/api/client";
import type { Point } from "./transform";

export type Place = PictureArt["place"];

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
