import type { LineArt, VectorArt } from "@/api/client";
import { FilmField } from "@/parts/FilmField";
import { useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";
import { useArtChange } from "./useArt";

/** Regions given to films by clicking them, and how many still wait for one. */
export function ClaimFields({ art }: { art: VectorArt | LineArt }) {
  const { built } = useOpenDesign();
  const { change } = useArtChange<VectorArt | LineArt>(art);
  const { claiming, claim, waitingAt, stepTo } = useView();
  const mine = claiming?.art === art.id ? claiming : null;
  const film = built.layers.at(-1)?.film ?? "#c0392b";
  const waiting = built.arts.find((candidate) => candidate.id === art.id)?.waiting ?? [];
  const at = waitingAt !== null && waitingAt < waiting.length ? waitingAt : null;
  const current = at === null ? undefined : waiting[at];
  return (
    <section aria-label="Claim regions" className="flex flex-col gap-2">
      <h3 className="heading">Regions and their films</h3>
      <div className="flex flex-wrap items-center gap-2">
        <FilmField
          label="Claim for"
          film={mine ? mine.film : film}
          none="no film: left open"
          onFilm={(chosen) => claim({ art: art.id, film: chosen })}
          onNone={() => claim({ art: art.id, film: null })}
        />
        <button
          type="button"
          className="act text-sm"
          aria-pressed={mine !== null}
          onClick={() => claim(mine ? null : { art: art.id, film })}
        >
          {mine ? "Done" : "Click regions"}
        </button>
        {art.pins.length > 0 && (
          <button type="button" className="quiet text-sm" onClick={() => change({ pins: art.pins.slice(0, -1) })}>
            take back the last of {art.pins.length}
          </button>
        )}
      </div>
      <p className="flex items-center gap-2 text-sm" aria-live="polite">
        {waiting.length === 0
          ? "Every enclosed region has been decided on."
          : `${waiting.length} ${waiting.length === 1 ? "region waits" : "regions wait"} for a film.`}
        {waiting.length > 0 && (
          <button
            type="button"
            className="act text-sm"
            onClick={() => stepTo(at === null ? 0 : (at + 1) % waiting.length)}
          >
            Next
          </button>
        )}
        {current && <span className="measure text-soft">{current.area_mm2.toFixed(1)} mm²</span>}
      </p>
    </section>
  );
}
