import { expect, test } from "vitest";
import type { Mending, Mode } from "@/state/mode";
import { type Effect, type Grip, gripped, type HandEvent, NOTHING, type Spot } from "./grip";
import type { World } from "./world";

const box = (left: number, top: number, right: number, bottom: number) => ({ left, top, right, bottom });
const ARTS = [
  { id: "plaque", box: box(0, 0, 100, 60) },
  { id: "words", box: box(20, 20, 60, 40), letters: [{ index: 2, box: box(20, 20, 30, 40) }] },
];

/** A stage of two pieces of art, words on a plaque, at 2 px a mm. */
function world(over: Partial<World> = {}): World {
  return {
    scene: { arts: ARTS } as never,
    recipe: { arts: [] } as never,
    holes: [],
    scale: 2,
    flat: true,
    arts: [],
    letters: [],
    film: null,
    slip: null,
    areas: null,
    owners: new Map(),
    width: 100,
    filmAt: () => "navy",
    regionAt: () => null,
    colourAt: () => "#ff0000",
    nodeAt: () => null,
    edgeAt: () => null,
    snapped: (mm) => ({ at: mm, guides: [] }),
    isInHole: () => true,
    carriedOn: (trail, mm) => ({ points: [...trail.points, mm], touched: trail.touched }),
    ...over,
  };
}

const at = (x: number, y: number): Spot => ({ px: { x: 2 * x, y: 2 * y }, mm: { x, y } });
const press = (x: number, y: number, more: Partial<HandEvent> = {}): HandEvent =>
  ({ on: "press", at: at(x, y), shift: false, table: false, ...more }) as HandEvent;
const move = (x: number, y: number, shift = false): HandEvent => ({ on: "move", at: at(x, y), shift, time: 0 });
const lift = (x: number, y: number, more = false): HandEvent => ({ on: "lift", at: at(x, y), more });

/** What a gesture leads to, event by event. */
function done(mode: Mode, events: readonly HandEvent[], met: World): { grips: Grip[]; effects: Effect[] } {
  const grips: Grip[] = [];
  const effects: Effect[] = [];
  let grip = NOTHING;
  for (const event of events) {
    const turn = gripped(mode, grip, event, met);
    grip = turn.grip;
    grips.push(grip);
    effects.push(...turn.effects);
  }
  return { grips, effects };
}

const ARRANGING: Mode = { kind: "arranging" };

test("a drag moves the art that is chosen, though smaller art lies over it", () => {
  const { grips, effects } = done(ARRANGING, [press(40, 30), move(47, 31), lift(47, 31)], world({ arts: ["plaque"] }));
  expect(grips[1]).toMatchObject({ holds: "arts", ids: ["plaque"] });
  expect(effects.map((effect) => effect.do)).toEqual(["try", "edit"]);
  expect(grips[2]).toBe(NOTHING);
});

test("a click chooses the smallest art there, one more its letter, and with more it is added or let go", () => {
  const click = (arts: string[], more = false) =>
    done(ARRANGING, [press(25, 30), lift(25, 30, more)], world({ arts })).effects;
  expect(click([])).toEqual([{ do: "choose-arts", arts: ["words"] }]);
  expect(click(["plaque"])).toEqual([{ do: "choose-arts", arts: ["words"] }]);
  expect(click(["words"])).toEqual([{ do: "choose-letters", letters: [2] }]);
  expect(click(["plaque"], true)).toEqual([{ do: "choose-arts", arts: ["plaque", "words"] }]);
  expect(click(["plaque", "words"], true)).toEqual([{ do: "choose-arts", arts: ["plaque"] }]);
  expect(done(ARRANGING, [press(150, 90), lift(150, 90)], world({ arts: ["words"] })).effects).toEqual([
    { do: "choose-arts", arts: [] },
  ]);
});

test("what is not chosen is not moved: the table is", () => {
  const { effects } = done(ARRANGING, [press(40, 30), move(50, 30), move(52, 30), lift(52, 30)], world());
  expect(effects).toEqual([
    { do: "pan", by: { x: 20, y: 0 } },
    { do: "pan", by: { x: 4, y: 0 } },
  ]);
});

test("with Shift art is moved straight, and a box is drawn where there is none", () => {
  const straight = done(ARRANGING, [press(5, 5), move(8, 31, true)], world({ arts: ["plaque"] })).grips[1];
  expect(straight).toMatchObject({ by: { x: 0 } });
  const drawn = done(
    ARRANGING,
    [press(10, 10, { shift: true }), move(70, 50), lift(70, 50)],
    world({ arts: [] }),
  ).effects;
  expect(drawn).toEqual([{ do: "choose-arts", arts: ["words"] }]);
});

