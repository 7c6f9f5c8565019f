import type { Recipe, Use } from "@/api/client";

export type Ground = NonNullable<Recipe["ground"]>;

/** What can be decorated, and the colour it is shown in at first. */
export const GROUNDS: readonly { kind: Ground["kind"]; text: string; colour: string }[] = [
  { kind: "table", text: "Light table", colour: "#fbfaf7" },
  { kind: "shirt", text: "Shirt", colour: "#34495e" },
  { kind: "mug", text: "Mug", colour: "#f3f1ea" },
  { kind: "window", text: "Window", colour: "#bcd3de" },
  { kind: "wood", text: "Wood", colour: "#b98a5a" },
];

export function groundOf(kind: Ground["kind"]): Ground {
  return { kind, colour: GROUNDS.find((ground) => ground.kind === kind)?.colour ?? "#fbfaf7" };
}

/** What a new design is for: how wide, how it is used, on what ground. */
export interface Purpose {
  readonly key: string;
  readonly text: string;
  readonly width: string;
  readonly use: Use;
  readonly ground: Ground["kind"];
}

export const PURPOSES: readonly [Purpose, ...Purpose[]] = [
  { key: "any", text: "Anything", width: "120 mm", use: "surface", ground: "table" },
  { key: "shirt", text: "Shirt, left chest", width: "90 mm", use: "heat-transfer", ground: "shirt" },
  { key: "mug", text: "Mug, all round", width: "200 mm", use: "surface", ground: "mug" },
  { key: "window", text: "Car window", width: "300 mm", use: "surface", ground: "window" },
  { key: "inside", text: "Window, from inside", width: "300 mm", use: "glass", ground: "window" },
  { key: "banner", text: "Banner", width: "900 mm", use: "surface", ground: "table" },
];
