import { expect, test } from "vitest";
import { patchAt } from "./differing";

const WIDTH = 40;
const HEIGHT = 30;

function picture(dark: (x: number, y: number) => boolean): Uint8ClampedArray {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT).fill(255);
  for (let y = 0; y < HEIGHT; y += 1)
    for (let x = 0; x < WIDTH; x += 1) if (dark(x, y)) data.fill(30, 4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 3);
  return data;
}

test("what is alike has no patch", () => {
  expect(
    patchAt(
      picture(() => false),
      WIDTH,
      HEIGHT,
      5,
      5,
    ),
  ).toBeNull();
});

test("a patch is counted by itself, and is as wide as it is narrow", () => {
  const data = picture((x, y) => (x >= 4 && x < 24 && y >= 10 && y < 15) || x === 35);
  expect(patchAt(data, WIDTH, HEIGHT, 6, 12)).toEqual({ pixels: 100, across: 5, more: false });
});

test("what is next to the pointer is meant, and nothing farther off", () => {
  const data = picture((x) => x === 35);
  expect(patchAt(data, WIDTH, HEIGHT, 32, 3)?.pixels).toBe(HEIGHT);
  expect(patchAt(data, WIDTH, HEIGHT, 30, 3)).toBeNull();
});

test("a line that leaves the window runs on, and is one pixel wide", () => {
  const data = picture((x) => x === 35);
  expect(patchAt(data, WIDTH, HEIGHT, 35, 3)).toEqual({ pixels: HEIGHT, across: 1, more: true });
});
