import type { Use } from "@/api/client";
import { apart } from "@/geometry/contrast";
import { type Material, useShelf } from "@/state/job";

/** The films of the shelf that are still had, those offered for one use where one is given. */
export function useFilmsIHave(use?: Use): Material[] {
  const shelf = useShelf();
  const offered = new Map(shelf.data?.kinds.map((one) => [one.kind, one.method === "drawn" ? undefined : one.uses]));
  return (shelf.data?.films ?? [])
    .map((one) => one.material)
    .filter((film) => !film.retired)
    .filter((film) => (use ? offered.get(film.kind)?.includes(use) : offered.get(film.kind)));
}

/** The pens of the shelf. */
export function usePensIHave(): Material[] {
  const shelf = useShelf();
  const drawn = new Set(shelf.data?.kinds.filter((one) => one.method === "drawn").map((one) => one.kind));
  return (shelf.data?.films ?? []).map((one) => one.material).filter((film) => !film.retired && drawn.has(film.kind));
}

/** The film of the shelf that looks nearest to a colour, for one use. */
export function useNearestFilm(colour: string, use: Use): Material | null {
  const films = useFilmsIHave(use);
  return films.reduce<Material | null>(
    (best, film) => (best === null || apart(film.colour, colour) < apart(best.colour, colour) ? film : best),
    null,
  );
}
