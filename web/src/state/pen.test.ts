import { expect, test } from "vitest";
import type { Art } from "@/api/client";
import type { Mending } from "@/state/mode";
import { canClose, type Knot, penEdit, withoutNode } from "./pen";
import type { Area, Areas } from "./regions";

const PLACE = { x_mm: 10, y_mm: 0, turn_deg: 0, scale_x: 2, scale_y: 2, mirrored: false };
const ART = { id: "a", kind: "picture", place: PLACE } as unknown as Art;
const corner = (x: number, y: number): Knot => ({ at: { x, y }, handle: { x, y } });
const TRIANGLE = [corner(10, 0), corner(110, 0), corner(10, 100)];
const tool = (changes: Partial<Mending>): Mending => ({
  ...{ kind: "mending", art: "a", step: "draw-area", film: "#c0392b", by: "lasso", mm: 2, mode: "add", follow: true },
  ...{ into: null, node: "take-out", gives: "film", knots: TRIANGLE },
  ...changes,
});
const small = { index: 3, colour: null, x: 0.1, y: 0.1, outline: [8, 8, 12, 8, 12, 12, 8, 12] } as unknown as Area;
const areas = { key: "k", width: 100, all: [null, null, null, small].map((one) => one ?? outside()) } as Areas;

function outside(): Area {
  return { index: 0, colour: null, x: 0.9, y: 0.9, outline: [90, 90, 95, 90, 95, 95] } as unknown as Area;
}

test("an area is told in shares of its art, wherever that lies", () => {
  expect(penEdit(tool({}), ART, 100, null, true)).toMatchObject({
    kind: "add-mend",
    mend: {
      kind: "draw-area",
      film: "#c0392b",
      closed: true,
      path: [
        { x: 0, y: 0 },
        { x: 0.5, y: 0 },
        { x: 0, y: 0.5 },
      ],
    },
  });
  expect(penEdit(tool({ gives: "opening" }), ART, 100, null, true)).toMatchObject({ mend: { film: null } });
  expect(penEdit(tool({}), ART, 100, null, false)).toMatchObject({ mend: { closed: false, width_mm: 2 } });
});

test("regions it goes round are claimed, and a claim without any is none", () => {
  const claim = tool({ gives: "claim" });
  expect(penEdit(claim, ART, 100, areas, true)).toMatchObject({
    kind: "claim-regions",
    pins: [{ x: 0.1, y: 0.1, film: "#c0392b" }],
  });
  const aside = { ...claim, knots: [corner(150, 150), corner(160, 150), corner(150, 160)] };
  expect(penEdit(aside, ART, 100, areas, true)).toBeNull();
  expect(penEdit(claim, ART, 100, areas, false)).toBeNull();
});

test("what is no area or has no film is nothing yet", () => {
  const [a, b] = TRIANGLE as [Knot, Knot];
  expect(canClose([a, b])).toBe(false);
  expect(canClose([a, { ...b, handle: { x: 110, y: 30 } }])).toBe(true);
  expect(penEdit(tool({ knots: [a, b] }), ART, 100, null, true)).toBeNull();
  expect(penEdit(tool({ knots: [a] }), ART, 100, null, false)).toBeNull();
  expect(penEdit(tool({ film: null }), ART, 100, null, true)).toBeNull();
});

test("a node is taken out between those beside it", () => {
  const node = { film: "f", before: { x: 10, y: 0 }, at: { x: 20, y: 0 }, after: { x: 30, y: 20 }, ring: 4 };
  expect(withoutNode(ART, node, 100)).toMatchObject({
    start: { x: 0, y: 0 },
    end: { x: 0.1, y: 0.1 },
    through: { x: 0.05 },
  });
});
