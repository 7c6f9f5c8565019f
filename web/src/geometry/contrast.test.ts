import { expect, test } from "vitest";
import { apart, contrasting } from "./contrast";

test("black and white are a hundred apart, and a colour is not apart from itself", () => {
  expect(apart("#000000", "#ffffff")).toBeCloseTo(100, 0);
  expect(apart("#c0392b", "#c0392b")).toBe(0);
});

test("a colour that stands out is kept", () => {
  expect(contrasting("#1d2b53", ["#fff4d6"])).toBe("#1d2b53");
  expect(contrasting("#1d2b53", [])).toBe("#1d2b53");
});

test("one that does not gives way to one that stands out from all", () => {
  for (const source of ["#1d2b53", "#25231e", "#f2b632", "#fff4d6", "#c0392b"]) {
    const found = contrasting(source, [source, "#101010"]);
    expect(apart(found, source)).toBeGreaterThan(35);
    expect(apart(found, "#101010")).toBeGreaterThan(35);
  }
});
