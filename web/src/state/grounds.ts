import type { Method, Recipe } from "@/api/client";

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

/** What a new design is for: how wide, of what film, on what ground. */
export interface Use {
  readonly key: string;
  readonly text: string;
  readonly width: string;
  readonly method: Method;
  readonly ground: Ground["kind"];
}

export const USES: readonly [Use, ...Use[]] = [
  { key: "any", text: "Anything", width: "120 mm", method: "adhesive", ground: "table" },
  { key: "shirt", text: "Shirt, left chest", width: "90 mm", method: "heat-transfer", ground: "shirt" },
  { key: "mug", text: "Mug, all round", width: "200 mm", method: "adhesive", ground: "mug" },
  { key: "window", text: "Car window", width: "300 mm", method: "adhesive", ground: "window" },
  { key: "banner", text: "Banner", width: "900 mm", method: "adhesive", ground: "table" },
];
