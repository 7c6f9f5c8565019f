import { describe, expect, it, test } from "vitest";
import { fitView, panBy, shownAt, toMm, toPixel, zoomAt } from "./transform";

describe("view", () => {
  const view = { scale: 3, x: 40, y: -20 };

  it("takes pixels to millimetres and back", () => {
    const there = toPixel(view, { x: 12.5, y: 7 });
    expect(toMm(view, there)).toEqual({ x: 12.5, y: 7 });
  });

  it("keeps what lies under the pointer when zooming", () => {
    const at = { x: 300, y: 111 };
    const before = toMm(view, at);
    const after = toMm(zoomAt(view, at, 2.7), at);
    expect(after.x).toBeCloseTo(before.x, 9);
    expect(after.y).toBeCloseTo(before.y, 9);
  });

  it("shows a box whole, in the middle", () => {
    const fit = fitView({ left: 0, top: 0, right: 100, bottom: 50 }, 800, 600, 50);
    expect(fit.scale).toBe(7);
    expect(toPixel(fit, { x: 50, y: 25 })).toEqual({ x: 400, y: 300 });
  });

  it("pans by pixels and never zooms away", () => {
    expect(panBy(view, 5, -5)).toEqual({ scale: 3, x: 45, y: -25 });
    expect(zoomAt(view, { x: 0, y: 0 }, 1e-9).scale).toBeGreaterThan(0);
  });
});

test("a place out of sight is brought to the middle, one in sight is left alone", () => {
  const view = { scale: 10, x: 0, y: 0 };
  expect(shownAt(view, { x: 20, y: 20 }, 400, 400)).toBe(view);
  expect(toPixel(shownAt(view, { x: 90, y: 20 }, 400, 400), { x: 90, y: 20 })).toEqual({ x: 200, y: 200 });
});
