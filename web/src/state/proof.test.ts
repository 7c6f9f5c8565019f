import { expect, test } from "vitest";
import { type AnyFinding, byWhen, countsOf, isSamePlace, soFar } from "./proof";

function found(code: string, severity: "stop" | "mind" | "note", when: string, about = "red"): AnyFinding {
  const place = { at: { x_mm: 1, y_mm: 2 }, box: null, outline: "", across: null };
  return { code, severity, when, about, text: code, place, fixes: [] } as never;
}

const FOUND = [
  found("spike", "note", "weeding"),
  found("thin-part", "mind", "weeding"),
  found("thin-part", "stop", "weeding"),
  found("thin-part", "mind", "weeding", "navy"),
  found("lost", "mind", "source"),
];

test("what is told stands by when it happens, the alike together and the gravest first", () => {
  const groups = byWhen(FOUND);
  expect(groups.map(({ when }) => when)).toEqual(["source", "weeding"]);
  const weeding = groups[1]?.alike ?? [];
  expect(weeding.map(({ key }) => key)).toEqual(["thin-part red", "thin-part navy", "spike red"]);
  expect(weeding[0]?.findings.map(({ severity }) => severity)).toEqual(["stop", "mind"]);
});

test("kinds of trouble are counted, not places", () => {
  expect(countsOf(FOUND)).toEqual({ stop: 1, mind: 2, note: 1 });
  expect(countsOf([])).toEqual({ stop: 0, mind: 0, note: 0 });
});

test("a place that is told once more is the same place", () => {
  const [a, b] = [found("lost", "mind", "source").place, found("lost", "mind", "source").place];
  expect(isSamePlace(a, b)).toBe(true);
  expect(isSamePlace(a, b && { ...b, at: { x_mm: 3, y_mm: 2 } })).toBe(false);
  expect(isSamePlace(a, null)).toBe(false);
});

test("until all is proved anew, films are told of as they are and how they lie as it was", () => {
  const [thin, slit, drift] = FOUND as never[];
  const before = { findings: [thin, drift], of_films: 1 } as never;
  expect(soFar(undefined, undefined)).toEqual([]);
  expect(soFar([slit as never], undefined)).toEqual([slit]);
  expect(soFar(undefined, before)).toEqual([thin, drift]);
  expect(soFar([slit as never], before)).toEqual([slit, drift]);
});
