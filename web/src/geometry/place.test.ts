import { expect, test } from "vitest";
import { intoArt, moveInArt, type Place, scaleOf } from "./place";

const PLACES: Place[] = [
  { x_mm: 0, y_mm: 0, turn_deg: 0, scale_x: 1, scale_y: 1, mirrored: false },
  { x_mm: 12, y_mm: -7, turn_deg: 30, scale_x: 2, scale_y: 0.5, mirrored: false },
  { x_mm: -4, y_mm: 3, turn_deg: 250, scale_x: 0.3, scale_y: 3, mirrored: true },
];

/** Where a point of an art lies on the stack: mirrored and scaled, then turned, then moved. */
function onStack(place: Place, own: { x: number; y: number }) {
  const turn = (place.turn_deg * Math.PI) / 180;
  const [x, y] = [own.x * (place.mirrored ? -place.scale_x : place.scale_x), own.y * place.scale_y];
  return {
    x: place.x_mm + x * Math.cos(turn) - y * Math.sin(turn),
    y: place.y_mm + x * Math.sin(turn) + y * Math.cos(turn),
  };
}

test("a point goes into an art and back, wherever it lies", () => {
  for (const place of PLACES) {
    for (const own of [
      { x: 0, y: 0 },
      { x: 5, y: -11 },
    ]) {
      const back = intoArt(place, onStack(place, own));
      expect(back.x).toBeCloseTo(own.x, 9);
      expect(back.y).toBeCloseTo(own.y, 9);
    }
  }
});

test("a move is the difference of two points", () => {
  for (const place of PLACES) {
    const [a, b] = [intoArt(place, { x: 1, y: 2 }), intoArt(place, { x: 4, y: -2 })];
    const by = moveInArt(place, { x: 3, y: -4 });
    expect(by.x).toBeCloseTo(b.x - a.x, 9);
    expect(by.y).toBeCloseTo(b.y - a.y, 9);
  }
});

test("the scale is that of areas", () => {
  expect(PLACES.map(scaleOf)).toEqual([1, 1, expect.closeTo(Math.sqrt(0.9), 9)]);
});
