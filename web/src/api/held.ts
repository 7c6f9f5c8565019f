import type { components } from "./schema";

type Schemas = components["schemas"];
type SentDesign = Schemas["DesignView"];
type SentBuilt = Schemas["BuiltView"];
type SentLayer = SentBuilt["layers"][number];
type Art = NonNullable<SentDesign["recipe"]["arts"][number]>;

/** The outlines of a layer, its small pieces and gaps: one object for as long as they stay the same. */
export interface Shape {
  readonly path: string;
  readonly before: string;
  readonly small: NonNullable<SentLayer["small"]>;
  readonly gaps: NonNullable<SentLayer["gaps"]>;
}
/** A layer whose outlines are there. */
export type Layer = Omit<SentLayer, "path" | "before" | "small" | "gaps"> & { shape: Shape };
type SentArt = SentBuilt["arts"][number];
type Letters = NonNullable<SentArt["letters"]>;
/** An art's own view, its letters there. */
export type ArtBox = Omit<SentArt, "letters"> & { letters: Letters };
export type Built = Omit<SentBuilt, "layers" | "arts"> & { layers: Layer[]; arts: ArtBox[] };
export type Recipe = Omit<SentDesign["recipe"], "arts"> & { arts: Art[] };
/** A design as the server answers: nothing is built where nothing could be, or where the answer did not wait for it. */
export type Answer = Omit<SentDesign, "recipe" | "built"> & { recipe: Recipe; built: Built | null };

/**
 * Outlines and art that were sent once are kept under their keys, and each request says which: answers leave them out.
 * The least recently met ones go first; as many are kept as a header may name.
 */
const MOST_HELD = 300;
type Kept = Art | Letters | Shape;
const held = new Map<string, Kept>();

export function heldKeys(): string {
  return [...held.keys()].join(",");
}

function keep<T extends Kept>(key: string, sent: T | null): T {
  const value = sent ?? (held.get(key) as T | undefined);
  if (value === undefined) throw new Error(`what is held as ${key} is gone`);
  held.delete(key);
  held.set(key, value);
  const [oldest] = held.keys();
  if (held.size > MOST_HELD && oldest !== undefined) held.delete(oldest);
  return value;
}

/** A build with the outlines that were left out of it. */
export function wholeBuilt(sent: SentBuilt): Built {
  const layers = sent.layers.map(({ path, before, small, gaps, ...layer }) => {
    const own = path === null || before === null ? null : { path, before, small: small ?? [], gaps: gaps ?? [] };
    return { ...layer, shape: keep<Shape>(layer.key, own) };
  });
  const arts = sent.arts.map((art) => ({ ...art, letters: keep(art.letters_key, art.letters) }));
  return { ...sent, layers, arts };
}

/** A design with the art and outlines that were left out of it. */
export function wholeDesign(sent: SentDesign): Answer {
  const arts = sent.recipe.arts.map((art, k) => keep(sent.art_keys[k] ?? "", art));
  return { ...sent, recipe: { ...sent.recipe, arts }, built: sent.built && wholeBuilt(sent.built) };
}
