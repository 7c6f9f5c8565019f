import { expect, test } from "vitest";
import { between, cornersOf, toldBySides, toldByWidth } from "./frame";

const SMALL = { width: 200, height: 100 };
const LARGE = { width: 1600, height: 1200 };

test("a frame is the same whichever way it is drawn, and lies on whole pixels", () => {
  const drawn = between({ x: 0.8, y: 0.73 }, { x: 0.1004, y: 0.2 }, SMALL);
  expect(drawn).toEqual(between({ x: 0.1004, y: 0.2 }, { x: 0.8, y: 0.73 }, SMALL));
  expect(drawn).toEqual({ left: 0.1, right: 0.8, top: 0.2, bottom: 0.73 });
});

test("a large picture is framed to the blocks of JPEG", () => {
  const { left, top, right } = between({ x: 0.1003, y: 0.337 }, { x: 0.9, y: 2 }, LARGE);
  for (const px of [left * 1600, right * 1600, top * 1200]) expect(px % 8).toBeCloseTo(0, 9);
});

test("a frame holds something, wherever it is pressed, and stays on the picture", () => {
  for (const at of [
    { x: 0, y: 0 },
    { x: 1, y: 1 },
    { x: 2, y: -1 },
  ]) {
    const { left, right, top, bottom } = between(at, at, SMALL);
    expect(right - left).toBeCloseTo(0.08);
    expect(bottom - top).toBeCloseTo(0.16);
    expect(Math.min(left, top)).toBeGreaterThanOrEqual(0);
    expect(Math.max(right, bottom)).toBeLessThanOrEqual(1);
  }
});

test("sides told by the width are told back", () => {
  const frame = between({ x: 0.2, y: 0.25 }, { x: 0.7, y: 0.75 }, LARGE);
  const there = toldByWidth(frame, LARGE);
  expect(there.bottom).toBeCloseTo(frame.bottom * 0.75);
  const back = toldBySides(there, LARGE);
  for (const side of ["left", "top", "right", "bottom"] as const) expect(back[side]).toBeCloseTo(frame[side]);
  expect(cornersOf(frame)[2]).toEqual({ x: frame.right, y: frame.bottom });
});
