import { expect, test } from "vitest";
import { arrivalOf, tableOf } from "./arrival";

test("files are told apart by their names, pictures and drawings are art", async () => {
  const kinds: Record<string, string> = {
    "evening.ZIP": "parcel",
    "Brush.otf": "font",
    "line.woff2": "font",
    "owl.png": "art",
    "logo.svg": "art",
    "plan.dxf": "art",
    "guests.tsv": "names",
    "no ending": "art",
  };
  for (const [name, kind] of Object.entries(kinds)) expect(await arrivalOf(new File(["Ada"], name)), name).toBe(kind);
});

test("a table of films is known by the heads of its columns", () => {
  expect(tableOf("id,name,kind,colour,finish\nx,Navy,smooth,#1d2b53,matte")).toBe("films");
  expect(tableOf('\uFEFF"Colour";"Kind";"Name"\r\n')).toBe("films");
  expect(tableOf("name,colour\nAda,red")).toBe("names");
  expect(tableOf("Halloran\nÅsa")).toBe("names");
  expect(tableOf("")).toBe("names");
});
