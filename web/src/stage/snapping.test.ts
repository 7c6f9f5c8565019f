import { expect, test } from "vitest";
import type { Scene } from "./scene";
import { edgeAt, snapped } from "./snapping";

/** A square of 10 mm, with art of 40 x 20 mm round it; a curve beside it. */
const scene = {
  arts: [{ id: "a", box: { left: 0, top: 0, right: 40, bottom: 20 } }],
  films: [{ key: "navy", outline: "M0 0l10000 0l0 10000l-10000 0l0-10000Z" }],
} as unknown as Scene;

test("a point is drawn to a node, else to an edge, else to middles", () => {
  expect(snapped(scene, { x: 9.8, y: 0.2 }, [], 0.5).at).toEqual({ x: 10, y: 0 });
  expect(snapped(scene, { x: 5, y: 0.2 }, [], 0.5).at).toEqual({ x: 5, y: 0 });
  const level = snapped(scene, { x: 19.8, y: 15 }, [], 0.5);
  expect(level).toEqual({ at: { x: 20, y: 15 }, guides: [{ axis: "x", at: 20 }] });
  expect(snapped(scene, { x: 30, y: 15 }, [], 0.5)).toEqual({ at: { x: 30, y: 15 }, guides: [] });
});

test("a point is drawn level with points before it, and to equal gaps", () => {
  const before = [
    { x: 25, y: 14 },
    { x: 28, y: 14 },
  ];
  expect(snapped(scene, { x: 31.2, y: 14.3 }, before, 0.5).at).toEqual({ x: 31, y: 14 });
});

test("a node in hand is not held by its own place or edges", () => {
  const held = { film: "navy", before: { x: 0, y: 0 }, at: { x: 10, y: 0 }, after: { x: 10, y: 10 }, ring: 4 };
  expect(snapped(scene, { x: 10.2, y: 0.1 }, [], 0.5, held).at).toEqual({ x: 10.2, y: 0.1 });
});

test("an edge is met between its nodes, along curves too", () => {
  expect(edgeAt(scene, { x: 4, y: 0.3 }, null, 1)).toMatchObject({ before: { x: 0, y: 0 }, after: { x: 10, y: 0 } });
  const bowed = { films: [{ key: "red", outline: "M0 0c0 10000 10000 10000 10000 0l-10000 0Z" }] } as unknown as Scene;
  const met = edgeAt(bowed, { x: 5, y: 7.6 }, null, 0.3);
  expect(met?.at.x).toBeCloseTo(5, 1);
  expect(met?.at.y).toBeCloseTo(7.5, 1);
  expect(edgeAt(bowed, { x: 5, y: 3 }, null, 0.3)).toBeNull();
});
