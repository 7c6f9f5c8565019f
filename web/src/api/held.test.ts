import { expect, test } from "vitest";
import { heldKeys, wholeBuilt } from "./held";

type Sent = Parameters<typeof wholeBuilt>[0];

function sent(...layers: [string, string | null][]): Sent {
  return { arts: [], layers: layers.map(([key, path]) => ({ key, path, before: path && "" })) } as unknown as Sent;
}

test("outlines that were sent once are put back by their keys", () => {
  wholeBuilt(sent(["a", "M0 0Z"], ["b", "M1 1Z"]));
  expect(heldKeys().split(",")).toEqual(["a", "b"]);
  const next = wholeBuilt(sent(["b", null], ["c", "M2 2Z"]));
  expect(next.layers.map((layer) => layer.shape.path)).toEqual(["M1 1Z", "M2 2Z"]);
  expect(() => wholeBuilt(sent(["never", null]))).toThrow("gone");
});

test("only as many are kept as a request can name, the newest longest", () => {
  for (let k = 0; k < 400; k += 1) wholeBuilt(sent([`k${k}`, "M0 0Z"], ["b", "M1 1Z"]));
  const keys = heldKeys().split(",");
  expect(keys).toHaveLength(300);
  expect(keys).toContain("b");
  expect(keys).not.toContain("k3");
});
