import { expect, test } from "vitest";
import { contrast } from "@/geometry/contrast";
import { CASE, CHOSEN, FAIL, FIRM, hairOn, INK, inkOn, SOFT, TABLE } from "./lines";

const byte = (value: number) => value.toString(16).padStart(2, "0");
const GROUNDS = Array.from({ length: 256 }, (_, k) => [
  `#${byte(k)}${byte(k)}${byte(k)}`,
  `#${byte(k)}${byte(255 - k)}${byte((k * 7) % 256)}`,
]).flat();

test("black on white is 21 to 1", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  expect(contrast("#ffffff", "#000000")).toBeCloseTo(21, 5);
  expect(contrast("#777777", "#777777")).toBe(1);
});

test("a line stands out from its case, so that it is seen on any film", () => {
  for (const colour of [INK, CHOSEN, FAIL]) expect(contrast(colour, CASE)).toBeGreaterThan(4.5);
});

test("thin lines are seen, and figures read, on every ground", () => {
  for (const ground of GROUNDS) expect(contrast(inkOn(ground), ground)).toBeGreaterThan(4.5);
  for (const ground of GROUNDS) expect(contrast(hairOn(ground), ground)).toBeGreaterThanOrEqual(3);
  expect([inkOn(TABLE), hairOn(TABLE)]).toEqual([SOFT, FIRM]);
});

test("lines of the table itself are seen on it", () => {
  for (const colour of [FIRM, SOFT, CHOSEN]) expect(contrast(colour, TABLE)).toBeGreaterThan(3);
});
