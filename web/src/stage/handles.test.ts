import { expect, test } from "vitest";
import { type Grip, spotOf } from "./handles";

const box = { left: 10, top: 20, right: 50, bottom: 40 };
const start = (grip: Grip, x: number, y: number) => ({ grip, box, from: { x, y } });
const free = { steady: false, middle: false };

test("a corner keeps proportions and the far corner", () => {
  const drawn = spotOf(start("se", 50, 40), { x: 90, y: 45 }, free);
  expect(drawn.factor).toEqual({ x: 2, y: 2 });
  expect(drawn.box).toEqual({ left: 10, top: 20, right: 90, bottom: 60 });
});

test("with the middle held both sides move", () => {
  const drawn = spotOf(start("e", 50, 30), { x: 60, y: 30 }, { steady: false, middle: true });
  expect(drawn.box).toEqual({ left: 0, top: 20, right: 60, bottom: 40 });
});

test("a side stretches one way only and never turns inside out", () => {
  const drawn = spotOf(start("w", 10, 30), { x: 200, y: 0 }, free);
  expect(drawn.factor.y).toBe(1);
  expect(drawn.box.right).toBe(50);
  expect(drawn.box.left).toBeLessThan(50);
});

test("turning goes by the angle round the middle, in whole steps if held steady", () => {
  const top = { x: 30, y: 10 };
  expect(spotOf(start("turn", top.x, top.y), { x: 50, y: 30 }, free).turn).toBe(90);
  expect(spotOf(start("turn", top.x, top.y), { x: 38, y: 12 }, { steady: true, middle: false }).turn % 15).toBe(0);
});
