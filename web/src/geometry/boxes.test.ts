import { expect, test } from "vitest";
import { alignment, around, holds, spread } from "./boxes";

const box = (left: number, top: number, width: number, height: number) => ({
  left,
  top,
  right: left + width,
  bottom: top + height,
});
const BOXES = [box(10, 5, 20, 10), box(-3, 40, 8, 4), box(60, 60, 5, 10)];
const moved = (boxes: typeof BOXES, by: readonly { x: number; y: number }[]) =>
  boxes.map((b, k) => {
    const { x = 0, y = 0 } = by[k] ?? {};
    return { left: b.left + x, right: b.right + x, top: b.top + y, bottom: b.bottom + y };
  });

test("the box around boxes holds each of them, and no side can be drawn in", () => {
  const whole = around(BOXES);
  expect(BOXES.every((one) => holds(whole, one))).toBe(true);
  expect(whole).toEqual(box(-3, 5, 68, 65));
  expect(holds({ ...whole, right: whole.right - 0.1 }, BOXES[2] ?? whole)).toBe(false);
});

test("aligned, all lie on the side of the whole, and move along one axis only", () => {
  for (const side of ["left", "right", "top", "bottom"] as const) {
    const by = alignment(BOXES, side);
    expect(new Set(moved(BOXES, by).map((b) => b[side])).size).toBe(1);
    expect(by.every(({ x, y }) => x === 0 || y === 0)).toBe(true);
    expect(around(moved(BOXES, by))[side]).toBe(around(BOXES)[side]);
  }
  const middles = moved(BOXES, alignment(BOXES, "middle")).map((b) => (b.top + b.bottom) / 2);
  for (const middle of middles) expect(middle).toBeCloseTo(middles[0] ?? Number.NaN);
});

test("spread, the gaps are equal and the outermost stay", () => {
  for (const [axis, low, high] of [
    ["x", "left", "right"],
    ["y", "top", "bottom"],
  ] as const) {
    const made = moved(BOXES, spread(BOXES, axis)).sort((a, b) => a[low] - b[low]);
    const gaps = made.slice(1).map((b, k) => b[low] - (made[k]?.[high] ?? 0));
    for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0] ?? Number.NaN);
  }
  expect(spread([], "x")).toEqual([]);
});
