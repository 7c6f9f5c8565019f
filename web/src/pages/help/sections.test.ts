import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { keysOf, matching, sectionsOf } from "./sections";

const GUIDE = readFileSync(new URL("../../../../docs/guide.md", import.meta.url), "utf-8");
const SECTIONS = sectionsOf(GUIDE);

test("the guide falls into its parts, and nothing of it is lost", () => {
  expect(SECTIONS.map((section) => section.body).join("")).toBe(GUIDE);
  expect(new Set(SECTIONS.map((section) => section.key)).size).toBe(SECTIONS.length);
});

test("each of the jobs has its steps and a picture", () => {
  const jobs = SECTIONS.filter((section) => /^1\. /m.test(section.body));
  expect(jobs).toHaveLength(24);
  for (const job of jobs) expect(job.body).toMatch(/!\[.+\]\(guide\/.+\.png\)/);
});

test("a search finds the parts with all of its words", () => {
  expect(matching(SECTIONS, "stitch gap").map((section) => section.title)).toEqual(["A badge with stitches"]);
  expect(matching(SECTIONS, "zeppelin xylophone")).toEqual([]);
  expect(matching(SECTIONS, " ")).toHaveLength(SECTIONS.length);
});

// What a maker may call it who has not read the guide.
test.each(
  "offset merge slice scrap pounce iron contour combine split subtract trace overlap leftover layer vinyl peel base glass card"
    .split(" ")
    .concat(
      "registration marks",
      "heat press",
      "application film",
      "too many nodes",
      "another picture",
      "five minutes",
    ),
)("%s leads somewhere", (word) => {
  expect(matching(SECTIONS, word).length).toBeGreaterThan(0);
});

test("the keys of the guide are those of the sheet", () => {
  const keys = keysOf(GUIDE);
  expect(keys.length).toBeGreaterThan(9);
  expect(new Set(keys.map(([key]) => key)).size).toBe(keys.length);
  expect(keys.find(([key]) => key === "Esc")?.[1]).toMatch(/^put a tool down/);
  expect(keysOf("# No keys here")).toEqual([]);
});
