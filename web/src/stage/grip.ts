import { around } from "@/geometry/boxes";
import type { Box, Point } from "@/geometry/transform";
import type { MadeEdit } from "@/state/design";
import type { Trail } from "@/state/gesture";
import type { Mode, Target } from "@/state/mode";
import { movedBy } from "@/state/moves";
import type { EdgeNode, Knot } from "@/state/pen";
import { drawn, type Guide } from "./handling";
import { MODES } from "./modes";
import type { World } from "./world";

/** A place on the stage: pixels of its pane, and mm of the stack. */
export interface Spot {
  readonly px: Point;
  readonly mm: Point;
}

export interface Press {
  readonly on: "press";
  readonly at: Spot;
  readonly shift: boolean;
  /** Whether the table itself is meant, whatever lies there. */
  readonly table: boolean;
}

/** What a pointer, or the keys of the crosshair, did. */
export type HandEvent =
  | Press
  | { readonly on: "move"; readonly at: Spot; readonly shift: boolean; readonly time: number }
  | { readonly on: "lift"; readonly at: Spot; readonly more: boolean }
  | { readonly on: "abandon" };

/** What is held between press and lift. */
export type Grip =
  | { readonly holds: "nothing" }
  | { readonly holds: "table"; readonly from: Spot; readonly at: Spot; readonly moved: boolean }
  | { readonly holds: "box"; readonly from: Spot; readonly at: Spot; readonly moved: boolean }
  | HeldArts
  | HeldFilm
  | { readonly holds: "trail"; readonly from: Spot; readonly trail: Trail }
  | HeldKnot
  | HeldNode;

/** The pen put down: drawn away from there it pulls a handle; on the first knot it closes the way. */
export interface HeldKnot {
  readonly holds: "knot";
  readonly from: Spot;
  readonly knot: Knot;
  readonly closes: boolean;
  readonly guides: readonly Guide[];
}

/** A node of an edge, or with `added` a point between two, and where it has been taken to; null as long as it was not. */
export interface HeldNode {
  readonly holds: "node";
  readonly from: Spot;
  readonly node: EdgeNode;
  readonly added: boolean;
  readonly to: Point | null;
  readonly guides: readonly Guide[];
}

export interface HeldArts {
  readonly holds: "arts";
  readonly ids: readonly string[];
  readonly boxes: readonly Box[];
  readonly from: Spot;
  /** How far it was moved, mm; null as long as it was not. */
  readonly by: Point | null;
  readonly guides: readonly Guide[];
}

/** A film in hand: where it lay when it was taken, and where it lies now, mm off its place. */
export interface HeldFilm {
  readonly holds: "film";
  readonly film: string;
  readonly from: Spot;
  readonly before: Point;
  readonly by: Point;
}

/** Regions that are on their way to a film. */
export interface Claimed {
  readonly art: string;
  readonly regions: readonly number[];
  readonly target: Target;
}

/** What a gesture asks for. */
export type Effect =
  | { readonly do: "pan"; readonly by: Point }
  | { readonly do: "try"; readonly edit: MadeEdit; readonly at: Point; readonly time: number }
  | { readonly do: "edit"; readonly edit: MadeEdit }
  | { readonly do: "claim"; readonly edit: MadeEdit; readonly pending: Claimed }
  | { readonly do: "choose-film"; readonly film: string | null }
  | { readonly do: "choose-arts"; readonly arts: readonly string[] }
  | { readonly do: "choose-letters"; readonly letters: readonly number[] }
  | { readonly do: "pick"; readonly colour: string }
  | { readonly do: "draw"; readonly knots: readonly Knot[] }
  | { readonly do: "slip"; readonly film: string; readonly by: Point }
  | { readonly do: "tell"; readonly detail: string; readonly remedy: string };

export interface Turn {
  readonly grip: Grip;
  readonly effects: readonly Effect[];
}

export const NOTHING: Grip = { holds: "nothing" };
const SLIP_PX = 4;
export const SNAP_PX = 7;

/** What becomes of a grip by an event, in a mode of the hand: a pure function, so that gestures are tested without a stage. */
export function gripped(mode: Mode, grip: Grip, event: HandEvent, world: World): Turn {
  switch (event.on) {
    case "press":
      return { grip: taken(mode, event, world), effects: [] };
    case "move":
      return moved(grip, event, world);
    case "lift":
      return { grip: NOTHING, effects: lifted(mode, grip, event, world) };
    case "abandon":
      return { grip: NOTHING, effects: [] };
  }
}

function taken(mode: Mode, press: Press, world: World): Grip {
  const table: Grip = { holds: "table", from: press.at, at: press.at, moved: false };
  if (press.table || !world.flat) return table;
  return MODES[mode.kind].press(mode as never, press, world) ?? table;
}

