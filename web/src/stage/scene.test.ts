import { expect, test } from "vitest";
import { nodesOf } from "./scene";

test("nodes are the ends of lines and curves, wherever they are told from", () => {
  const nodes = (outline: string) => nodesOf({ outline }).map(({ x, y }) => [x, y]);
  expect(nodes("M1000 2000l500-250c10 10 20-20 300 0Z")).toEqual([
    [1, 2],
    [1.5, 1.75],
    [1.8, 1.75],
  ]);
  expect(nodes("M0 0l1000 0l0 1000l-1000-1000ZM5000-5000l0 1Z")).toEqual([
    [0, 0],
    [1, 0],
    [1, 1],
    [5, -5],
    [5, -4.999],
  ]);
});
