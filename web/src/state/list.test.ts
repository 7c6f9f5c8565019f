import { expect, test } from "vitest";
import type { DesignLine } from "@/api/client";
import { sought } from "@/state/list";

const line = (name: string, tags: string[] = []): DesignLine => ({
  id: name,
  name,
  tags,
  changed: "",
  revision: 1,
  binned: null,
  ground: "#ffffff",
  versions: [],
  films: null,
  width_mm: null,
  height_mm: null,
  unit: "mm",
});
const LINES = [line("Owl 10", ["shirts"]), line("Owl 9"), line("dome", ["shirts", "window"])];
const names = (found: DesignLine[]) => found.map((one) => one.name);

test("all words must be found, in the name or the tags, whatever their case", () => {
  expect(names(sought(LINES, "OWL", null, "changed"))).toEqual(["Owl 10", "Owl 9"]);
  expect(names(sought(LINES, "owl shirts", null, "changed"))).toEqual(["Owl 10"]);
  expect(names(sought(LINES, "  ", null, "changed"))).toHaveLength(3);
});

test("a tag narrows the list, and names are in the order people count in", () => {
  expect(names(sought(LINES, "", "window", "changed"))).toEqual(["dome"]);
  expect(names(sought(LINES, "", null, "name"))).toEqual(["dome", "Owl 9", "Owl 10"]);
});
