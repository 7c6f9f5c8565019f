import { expect, test } from "vitest";
import type { SheetPart } from "@/state/job";
import { nextTowards } from "./Parts";

const part = (left: number, top: number): SheetPart =>
  ({ box: { left, top, right: left + 4, bottom: top + 4 } }) as SheetPart;
/** Two rows of three, the lower one shifted a little. */
const PARTS = [part(0, 0), part(10, 0), part(20, 0), part(1, 10), part(11, 10), part(21, 10)];

test("arrows go to the part that lies next in their direction, and stay at the end", () => {
  expect(nextTowards(PARTS, 0, [1, 0])).toBe(1);
  expect(nextTowards(PARTS, 1, [0, 1])).toBe(4);
  expect(nextTowards(PARTS, 4, [0, -1])).toBe(1);
  expect(nextTowards(PARTS, 4, [-1, 0])).toBe(3);
  expect(nextTowards(PARTS, 0, [-1, 0])).toBe(0);
});
