import { expect, test } from "vitest";
import { telling } from "./Readings";

test("the lines that tell an encoding are those with letters beyond A to Z", () => {
  expect(telling("name\nAda\nÅsa\r\nBo\nBrân\nJosé\nZoë")).toEqual(["Åsa", "Brân", "José"]);
  expect(telling("Ada\n\nBo")).toEqual(["Ada", "Bo"]);
});
