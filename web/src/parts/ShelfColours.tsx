import type { Use } from "@/api/client";
import { useFilmsIHave } from "@/state/films";
import type { Material } from "@/state/job";

interface ShelfColoursProps {
  /** Only films that are offered for this use, where one is given. */
  use?: Use;
  chosen?: string | null;
  onFilm(material: Material): unknown;
}

/** The colours one has: the films of the shelf, to choose from. */
export function ShelfColours({ use, chosen, onFilm }: ShelfColoursProps) {
  const films = useFilmsIHave(use);
  if (films.length === 0) return null;
  return (
    <fieldset className="mt-2 border-t border-line pt-2">
      <legend className="heading float-left mb-1 w-full">Colours I have</legend>
      <div className="flex clear-both flex-wrap gap-1">
        {films.map((film) => (
          <button
            key={film.id}
            type="button"
            title={film.name}
            aria-label={`Film ${film.name}`}
            aria-pressed={chosen === film.id}
            className="h-6 w-6 rounded-sm border border-firm aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-chosen"
            style={{ background: film.colour }}
            onClick={() => onFilm(film)}
          />
        ))}
      </div>
    </fieldset>
  );
}
