import { expect, test } from "vitest";
import type { Built } from "@/api/client";
import { fromTheGround } from "./arts";
import { common, meeting } from "./relation";

const box = (left: number, top: number, right: number, bottom: number) => ({ left, top, right, bottom });
const BUILT = {
  layers: [{ film: "red" }, { film: "navy" }, { film: "gold" }],
  arts: [
    { id: "top", films: ["gold"], box: box(0, 0, 10, 10) },
    { id: "hole", films: [], box: box(5, 5, 8, 8) },
    { id: "both", films: ["red", "navy"], box: box(9, 9, 30, 30) },
    { id: "low", films: ["red"], box: box(40, 0, 50, 10) },
  ],
} as unknown as Built;

test("art is told from the ground up by its topmost film, holes last", () => {
  expect(fromTheGround(BUILT).map((art) => art.id)).toEqual(["low", "both", "top", "hole"]);
});

test("what an art meets are those whose boxes lie on its own, the topmost first", () => {
  expect(meeting(BUILT, "top").map((art) => art.id)).toEqual(["hole", "both"]);
  expect(meeting(BUILT, "low")).toEqual([]);
  expect(meeting(BUILT, "gone")).toEqual([]);
});

test("what shows how two meet holds where they do, and is not much wider than high", () => {
  const [left, top, right, bottom] = common(box(0, 0, 200, 10), box(50, 4, 180, 30));
  expect(top).toBeLessThan(4);
  expect(bottom).toBeGreaterThan(10);
  expect((right - left) / (bottom - top)).toBeCloseTo(1.7, 5);
  expect((left + right) / 2).toBeCloseTo(115);
});
