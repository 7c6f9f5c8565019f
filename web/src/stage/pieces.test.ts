import { expect, test } from "vitest";
import type { Built } from "@/api/client";
import { ringedIn } from "./pieces";
import { isSlow } from "./useSlow";

const BUILT = {
  layers: [
    {
      film: "red",
      shape: {
        small: [
          { x_mm: 1, y_mm: 1, area_mm2: 0.2 },
          { x_mm: 2, y_mm: 2, area_mm2: 3 },
        ],
        gaps: [
          { x1_mm: 0, y1_mm: 0, x2_mm: 1, y2_mm: 0, mm: 1 },
          { x1_mm: 0, y1_mm: 4, x2_mm: 2, y2_mm: 4, mm: 2 },
        ],
      },
    },
  ],
} as unknown as Built;

test("pieces below the limit are ringed, gaps up to it", () => {
  const small = (limit: number) => ringedIn(BUILT, { film: "red", of: "small", limit, at: null })?.at.length;
  const gaps = (limit: number) => ringedIn(BUILT, { film: "red", of: "gaps", limit, at: 0 });
  expect([small(0.2), small(0.3), small(5)]).toEqual([0, 1, 2]);
  expect([gaps(0.9)?.at.length, gaps(1)?.at.length, gaps(2)?.at.length]).toEqual([0, 1, 2]);
  // The ring lies in the middle of its gap.
  expect(gaps(1)).toMatchObject({ at: [{ x: 0.5, y: 0 }], current: 0 });
});

test("nothing is ringed of a film that is gone, or without a question", () => {
  expect(ringedIn(BUILT, { film: "gone", of: "small", limit: 9, at: null })).toBeNull();
  expect(ringedIn(BUILT, null)).toBeNull();
});

test("a hand is slow by its way and its time", () => {
  const from = { at: { x: 0, y: 0 }, time: 100 };
  expect(isSlow(from, { at: { x: 1, y: 0 }, time: 116 })).toBe(true);
  expect(isSlow(from, { at: { x: 9, y: 9 }, time: 116 })).toBe(false);
  expect(isSlow(from, { at: { x: 9, y: 9 }, time: 400 })).toBe(true);
  // Two events of the same moment are no reason to divide by nothing.
  expect(isSlow(from, { at: { x: 1, y: 0 }, time: 100 })).toBe(false);
});
