import { expect, test } from "vitest";
import { alignment, spread } from "@/geometry/boxes";
import { drawn } from "./handling";

const box = (left: number, top: number, right: number, bottom: number) => ({ left, top, right, bottom });

test("a move is drawn to the nearest edge or middle within reach, and only there", () => {
  const own = box(0, 0, 10, 10);
  const other = box(50, 30, 70, 50);
  expect(drawn(own, { x: 39.6, y: 100 }, [other], 1)).toEqual({
    by: { x: 40, y: 100 },
    guides: [{ axis: "x", at: 50 }],
  });
  expect(drawn(own, { x: 20, y: 100 }, [other], 1)).toEqual({ by: { x: 20, y: 100 }, guides: [] });
  expect(drawn(own, { x: 55.2, y: 34.9 }, [other], 1).by).toEqual({ x: 55, y: 35 });
});

test("a move is drawn to gaps as wide as those there are, and to the middle between two", () => {
  const row = [box(0, 0, 10, 10), box(14, 0, 24, 10)];
  const own = box(0, 50, 6, 56);
  expect(drawn(own, { x: 27.7, y: 0 }, row, 0.5).by.x).toBe(28);
  expect(drawn(own, { x: -10.3, y: 0 }, row, 0.5).by.x).toBe(-10);
  const apart = [box(0, 0, 10, 10), box(30, 0, 40, 10)];
  expect(drawn(own, { x: 17.2, y: 0 }, apart, 0.5)).toEqual({ by: { x: 17, y: 0 }, guides: [{ axis: "x", at: 20 }] });
});

test("boxes are lined up with the outermost one, and spread with even gaps between", () => {
  const boxes = [box(0, 0, 10, 10), box(30, 5, 50, 9), box(90, 2, 100, 4)];
  expect(alignment(boxes, "right").map((by, k) => (boxes[k]?.right ?? 0) + by.x)).toEqual([100, 100, 100]);
  expect(
    alignment(boxes, "middle").map((by, k) => ((boxes[k]?.top ?? 0) + (boxes[k]?.bottom ?? 0)) / 2 + by.y),
  ).toEqual([5, 5, 5]);
  const moved = spread(boxes, "x").map((by, k) => [(boxes[k]?.left ?? 0) + by.x, (boxes[k]?.right ?? 0) + by.x]);
  expect(moved).toEqual([
    [0, 10],
    [40, 60],
    [90, 100],
  ]);
});
