import { describe, expect, it, test } from "vitest";
import LENGTHS from "../../../tests/cases/lengths.json";
import {
  editLength,
  nudge,
  readLength,
  restLength,
  showArea,
  showLength,
  showTime,
  soldLength,
  soldSize,
  withUnit,
} from "./lengths";

describe("lengths", () => {
  it("reads like a measurement in either unit", () => {
    expect(showLength(120, "mm")).toBe("120.0 mm");
    expect(showLength(25.4, "in")).toBe("1.000 in");
  });

  it("edits without idle zeros and without losing the value", () => {
    expect(editLength(0.4, "mm")).toBe("0.4 mm");
    expect(Number.parseFloat(editLength(3.175, "in")) * 25.4).toBeCloseTo(3.175, 3);
  });

  it("tells what is sold in inches in inches", () => {
    expect(soldSize(304.8, 609.6, "mm")).toBe("12 × 24 in");
    expect(soldSize(210, 297, "mm")).toBe("210 × 297 mm");
    expect(soldSize(304.8, 297, "mm")).toBe("304.8 × 297 mm");
    expect(soldLength(304.8, "in")).toBe("12 in");
    expect(soldLength(254, "mm")).toBe("254 mm");
    expect(soldLength(96.4, "mm")).toBe("96.4 mm");
  });

  it("rests as fine as it is looked at", () => {
    expect([207.388, 0.004, 0.25, -3.456, 60].map((mm) => restLength(mm, "mm"))).toEqual([
      "207.4 mm",
      "0 mm",
      "0.25 mm",
      "-3.46 mm",
      "60 mm",
    ]);
    expect(restLength(207.388, "in")).toBe("8.165 in");
  });

  it("adds the unit only where there is none", () => {
    expect(withUnit("0.05", "in")).toBe("0.05in");
    expect(withUnit("1/8in", "mm")).toBe("1/8in");
    expect(withUnit(" 3 mm ", "in")).toBe("3 mm");
  });

  it("nudges numbers and leaves fractions alone", () => {
    expect(nudge("0.4 mm", "mm", 1)).toBe("0.5 mm");
    expect(nudge("0", "mm", -3)).toBe("0 mm");
    expect(nudge("1/8in", "in", 1)).toBeNull();
  });
});

test("areas and times are told in units that suit their size", () => {
  expect([84.2, 1250].map((area) => showArea(area, "mm"))).toEqual(["84.2 mm²", "12.5 cm²"]);
  expect([6.4516, 1290.32].map((area) => showArea(area, "in"))).toEqual(["0.010 in²", "2.00 in²"]);
  expect([44.6, 61, 600].map(showTime)).toEqual(["45 s", "1 min 01 s", "10 min 00 s"]);
});

test("lengths are read here as the server reads them", () => {
  for (const [text, unit, mm] of LENGTHS as [string, "mm" | "in", number | null][]) {
    const read = readLength(text, unit);
    if (mm === null) expect(read, text).toBeNull();
    else expect(read, text).toBeCloseTo(mm, 6);
  }
});