test("a hand that slips by less than a few pixels has clicked", () => {
  const slip = [press(25, 30), move(26, 31), lift(26, 31)];
  expect(done(ARRANGING, slip, world({ arts: ["words"] })).effects).toEqual([{ do: "choose-letters", letters: [2] }]);
  expect(done({ kind: "looking" }, slip, world()).effects).toEqual([{ do: "choose-film", film: "navy" }]);
  expect(done({ kind: "looking" }, slip, world({ film: "navy" })).effects).toEqual([{ do: "choose-film", film: null }]);
});

test("what is abandoned does nothing", () => {
  const gone: HandEvent = { on: "abandon" };
  expect(done(ARRANGING, [press(40, 30), gone, lift(60, 30)], world({ arts: ["plaque"] })).effects).toEqual([]);
});

test("where the decal does not lie flat, only the table is moved", () => {
  const exploded = world({ flat: false, arts: ["plaque"] });
  expect(done(ARRANGING, [press(40, 30), lift(40, 30)], exploded).effects).toEqual([]);
  expect(done(ARRANGING, [press(40, 30), move(50, 30)], exploded).effects).toEqual([
    { do: "pan", by: { x: 20, y: 0 } },
  ]);
});

const BRUSH: Mode = {
  ...{ kind: "mending", art: "words", step: "brush", film: null, by: "lasso", mm: 1, mode: "add" },
  ...{ follow: true, into: null },
} as Mode;

test("a mend is drawn as a trail on the film it began on; with Alt the table is moved instead", () => {
  const { effects } = done(BRUSH, [press(10, 10), move(20, 10), lift(20, 10)], world());
  expect(effects).toMatchObject([
    { do: "edit", edit: { kind: "add-mend", art: "words", mend: { film: "navy", path: [{ x: 0.1 }, { x: 0.2 }] } } },
  ]);
  expect(done(BRUSH, [press(10, 10, { table: true }), move(20, 10)], world()).effects).toMatchObject([{ do: "pan" }]);
});

test("a mend that goes round nothing, or began on no film, says so", () => {
  const cut: Mode = { ...BRUSH, step: "cut-away", film: "navy" } as Mode;
  expect(done(cut, [press(10, 10), lift(10, 10)], world()).effects).toMatchObject([
    { do: "tell", remedy: "Draw round what is meant." },
  ]);
  expect(done(BRUSH, [press(10, 10), lift(10, 10)], world({ filmAt: () => null })).effects).toMatchObject([
    { do: "tell", detail: "No film lies where you began." },
  ]);
});

test("regions that a claim meets go to its film", () => {
  const region = { index: 0, x: 3, y: 4 };
  const claiming: Mode = {
    ...{ kind: "claiming", art: "words", target: { film: "red" }, reach: "one", by: "touch" },
    ...{ under: "as-film", near: 0.1 },
  } as Mode;
  const met = world({
    areas: { key: "k", width: 10, all: [region] } as never,
    regionAt: () => region as never,
    carriedOn: (trail, mm) => ({ points: [...trail.points, mm], touched: [0] }),
  });
  const pending = { art: "words", regions: [0], target: { film: "red" } };
  expect(done(claiming, [press(1, 1), lift(1, 1)], met).effects).toMatchObject([{ do: "claim", pending }]);
  // A thin line is taken by a click that goes past the tool.
  expect(done(claiming, [press(1, 1, { table: true }), lift(1, 1)], met).effects).toMatchObject([{ do: "claim" }]);
  expect(done(claiming, [press(1, 1), lift(1, 1)], world()).effects).toEqual([]);
});

test("a click picks a colour, or fills a hole and opens it again", () => {
  const picking: Mode = { kind: "picking", art: "a", picks: [] };
  expect(done(picking, [press(1, 1), lift(1, 1)], world()).effects).toEqual([{ do: "pick", colour: "#ff0000" }]);
  expect(done(picking, [press(1, 1), lift(1, 1)], world({ colourAt: () => null })).effects).toEqual([]);
  const holing: Mode = { kind: "holing", making: "shadow" };
  const hole = { making: "shadow", filled: false, x_mm: 1, y_mm: 1, path: "" };
  const [effect] = done(holing, [press(1, 1), lift(1, 1)], world({ holes: [hole] })).effects;
  const made = effect?.do === "edit" && typeof effect.edit === "function" ? effect.edit : () => null;
  const design = { recipe: { makings: [{ id: "shadow", kind: "outline-shadow", chosen: [] }] } } as never;
  expect(made(design)).toMatchObject({ making: { chosen: [{ x_mm: 1, y_mm: 1 }] } });
  expect(made({ recipe: { makings: [] } } as never)).toBeNull();
});

