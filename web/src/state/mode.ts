import type { Becomes, MendKind, Recipe, Under } from "@/api/client";
import type { Point } from "@/geometry/transform";
import type { Knot } from "@/state/pen";

export const PLACES = ["Art", "Colours", "Stack", "Proof", "Sheets", "Cut"] as const;
export type Place = (typeof PLACES)[number];

/** Which other regions are taken along with the one that is pointed at. */
export const REACHES = ["one", "colour", "size", "outline", "depth"] as const;
export type Reach = (typeof REACHES)[number];
/** How regions, or an area, are taken: touched, or gone round by a box or a lasso. */
export type Gesture = "touch" | "box" | "lasso";
/** What a region is to be: a film's, or something without one. */
export type Target = { film: string } | { film: null; becomes: Exclude<Becomes, "film"> };

/** Regions are given to a film by pointing at them. */
export interface Claiming {
  readonly kind: "claiming";
  readonly art: string;
  readonly target: Target;
  readonly reach: Reach;
  readonly by: Gesture;
  readonly under: Under;
  /** How near in size regions of the same size are: a share of the one pointed at. */
  readonly near: number;
}

/** What the hand does while it mends: draws a step, or moves and turns nodes. */
export type MendingStep = Exclude<MendKind, "let-go" | "put-node"> | "nodes";
/** What a click does to a node. */
export const NODE_CLICKS = ["take-out", "smooth", "corner"] as const;
export type NodeClick = (typeof NODE_CLICKS)[number];
/** What comes of what the pen draws. */
export type PenGives = "film" | "opening" | "claim";

/** A step of mending is drawn. */
export interface Mending {
  readonly kind: "mending";
  readonly art: string;
  readonly step: MendingStep;
  /** The film that is mended; null for all, or for the one that is pointed at. */
  readonly film: string | null;
  readonly by: "box" | "lasso";
  /** Width of the brush or bridge, reach of the smoothing, or how far an edge is pushed; null for the proposed one. */
  readonly mm: number | null;
  readonly mode: "add" | "take";
  readonly follow: boolean;
  /** Which neighbour takes over; null for all of them together. */
  readonly into: string | null;
  readonly node: NodeClick;
  readonly gives: PenGives;
  /** Where the pen was put down, up to now. */
  readonly knots: readonly Knot[];
}

/** The colours that are to be a picture's whole palette are picked from it. */
export interface Picking {
  readonly kind: "picking";
  readonly art: string;
  readonly picks: readonly string[];
}

/** Holes of an outline shadow are filled by clicking. */
export interface Holing {
  readonly kind: "holing";
  readonly making: string;
}

/** A film is taken in hand and laid off its place, to see what that bares; null: the one that is pointed at. */
export interface Slipping {
  readonly kind: "slipping";
  readonly film: string | null;
}

/** Words are written where they lie; the caret comes first to a point (mm), or behind the last character. */
export interface Writing {
  readonly kind: "writing";
  readonly art: string;
  readonly at: Point | null;
}

/** What the hand does on the stage: it is in one mode at a time, and rests in that of the place. */
export type Mode =
  | { readonly kind: "looking" }
  | { readonly kind: "arranging" }
  | Writing
  | Claiming
  | Mending
  | Picking
  | Slipping
  | Holing;

const RESTS: Record<Place, "looking" | "arranging"> = {
  Art: "arranging",
  Colours: "looking",
  Stack: "looking",
  Proof: "looking",
  Sheets: "looking",
  Cut: "looking",
};

/** The mode of a hand that has taken up nothing. */
export function atRest(place: Place): Mode {
  return { kind: RESTS[place] };
}

/** Whether a mode was taken up, and can be put down. */
export function isTakenUp(mode: Mode): boolean {
  return mode.kind !== "looking" && mode.kind !== "arranging";
}

/** Whether a mode can go on in a design as it is now, with the art that is chosen. */
export function goesOn(mode: Mode, recipe: Recipe, chosen: readonly string[]): boolean {
  switch (mode.kind) {
    case "looking":
    case "arranging":
      return true;
    case "slipping":
      return true;
    case "holing":
      return (recipe.makings ?? []).some((making) => making.id === mode.making);
    default:
      return recipe.arts.some((art) => art.id === mode.art) && (chosen.length === 0 || chosen.includes(mode.art));
  }
}

/** The art that is chosen: where a design has but one, that is. */
export function chosenArts(recipe: Recipe, chosen: readonly string[]): readonly string[] {
  const here = recipe.arts.filter((art) => chosen.includes(art.id));
  return (here.length === 0 && recipe.arts.length === 1 ? recipe.arts : here).map((art) => art.id);
}
