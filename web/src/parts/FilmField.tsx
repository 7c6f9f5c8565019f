import { useState } from "react";
import { Panel, PanelItem } from "@/parts/Panel";
import { ShelfColours } from "@/parts/ShelfColours";
import { useOpenDesign } from "@/state/design";

interface FilmFieldProps {
  label: string;
  /** The key of the film; null for none. */
  film: string | null;
  onFilm(film: string): unknown;
  /** What "no film" means here, if it can be chosen. */
  none?: string;
  onNone?(): unknown;
}

/** Which film something belongs to: one of the stack, or a new one of any colour. */
export function FilmField({ label, film, onFilm, none, onNone }: FilmFieldProps) {
  const { built } = useOpenDesign();
  const layer = built.layers.find((candidate) => candidate.film === film);
  const colour = layer?.colour ?? (film?.startsWith("#") ? film : "#ffffff");
  return (
    <Panel
      label={`${label}: ${layer?.name ?? film ?? none}`}
      triggerClass="flex min-w-0 items-center gap-2 rounded border border-firm bg-table px-2 py-1 text-left hover:border-ink"
      trigger={
        <>
          {film === null ? (
            <span aria-hidden className="h-5 w-5 shrink-0 rounded-sm border border-dashed border-ink" />
          ) : (
            <span className="h-5 w-5 shrink-0 rounded-sm border border-firm" style={{ background: colour }} />
          )}
          <span className="truncate">{film === null ? none : (layer?.name ?? film)}</span>
        </>
      }
    >
      <p className="mb-1 font-semibold">{label}</p>
      {[...built.layers].reverse().map((candidate) => (
        <PanelItem key={candidate.film} current={candidate.film === film} onSelect={() => onFilm(candidate.film)}>
          <span className="h-5 w-5 shrink-0 rounded-sm border border-firm" style={{ background: candidate.colour }} />
          <span className="truncate">{candidate.name}</span>
        </PanelItem>
      ))}
      {none && onNone && (
        <PanelItem current={film === null} onSelect={onNone}>
          <span aria-hidden className="h-5 w-5 shrink-0 rounded-sm border border-dashed border-ink" />
          <span>{none}</span>
        </PanelItem>
      )}
      <NewColour onColour={onFilm} />
    </Panel>
  );
}

/** A colour of the maker's own, as a new film. */
export function NewColour({
  onColour,
  text = "A film of this colour",
}: {
  onColour(colour: string): unknown;
  text?: string;
}) {
  const { recipe } = useOpenDesign();
  const [colour, setColour] = useState("#c0392b");
  return (
    <div className="mt-2 border-t border-line pt-2">
      <div className="flex items-center gap-2">
        <input
          type="color"
          aria-label="Colour of film"
          value={colour}
          className="h-7 w-9 shrink-0 cursor-pointer border border-firm bg-transparent"
          onChange={(event) => setColour(event.target.value)}
        />
        <PanelItem onSelect={() => onColour(colour)}>{text}</PanelItem>
      </div>
      <ShelfColours use={recipe.use} onFilm={(film) => onColour(film.colour)} />
    </div>
  );
}
