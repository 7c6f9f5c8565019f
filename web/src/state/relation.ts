import type { Answer, Art, Box, Built, Edit } from "@/api/client";
import { contrasting } from "@/geometry/contrast";
import { fromTheGround } from "@/state/arts";

export type How = Extract<Edit, { kind: "relate-arts" }>["how"];

/** One way for an art to lie on another: `upper` is the one that does. */
export interface Way {
  readonly how: How;
  readonly upper: string;
  readonly lower: string;
}

type Design = Pick<Answer, "recipe"> & { built: Built };

/** The other art that an art lies on or under, the topmost first. */
export function meeting(built: Built, id: string): Built["arts"] {
  const own = built.arts.find((art) => art.id === id);
  if (!own) return [];
  return fromTheGround(built)
    .filter((art) => art.id !== id && overlap(art.box, own.box))
    .reverse();
}

function overlap(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

const WIDE = 1.7;

/** Where two boxes lie on each other, with some room, and not much wider than high: what shows how their art meets. */
export function common(a: Box, b: Box): [number, number, number, number] {
  const [left, right] = [Math.max(a.left, b.left), Math.min(a.right, b.right)];
  const [top, bottom] = [Math.max(a.top, b.top), Math.min(a.bottom, b.bottom)];
  const room = 0.15 * Math.max(1, Math.min(right - left, bottom - top));
  const high = bottom - top + 2 * room;
  const half = Math.min(right - left + 2 * room, WIDE * high) / 2;
  const middle = (left + right) / 2;
  return [middle - half, top - room, middle + half, bottom + room];
}

/** The edit that makes one art lie on another in some way, for all films of both. */
export function relateEdit(design: Design, way: Way, mm: number): Edit {
  const { built } = design;
  const filmsOf = (id: string) => built.arts.find((art) => art.id === id)?.films ?? [];
  const height = new Map(built.layers.map((layer, k) => [layer.film, k]));
  const sorted = (films: readonly string[]) => [...films].sort((a, b) => (height.get(a) ?? -1) - (height.get(b) ?? -1));
  const under = sorted(filmsOf(way.lower));
  const below = built.layers.filter((layer) => under.includes(layer.film)).map((layer) => layer.colour);
  return {
    kind: "relate-arts",
    ...way,
    mm,
    films: sorted(filmsOf(way.upper)),
    under,
    order: built.layers.map((layer) => layer.film),
    colour: contrasting("#f2b632", below),
  };
}

/** Whether an art is cut as a hole through everything. */
function isHole(art: Art | undefined): boolean {
  if (!art) return false;
  return "opening" in art ? art.opening : "film" in art && art.film === null;
}

/** How two pieces of art lie on each other now; null where it is none of the ways by itself. */
export function wayOf({ recipe, built }: Design, a: string, b: string): Way | null {
  const art = (id: string) => recipe.arts.find((candidate) => candidate.id === id);
  for (const [upper, lower] of [
    [a, b],
    [b, a],
  ] as const) {
    if (isHole(art(upper))) return { how: "hole", upper, lower };
    if (art(upper)?.inside === lower) return { how: "within", upper, lower };
  }
  const filmsOf = (id: string) => built.arts.find((candidate) => candidate.id === id)?.films ?? [];
  const height = (film: string) => built.layers.findIndex((layer) => layer.film === film);
  const [own, other] = [filmsOf(a), filmsOf(b)];
  if (own.length === 0 || other.length === 0) return null;
  const shared = own.filter((film) => other.includes(film));
  if (shared.length > 0) return shared.length === own.length ? { how: "one-film", upper: a, lower: b } : null;
  const top = (films: readonly string[]) => Math.max(...films.map(height));
  const [upper, lower] = top(own) > top(other) ? [a, b] : [b, a];
  const [up, low] = upper === a ? [own, other] : [other, own];
  const kinds = new Set(
    built.joints
      .filter((j) => up.map(height).includes(j.upper) && low.map(height).includes(j.lower))
      .map((joint) => joint.kind),
  );
  const [kind] = kinds;
  if (kinds.size !== 1 || !kind) return null;
  return { how: kind === "full" ? "on-top" : kind, upper, lower };
}
