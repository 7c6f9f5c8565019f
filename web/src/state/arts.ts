import type { Built } from "@/api/client";

type Arts = Pick<Built, "layers" | "arts">;

/** The pieces of art as they lie on each other, the lowest first: by their topmost film, openings last. */
export function fromTheGround({ layers, arts }: Arts): Built["arts"] {
  const height = new Map(layers.map((layer, k) => [layer.film, k]));
  const top = (films: readonly string[]) =>
    films.length === 0 ? layers.length : Math.max(-1, ...films.map((film) => height.get(film) ?? -1));
  return arts
    .map((art, k) => ({ art, k, top: top(art.films) }))
    .sort((a, b) => a.top - b.top || a.k - b.k)
    .map(({ art }) => art);
}
