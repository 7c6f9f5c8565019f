import { expect, test } from "vitest";
import type { Answer } from "@/api/client";
import { artEdit, boxIn, edgeOf, lettersMovedBy, movedBy, settled } from "./moves";

const place = { x_mm: 10, y_mm: 20, turn_deg: 90, scale_x: 2, scale_y: 2, mirrored: false };
const box = (left: number, top: number) => ({ left, top, right: left + 10, bottom: top + 10 });
const DESIGN = {
  recipe: {
    arts: [
      { id: "a", kind: "shape", place },
      { id: "b", kind: "lettering", place, letters: [{ index: 1, dx_mm: 1, dy_mm: 0, turn_deg: 5, scale: 1.5 }] },
    ],
  },
  built: {
    box: { left: 0, top: 0, right: 40, bottom: 30 },
    arts: [
      { id: "a", box: box(0, 0) },
      { id: "b", box: box(20, 5) },
    ],
  },
} as unknown as Answer;

const arts = (made: Parameters<typeof settled>[0]) =>
  (settled(made, DESIGN) as { arts: { id: string; place: typeof place; letters?: unknown[] }[] } | null)?.arts;

test("art is moved from where it lies when the edit is sent", () => {
  const made = arts(movedBy(["a", "b"], [{ x: 1, y: 2 }]));
  expect(made?.map((one) => [one.id, one.place.x_mm, one.place.y_mm])).toEqual([
    ["a", 11, 22],
    ["b", 11, 22],
  ]);
  const apart = arts(
    movedBy(
      ["b", "a"],
      [
        { x: 5, y: 0 },
        { x: 0, y: 5 },
      ],
    ),
  );
  expect(apart?.map((one) => [one.id, one.place.x_mm, one.place.y_mm])).toEqual([
    ["a", 10, 25],
    ["b", 15, 20],
  ]);
});

test("nothing is sent for art that is gone or has become another kind", () => {
  expect(settled(movedBy(["gone"], [{ x: 1, y: 1 }]), DESIGN)).toBeNull();
  expect(settled(artEdit("a", "lettering", { text: "x" }), DESIGN)).toBeNull();
});

test("letters move in the art's own millimetres, and keep what else they have", () => {
  const [made] = arts(lettersMovedBy("b", [1, 3], { x: 4, y: 0 })) ?? [];
  // Turned by a quarter and twice as large: 4 mm to the right are 2 mm up.
  expect(made?.letters).toEqual([
    { index: 1, dx_mm: 1, dy_mm: -2, turn_deg: 5, scale: 1.5 },
    { index: 3, dx_mm: 0, dy_mm: -2, turn_deg: 0, scale: 1 },
  ]);
});

test("an art's place is told from the edge of all others", () => {
  expect(boxIn(DESIGN, "b")).toEqual(box(20, 5));
  expect(edgeOf(DESIGN, "b", "left")).toBe(0);
  expect(edgeOf(DESIGN, "a", "left")).toBe(20);
  expect(edgeOf({ ...DESIGN, built: null } as unknown as Answer, "a", "top")).toBe(0);
});