const MENDING: Mending = {
  ...{ kind: "mending", art: "words", step: "nodes", film: "navy", by: "lasso", mm: 1, mode: "add", follow: true },
  ...{ into: null, node: "take-out", gives: "film", knots: [] },
};
const PLACE = { x_mm: 0, y_mm: 0, turn_deg: 0, scale_x: 1, scale_y: 1, mirrored: false };
const OPEN = { recipe: { arts: [{ id: "words", place: PLACE }] } as never };
const point = (x: number, y: number) => ({ x, y });

test("the pen puts corners down, pulls handles, and closes on its first point", () => {
  const pen: Mending = { ...MENDING, step: "draw-area" };
  const corner = done(pen, [press(10, 10), lift(10, 10)], world(OPEN)).effects;
  const first = { at: point(10, 10), handle: point(10, 10) };
  expect(corner).toEqual([{ do: "draw", knots: [first] }]);
  const curve = done({ ...pen, knots: [first] }, [press(30, 10), move(40, 15), lift(40, 15)], world(OPEN)).effects;
  const second = { at: point(30, 10), handle: point(40, 15) };
  expect(curve).toEqual([{ do: "draw", knots: [first, second] }]);
  const ended = done({ ...pen, knots: [first, second] }, [press(11, 10), lift(11, 10)], world(OPEN)).effects;
  expect(ended.map((effect) => effect.do)).toEqual(["edit", "draw"]);
  expect(ended[0]).toMatchObject({ edit: { mend: { kind: "draw-area", film: "navy", closed: true } } });
  // Without a film nothing is drawn, and what was put down stays.
  const without = done({ ...pen, film: null, knots: [first, second] }, [press(11, 10), lift(11, 10)], world(OPEN));
  expect(without.effects.map((effect) => effect.do)).toEqual(["tell"]);
});

const NODE = { film: "navy", before: point(0, 0), at: point(10, 0), after: point(20, 0), ring: 4 };

test("a node is led elsewhere by a drag, and a click does with it what is chosen", () => {
  const met = world({ ...OPEN, nodeAt: () => NODE });
  const tool = (node: "take-out" | "smooth" | "corner"): Mode => ({ ...MENDING, step: "nodes", node });
  const led = done(tool("take-out"), [press(10, 0), move(12, 5), lift(12, 5)], met).effects;
  expect(led).toMatchObject([{ edit: { mend: { kind: "put-node", form: "as-drawn", to: { x: 0.12, y: 0.05 } } } }]);
  const click = (node: "take-out" | "smooth" | "corner", where = met) =>
    done(tool(node), [press(10, 0), lift(10, 0)], where).effects;
  expect(click("take-out")).toMatchObject([{ edit: { mend: { kind: "straighten" } } }]);
  expect(click("smooth")).toMatchObject([{ edit: { mend: { kind: "put-node", form: "smooth", to: { x: 0.1 } } } }]);
  expect(click("corner")).toMatchObject([{ edit: { mend: { form: "corner" } } }]);
  const few = world({ ...OPEN, nodeAt: () => ({ ...NODE, ring: 3 }) });
  expect(click("take-out", few)).toMatchObject([{ do: "tell" }]);
});

test("a node is added where an edge is dragged, and not by a click", () => {
  const met = world({ ...OPEN, edgeAt: () => NODE });
  const tool: Mode = { ...MENDING, step: "nodes", node: "smooth" };
  const dragged = done(tool, [press(10, 0), move(12, 5), lift(12, 5)], met).effects;
  expect(dragged).toMatchObject([{ edit: { mend: { kind: "put-node", form: "smooth" } } }]);
  expect(done(tool, [press(10, 0), lift(10, 0)], met).effects).toMatchObject([{ do: "tell" }]);
  expect(done(tool, [press(10, 0), lift(10, 0)], world(OPEN)).effects).toMatchObject([{ do: "tell" }]);
});
