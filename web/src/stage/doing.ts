import type { Art, Built } from "@/api/client";
import { type Trail, taken } from "@/state/gesture";
import type { Claiming, Mending, Mode } from "@/state/mode";
import type { Area, Areas } from "@/state/regions";
import type { Grip } from "./grip";
import type { World } from "./world";

/** What is about to be done: regions under the hand, regions on their way to a film, and the way it has gone. */
export interface Doing {
  readonly art: Art;
  readonly areas: Areas | null;
  readonly mode: Claiming | Mending;
  readonly trail: Trail | null;
  readonly hovered: readonly number[];
  readonly pending: readonly number[];
  /** The colour that what is claimed will have; null where it has none. */
  readonly colour: string | null;
}

/** What a hand in its mode is about to do; null where it draws nothing. */
export function doingOf(
  mode: Mode,
  grip: Grip,
  world: World,
  hovered: Area | null,
  pending: { readonly art: string; readonly regions: readonly number[]; readonly target: Claiming["target"] } | null,
  films: Built["layers"],
): Doing | null {
  if (mode.kind !== "claiming" && mode.kind !== "mending") return null;
  const art = world.recipe.arts.find((one) => one.id === mode.art);
  if (!art) return null;
  const trail = grip.holds === "trail" ? grip.trail : null;
  const coming = pending?.art === art.id ? pending : null;
  const target = coming?.target ?? (mode.kind === "claiming" ? mode.target : null);
  const key = target?.film ?? null;
  // A film that is still to come is named by its colour.
  const colour = films.find(({ film }) => film === key)?.colour ?? (key?.startsWith("#") ? key : null);
  const reached = mode.kind === "claiming" ? reachedBy(mode, trail, hovered, world) : [];
  return { art, areas: world.areas, mode, trail, hovered: reached, pending: coming?.regions ?? [], colour };
}

function reachedBy(mode: Claiming, trail: Trail | null, hovered: Area | null, { areas, owners }: World): number[] {
  const way = trail ?? (hovered && { points: [], touched: [hovered.index] });
  return areas && way ? taken(mode, way, areas, owners) : [];
}
