import type { Box, Point } from "@/geometry/transform";
import type { MadeEdit } from "@/state/design";
import { artEdit } from "@/state/moves";

export type Grip = "nw" | "n" | "ne" | "e" | "se" | "s" | "sw" | "w" | "turn";

export const GRIPS: readonly { grip: Grip; cursor: string; side?: boolean }[] = [
  { grip: "nw", cursor: "cursor-nwse-resize" },
  { grip: "ne", cursor: "cursor-nesw-resize" },
  { grip: "se", cursor: "cursor-nwse-resize" },
  { grip: "sw", cursor: "cursor-nesw-resize" },
  { grip: "n", cursor: "cursor-ns-resize", side: true },
  { grip: "e", cursor: "cursor-ew-resize", side: true },
  { grip: "s", cursor: "cursor-ns-resize", side: true },
  { grip: "w", cursor: "cursor-ew-resize", side: true },
  { grip: "turn", cursor: "cursor-grab" },
];

/** Where a handle has been drawn to: the box it makes, and what it does to the art. */
export interface Handled {
  readonly grip: Grip;
  readonly box: Box;
  /** What stays where it is, mm. */
  readonly anchor: Point;
  readonly factor: { readonly x: number; readonly y: number };
  /** Degrees clockwise. */
  readonly turn: number;
}

const LEAST = 0.02;
const TURN_STEP_DEG = 15;
const rounded = (value: number, places: number) => Number(value.toFixed(places));

/**
 * What drawing a handle from where it was taken to `at` (mm) does. Corners keep proportions; `middle` keeps the middle
 * where it is instead of the far corner or side; `steady` turns by whole steps of 15 degrees.
 */
export function spotOf(
  start: { grip: Grip; box: Box; from: Point },
  at: Point,
  held: { steady: boolean; middle: boolean },
): Handled {
  const { grip, box, from } = start;
  const centre = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
  const still = { grip, box, anchor: centre, factor: { x: 1, y: 1 }, turn: 0 };
  if (grip === "turn") {
    const angle = (p: Point) => (Math.atan2(p.y - centre.y, p.x - centre.x) * 180) / Math.PI;
    const turned = ((angle(at) - angle(from) + 540) % 360) - 180;
    return { ...still, turn: held.steady ? Math.round(turned / TURN_STEP_DEG) * TURN_STEP_DEG : rounded(turned, 1) };
  }
  const east = grip.includes("e");
  const south = grip.includes("s");
  const across = east || grip.includes("w");
  const down = south || grip.includes("n");
  const anchor = held.middle
    ? centre
    : { x: across ? (east ? box.left : box.right) : centre.x, y: down ? (south ? box.top : box.bottom) : centre.y };
  const ratio = (to: number, was: number) => Math.max(LEAST, was === 0 ? 1 : to / was);
  const fx = across ? ratio(at.x - anchor.x, from.x - anchor.x) : 1;
  const fy = down ? ratio(at.y - anchor.y, from.y - anchor.y) : 1;
  const both = across && down ? Math.max(fx, fy) : null;
  const factor = { x: rounded(both ?? fx, 5), y: rounded(both ?? fy, 5) };
  const moved = (v: number, about: number, by: number) => about + (v - about) * by;
  return {
    ...still,
    anchor,
    factor,
    box: {
      left: moved(box.left, anchor.x, factor.x),
      right: moved(box.right, anchor.x, factor.x),
      top: moved(box.top, anchor.y, factor.y),
      bottom: moved(box.bottom, anchor.y, factor.y),
    },
  };
}

/** The edit that does to an art what a handle was drawn to. */
export function gripped(id: string, { grip, anchor, factor, turn }: Handled): MadeEdit {
  if (grip !== "turn" && factor.x === factor.y) {
    return { kind: "scale-art", art: id, factor: factor.x, x_mm: anchor.x, y_mm: anchor.y };
  }
  return (design) => {
    const art = design.recipe.arts.find((one) => one.id === id);
    if (!art) return null;
    const made = artEdit(id, art.kind, ({ place }) => {
      const from = { x: place.x_mm - anchor.x, y: place.y_mm - anchor.y };
      if (grip !== "turn") {
        return {
          place: {
            ...place,
            scale_x: place.scale_x * factor.x,
            scale_y: place.scale_y * factor.y,
            x_mm: anchor.x + from.x * factor.x,
            y_mm: anchor.y + from.y * factor.y,
          },
        };
      }
      const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
      return {
        place: {
          ...place,
          turn_deg: rounded((((place.turn_deg + turn) % 360) + 360) % 360, 3),
          x_mm: anchor.x + from.x * cos - from.y * sin,
          y_mm: anchor.y + from.x * sin + from.y * cos,
        },
      };
    });
    return typeof made === "function" ? made(design) : made;
  };
}
