import { describe, expect, it } from "vitest";
import type { Laid, Replacing } from "@/api/sources";
import { middleOf, relaid } from "./replacing";

const LAID: Laid = { scale: 1.2, turn_deg: 4, x_mm: 3, y_mm: -2 };
const LOOK = { edit: { laid: LAID, new_width_mm: 80 } } as Replacing;

describe("a file laid by hand", () => {
  it("grows and turns about its middle", () => {
    const before = middleOf(LOOK, LAID);
    for (const by of [{ scale: 0.7 }, { turn_deg: -30 }, { scale: 2, turn_deg: 90 }]) {
      const after = middleOf(LOOK, relaid(LOOK, by));
      expect(after.x).toBeCloseTo(before.x, 9);
      expect(after.y).toBeCloseTo(before.y, 9);
    }
  });

  it("moves by what is asked, and by nothing else", () => {
    expect(relaid(LOOK, { x_mm: 5, y_mm: -1 })).toEqual({ ...LAID, x_mm: 8, y_mm: -3 });
  });
});
