import { expect, test } from "vitest";
import { moved, reaches, START } from "./corners";

test("a corner moves alone, and stays on the picture", () => {
  expect(moved(START, 2, { x: 1.4, y: 0.7 })).toEqual([START[0], START[1], { x: 1, y: 0.7 }, START[3]]);
  expect(moved(START, 0, { x: -1, y: -1 })[0]).toEqual({ x: 0, y: 0 });
});

test("arrow keys move a corner, ten times as far with shift", () => {
  expect(reaches("ArrowUp", false)).toEqual({ x: 0, y: -0.002 });
  expect(reaches("ArrowRight", true)).toEqual({ x: 0.02, y: 0 });
  expect(reaches("Enter", false)).toBeNull();
});
