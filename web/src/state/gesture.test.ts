import { expect, test } from "vitest";
import type { Region } from "@/api/client";
import type { Claiming, Mending } from "@/state/mode";
import { type Area, type Areas, alike, goneRound, ownerOf } from "@/state/regions";
import { around, carriedOn, claimEdit, mendOf, taken } from "./gesture";

const square = (index: number, x: number, y: number, size: number, more: Partial<Region> = {}): Area =>
  ({
    index,
    path: "",
    film: null,
    colour: null,
    x: (x + size / 2) / 100,
    y: (y + size / 2) / 100,
    area_mm2: size * size,
    width_mm: size,
    height_mm: size,
    across_mm: size,
    depth: 1,
    parent: 0,
    waits: true,
    left: x,
    top: y,
    outline: [x, y, x + size, y, x + size, y + size, x, y + size],
    shape: null,
    ...more,
  }) as unknown as Area;

const areas: Areas = {
  key: "k",
  width: 100,
  all: [
    square(0, 0, 0, 90, { film: "#14100c", colour: "#000000", depth: 0, parent: -1, waits: false }),
    square(1, 10, 10, 20),
    square(2, 50, 10, 20.5),
    square(3, 10, 50, 8, { depth: 2, parent: 1 }),
  ],
};
const tool: Claiming = {
  kind: "claiming",
  art: "a",
  target: { film: "#c0392b" },
  reach: "one",
  by: "touch",
  under: "solid",
  near: 0.12,
};
const nobody = new Map();

test("a lasso takes the regions that lie in it for the most part", () => {
  const lasso = [
    { x: 5, y: 5 },
    { x: 80, y: 5 },
    { x: 80, y: 40 },
    { x: 5, y: 40 },
  ];
  expect(areas.all.map((area) => goneRound(lasso, area))).toEqual([false, true, true, false]);
  expect(taken({ ...tool, by: "lasso" }, { points: lasso, touched: [3] }, areas, nobody)).toEqual([1, 2]);
  const round = lasso.map(({ x, y }) => ({ x: x - 10, y: y < 10 ? -5 : 95 }));
  expect(taken({ ...tool, by: "lasso" }, { points: round, touched: [] }, areas, nobody)).not.toContain(0);
  const corners = [lasso[0], lasso[2]] as { x: number; y: number }[];
  expect(around(corners, "box")).toEqual(lasso);
  expect(taken({ ...tool, by: "box" }, { points: corners, touched: [] }, areas, nobody)).toEqual([1, 2]);
});

test("others like a region are those of its size, outline or depth", () => {
  expect(alike(areas, { index: 1 }, "size", nobody, 0.12)).toEqual([1, 2]);
  expect(alike(areas, { index: 1 }, "depth", nobody, 0.12)).toEqual([1, 2]);
  expect(alike(areas, { index: 3 }, "outline", nobody, 0.12)).toEqual([3]);
  expect(alike(areas, { index: 1 }, "colour", nobody, 0.12)).toEqual([1, 2, 3]);
  const owners = new Map([[2, { region: 2, film: "#1d2b53", becomes: "film" as const, under: "as-film" as const }]]);
  expect(alike(areas, { index: 1 }, "colour", owners, 0.12)).toEqual([1, 3]);
  expect(areas.all.map((area) => ownerOf(owners, area))).toEqual(["#14100c", "waits", "#1d2b53", "waits"]);
});

test("a trail keeps each region once and leaves out points that are too close", () => {
  const start = carriedOn({ points: [], touched: [] }, { x: 0, y: 0 }, areas.all[1] ?? null, 1);
  expect(carriedOn(start, { x: 0.2, y: 0 }, areas.all[1] ?? null, 1)).toBe(start);
  const on = carriedOn(start, { x: 5, y: 0 }, areas.all[2] ?? null, 1);
  expect(on).toEqual({
    points: [
      { x: 0, y: 0 },
      { x: 5, y: 0 },
    ],
    touched: [1, 2],
  });
});

test("a claim pins each region at its own point", () => {
  const edit = claimEdit(tool, { film: "#c0392b" }, areas, [1]);
  expect(edit).toEqual({
    kind: "claim-regions",
    art: "a",
    pins: [{ x: 0.2, y: 0.2, film: "#c0392b", becomes: "film", under: "solid" }],
  });
  const open = claimEdit(tool, { film: null, becomes: "hole" }, areas, [1]);
  expect(open).toMatchObject({ pins: [{ film: null, becomes: "hole", under: "as-film" }] });
});

test("a gesture becomes a step of mending in shares of the art's width", () => {
  const mend: Mending = {
    kind: "mending",
    art: "a",
    step: "bridge",
    film: null,
    by: "box",
    mm: null,
    mode: "add",
    follow: true,
    into: null,
    node: "take-out",
    gives: "film",
    knots: [],
  };
  const trail = {
    points: [
      { x: 10, y: 20 },
      { x: 30, y: 60 },
    ],
    touched: [],
  };
  expect(mendOf(mend, trail, 100, null)).toMatchObject({
    start: { x: 0.1, y: 0.2 },
    end: { x: 0.3, y: 0.6 },
    width_mm: null,
  });
  expect(mendOf({ ...mend, step: "smooth" }, trail, 100, null)).toBeNull();
  expect(mendOf({ ...mend, step: "smooth", mm: 2 }, trail, 100, "#c0392b")).toMatchObject({
    film: "#c0392b",
    reach_mm: 2,
  });
  expect(mendOf({ ...mend, step: "cut-away" }, trail, 100, null)).toMatchObject({ film: null, around: { length: 4 } });
  expect(mendOf({ ...mend, step: "take-over", by: "lasso" }, trail, 100, "#c0392b")).toBeNull();
});
