import { expect, test } from "vitest";
import { placeIn } from "./address";

test("an address leads to a place of a design, or to none", () => {
  expect(placeIn("/design/demo-badge/proof")).toBe("Proof");
  expect(placeIn("/design/demo-badge")).toBeNull();
  expect(placeIn("/design/demo-badge/nonsense")).toBeNull();
  expect(placeIn("/job/proof")).toBeNull();
});
