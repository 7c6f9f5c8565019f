import { expect, test } from "vitest";
import { nodeAt } from "./nodeAt";
import { PER_MM, type Scene, segmentsOf } from "./scene";

/** An outline of straight lines through points (mm), as it is sent. */
function outline(...rings: [number, number][][]): string {
  return rings
    .map((ring) =>
      [...ring, ring[0] as [number, number]]
        .map(([x, y], k) => {
          const [px, py] = k === 0 ? [0, 0] : (ring[k - 1] as [number, number]);
          return `${k === 0 ? "M" : "l"}${(x - px) * PER_MM} ${(y - py) * PER_MM}`;
        })
        .join(""),
    )
    .map((text) => `${text}Z`)
    .join("");
}

const SQUARE: [number, number][] = [
  [0, 0],
  [10, 0],
  [10, 10],
  [0, 10],
];
const TRIANGLE: [number, number][] = [
  [20, 0],
  [30, 0],
  [25, 8],
];
const scene = {
  films: [
    { key: "low", outline: outline(SQUARE, TRIANGLE) },
    { key: "top", outline: outline(SQUARE.map(([x, y]) => [x + 5, y + 5])) },
  ],
} as unknown as Scene;

test("an outline is told ring by ring, with what bends its curves", () => {
  const rings = segmentsOf({ outline: `${outline(SQUARE)}M20000 0c0 1000 1000 2000 3000 2000l-3000-2000Z` });
  expect(rings.map((ring) => ring.length)).toEqual([4, 2]);
  expect(rings[1]?.[0]).toEqual({
    from: { x: 20, y: 0 },
    to: { x: 23, y: 2 },
    bend: [
      { x: 20, y: 1 },
      { x: 21, y: 2 },
    ],
  });
});

test("a node is met with those beside it, also over the end of its ring", () => {
  const met = nodeAt(scene, { x: 0.2, y: 0.1 }, null, 1);
  expect(met).toEqual({ film: "low", before: { x: 0, y: 10 }, at: { x: 0, y: 0 }, after: { x: 10, y: 0 }, ring: 4 });
});

test("the film on top comes first, unless another is chosen", () => {
  const near = { x: 9, y: 9.4 };
  expect(nodeAt(scene, { x: 5, y: 5 }, null, 1)?.film).toBe("top");
  expect(nodeAt(scene, near, "low", 2)?.at).toEqual({ x: 10, y: 10 });
});
