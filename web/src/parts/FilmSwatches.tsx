import { useEffect } from "react";
import type { Use } from "@/api/client";
import { useOpenDesign } from "@/state/design";
import { useFilmsIHave } from "@/state/films";

const MOST = 9;

interface Ready {
  readonly key: string;
  readonly colour: string;
  readonly name: string;
}

/** In which order films came to hand, by design: a number key stays with its film while others are added. */
const cameInOrder = new Map<string, string[]>();

function inTheirOrder(design: string, films: readonly Ready[]): Ready[] {
  const known = cameInOrder.get(design) ?? [];
  const order = [...known, ...films.map(({ key }) => key).filter((key) => !known.includes(key))];
  cameInOrder.set(design, order);
  return [...films].sort((a, b) => order.indexOf(a.key) - order.indexOf(b.key));
}

/** The films at hand: those of the stack from the top down, then the shelf's colours, as they came; nine have a number. */
export function useFilmsAtHand(use: Use): Ready[] {
  const { id, built } = useOpenDesign();
  const films = useFilmsIHave(use);
  const own = [...built.layers].reverse().map(({ film, colour, name }) => ({ key: film, colour, name }));
  const taken = new Set(own.flatMap(({ key, colour }) => [key, colour]));
  const had = films
    .filter((film, k, all) => !taken.has(film.colour) && all.findIndex((other) => other.colour === film.colour) === k)
    .map(({ colour, name }) => ({ key: colour, colour, name }));
  return inTheirOrder(id, [...own, ...had].slice(0, Math.max(MOST, own.length)));
}

interface FilmSwatchesProps {
  label: string;
  chosen: string | null;
  onFilm(film: string): void;
}

/** Films to take at a click, or by the number keys. */
export function FilmSwatches({ label, chosen, onFilm }: FilmSwatchesProps) {
  const { recipe } = useOpenDesign();
  const films = useFilmsAtHand(recipe.use);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      const film = /^[1-9]$/.test(event.key) ? films[Number(event.key) - 1] : undefined;
      if (!film || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      onFilm(film.key);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
  return (
    <fieldset aria-label={label} className="flex flex-wrap gap-1">
      {films.map((film, k) => (
        <button
          key={film.key}
          type="button"
          aria-pressed={chosen === film.key}
          aria-label={k < MOST ? `${film.name}, key ${k + 1}` : film.name}
          title={k < MOST ? `${film.name} (key ${k + 1})` : film.name}
          className="flex flex-col items-center rounded-sm aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-chosen"
          onClick={() => onFilm(film.key)}
        >
          <span className="h-6 w-7 rounded-sm border border-firm" style={{ background: film.colour }} />
          <span className="measure text-xs leading-tight text-soft">{k < MOST ? k + 1 : ""}</span>
        </button>
      ))}
    </fieldset>
  );
}
