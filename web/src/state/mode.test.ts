import { expect, test } from "vitest";
import type { Recipe } from "@/api/client";
import { chosenArts, goesOn, type Mode } from "./mode";

const recipe = (...ids: string[]) =>
  ({ arts: ids.map((id) => ({ id })), makings: [{ id: "shadow" }] }) as unknown as Recipe;

test("what is chosen in the panel is chosen on the stage: the one art of a design is", () => {
  expect(chosenArts(recipe("a"), [])).toEqual(["a"]);
  expect(chosenArts(recipe("a", "b"), [])).toEqual([]);
  expect(chosenArts(recipe("a", "b"), ["b", "gone"])).toEqual(["b"]);
});

test("a mode ends with the art or the shadow it is about, or when other art is chosen", () => {
  const picking: Mode = { kind: "picking", art: "a", picks: [] };
  expect(goesOn(picking, recipe("a", "b"), [])).toBe(true);
  expect(goesOn(picking, recipe("a", "b"), ["b"])).toBe(false);
  expect(goesOn(picking, recipe("b"), [])).toBe(false);
  expect(goesOn({ kind: "holing", making: "shadow" }, recipe("a"), ["a"])).toBe(true);
  expect(goesOn({ kind: "holing", making: "gone" }, recipe("a"), ["a"])).toBe(false);
  expect(goesOn({ kind: "arranging" }, recipe(), [])).toBe(true);
});