function moved(grip: Grip, event: HandEvent & { on: "move" }, world: World): Turn {
  if (grip.holds === "nothing") return { grip, effects: [] };
  if (grip.holds === "trail")
    return { grip: { ...grip, trail: world.carriedOn(grip.trail, event.at.mm) }, effects: [] };
  if (grip.holds === "film") return slipped(grip, event.at);
  if (grip.holds === "knot") return pulled(grip, event.at);
  if (grip.holds === "node") return led(grip, event, world);
  const last = grip.holds === "arts" ? grip.from : grip.at;
  const way = { x: event.at.px.x - last.px.x, y: event.at.px.y - last.px.y };
  const begun = grip.holds === "arts" ? grip.by !== null : grip.moved;
  if (!begun && Math.hypot(way.x, way.y) < SLIP_PX) return { grip, effects: [] };
  switch (grip.holds) {
    case "table":
      return { grip: { ...grip, at: event.at, moved: true }, effects: [{ do: "pan", by: way }] };
    case "box":
      return { grip: { ...grip, at: event.at, moved: true }, effects: [] };
    case "arts": {
      const now = drawnAlong(grip, event, world);
      const edit = movedBy(now.ids, [now.by]);
      return { grip: now, effects: [{ do: "try", edit, at: event.at.px, time: event.time }] };
    }
  }
}

function pulled(grip: HeldKnot, at: Spot): Turn {
  const far = Math.hypot(at.px.x - grip.from.px.x, at.px.y - grip.from.px.y);
  const handle = far < SLIP_PX ? grip.knot.at : at.mm;
  return { grip: { ...grip, knot: { ...grip.knot, handle } }, effects: [] };
}

function led(grip: HeldNode, { at, shift }: { at: Spot; shift: boolean }, world: World): Turn {
  const far = Math.hypot(at.px.x - grip.from.px.x, at.px.y - grip.from.px.y);
  if (grip.to === null && far < SLIP_PX) return { grip, effects: [] };
  // Its own place, and the edges that it takes along, would hold it fast.
  const near = shift ? { at: at.mm, guides: [] } : world.snapped(at.mm, [grip.node.before, grip.node.after], grip.node);
  return { grip: { ...grip, to: near.at, guides: near.guides }, effects: [] };
}

/** A film is held no farther off its place than this, mm. */
export const FARTHEST_MM = 3;

function slipped(grip: HeldFilm, at: Spot): Turn {
  const by = heldNear({
    x: grip.before.x + at.mm.x - grip.from.mm.x,
    y: grip.before.y + at.mm.y - grip.from.mm.y,
  });
  return { grip: { ...grip, by }, effects: [{ do: "slip", film: grip.film, by }] };
}

/** A slip that is no longer than it may be, to the twentieth of a mm. */
export function heldNear({ x, y }: Point): Point {
  const far = Math.hypot(x, y);
  const share = far > FARTHEST_MM ? FARTHEST_MM / far : 1;
  return { x: Math.round(x * share * 20) / 20, y: Math.round(y * share * 20) / 20 };
}

/** Art as it lies when it is drawn to a spot: along guides, and with Shift straight. */
function drawnAlong(grip: HeldArts, { at, shift }: { at: Spot; shift: boolean }, world: World) {
  const free = { x: at.mm.x - grip.from.mm.x, y: at.mm.y - grip.from.mm.y };
  const wide = Math.abs(free.x) >= Math.abs(free.y);
  const wanted = shift ? { x: wide ? free.x : 0, y: wide ? 0 : free.y } : free;
  const others = world.scene.arts.filter((art) => !grip.ids.includes(art.id)).map((art) => art.box);
  const { by, guides } = drawn(around(grip.boxes), wanted, others, SNAP_PX / world.scale);
  const kept = {
    x: shift && !wide ? 0 : Number(by.x.toFixed(3)),
    y: shift && wide ? 0 : Number(by.y.toFixed(3)),
  };
  return { ...grip, by: kept, guides };
}

function lifted(mode: Mode, grip: Grip, event: HandEvent & { on: "lift" }, world: World): readonly Effect[] {
  const way = MODES[mode.kind];
  switch (grip.holds) {
    case "nothing":
      return [];
    case "trail":
      return way.drawn?.(mode as never, grip, world) ?? [];
    case "film":
      return [];
    case "knot":
      return way.knotted?.(mode as never, grip, world) ?? [];
    case "node":
      return way.led?.(mode as never, grip, world) ?? [];
    case "arts":
      if (grip.by) return [{ do: "edit", edit: movedBy(grip.ids, [grip.by]) }];
      break;
    case "box":
      if (grip.moved) return way.gathered?.(mode as never, between(grip.from.mm, event.at.mm), world) ?? [];
      break;
    case "table":
      if (grip.moved) return [];
  }
  return world.flat ? way.click(mode as never, event.at.mm, event.more, world) : [];
}

/** The box between two points. */
export function between(a: Point, b: Point): Box {
  return { left: Math.min(a.x, b.x), right: Math.max(a.x, b.x), top: Math.min(a.y, b.y), bottom: Math.max(a.y, b.y) };
}
