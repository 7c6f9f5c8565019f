import type { PictureArt } from "@/api/client";
import { Choice } from "@/parts/Choice";
import { useEdit } from "@/state/design";
import { useView } from "@/state/view";

type Rest = PictureArt["separation"]["rest"];

const RESTS: { value: Rest; text: string; hint: string }[] = [
  { value: "nearest", text: "To the nearest picked colour", hint: "Only the picked colours become films." },
  { value: "out", text: "Left out", hint: "What has another colour is not cut." },
  { value: "found", text: "Films as they were found", hint: "The picked colours come besides." },
];

/** Only these colours: picked one after another on the picture, and what becomes of all others. */
export function Picking({ art }: { art: PictureArt }) {
  const edit = useEdit();
  const { mode, take, pickOne, putDown } = useView();
  const picks = mode.kind === "picking" && mode.art === art.id ? mode.picks : null;
  const { picked, rest } = art.separation;
  const set = (colours: readonly string[], how: Rest) =>
    edit({ kind: "pick-only", art: art.id, colours: [...colours], rest: how });
  if (!picks) {
    return (
      <section aria-label="Picked colours" className="flex flex-col gap-2">
        <button
          type="button"
          className="act self-start"
          onClick={() => take({ kind: "picking", art: art.id, picks: picked })}
        >
          {picked.length > 0 ? `Pick colours (${picked.length} picked)` : "Pick only some colours"}
        </button>
        {picked.length > 0 && (
          <Choice label="All other colours" stacked value={rest} options={RESTS} onChange={(how) => set(picked, how)} />
        )}
      </section>
    );
  }
  const done = async () => {
    if (picks.length > 0) await set(picks, picked.length > 0 ? rest : "nearest");
    putDown();
  };
  return (
    <section aria-label="Picked colours" className="flex flex-col gap-2 rounded bg-tint p-3">
      <p aria-live="polite">
        {picks.length === 0
          ? "Click each colour of the picture that is to be a film."
          : `${picks.length === 1 ? "1 colour" : `${picks.length} colours`} picked. Click one again to take it back.`}
      </p>
      <ul aria-label="Colours picked so far" className="flex flex-wrap gap-1.5">
        {picks.map((colour) => (
          <li key={colour}>
            <button
              type="button"
              aria-label={`Take back ${colour}`}
              title={`Take back ${colour}`}
              className="h-8 w-8 rounded-sm border border-firm"
              style={{ background: colour }}
              onClick={() => pickOne(colour)}
            />
          </li>
        ))}
      </ul>
      <p className="flex gap-2">
        <button type="button" className="act-main text-sm" disabled={picks.length === 0} onClick={done}>
          Done picking
        </button>
        <button type="button" className="act text-sm" onClick={putDown}>
          Cancel
        </button>
      </p>
    </section>
  );
}
