import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Art, api, expectData } from "@/api/client";
import { SelectField } from "@/parts/SelectField";
import { useEdit, useOpenDesign, useStoredDesign } from "@/state/design";
import { common, type How, meeting, relateEdit, type Way, wayOf } from "@/state/relation";
import { useView } from "@/state/view";

const LENGTHS: Partial<Record<How, number>> = { gap: 1, lap: 0.4, "on-top": 0 };
const TEXTS: Record<How, string> = {
  "one-film": "One film",
  "on-top": "On top",
  butt: "Cut in, flush",
  gap: "Cut in, a gap",
  lap: "Cut in, a lap",
  within: "Only within",
  hole: "A hole",
};
const HOWS: How[] = ["one-film", "on-top", "butt", "gap", "lap", "within", "hole"];
/** One film is the same both ways round. */
const ROUND: How[] = ["on-top", "butt", "gap", "within", "hole"];

/** How an art lies on another: every way drawn as what it does to these very shapes, both ways round. */
export function RelateFields({ art }: { art: Art }) {
  const design = useOpenDesign();
  const { built } = design;
  const others = meeting(built, art.id);
  const [wanted, setWanted] = useState<string | null>(null);
  const other = others.find((candidate) => candidate.id === wanted) ?? others[0];
  if (!other) return null;
  return (
    <section aria-label="How it lies on other art" className="flex flex-col gap-2 border-t border-line pt-2">
      {others.length > 1 ? (
        <SelectField
          label="How it lies on"
          value={other.id}
          options={others.map(({ id, name }) => ({ value: id, text: name }))}
          onChange={setWanted}
        />
      ) : (
        <h3 className="font-semibold">How it lies on {other.name}</h3>
      )}
      <Ways key={`${art.id} ${other.id}`} own={art.id} other={other.id} />
    </section>
  );
}

function Ways({ own, other }: { own: string; other: string }) {
  const design = useOpenDesign();
  const { built } = design;
  const edit = useEdit();
  const chooseArts = useView((view) => view.chooseArts);
  const name = (id: string) => built.arts.find((art) => art.id === id)?.name ?? id;
  const now = wayOf(design, own, other);
  const ways: Way[] = [
    ...HOWS.map((how) => ({ how, upper: own, lower: other })),
    ...ROUND.map((how) => ({ how, upper: other, lower: own })),
  ];
  const drawn = useOutcomes(own, other, ways);
  const cell = (way: Way, at: number) => {
    const chosen = now?.how === way.how && (way.how === "one-film" || now.upper === way.upper);
    const svg = drawn?.[at];
    const said = `${TEXTS[way.how]}: ${name(way.upper)} on ${name(way.lower)}`;
    if (svg === "") return null;
    return (
      <button
        key={`${way.upper} ${way.how}`}
        type="button"
        aria-label={said}
        aria-pressed={chosen}
        title={said}
        className="flex flex-col items-center gap-0.5 rounded border border-line bg-table p-1 hover:border-ink aria-pressed:border-2 aria-pressed:border-chosen aria-pressed:bg-tint"
        onClick={() =>
          edit((latest) =>
            latest.built ? relateEdit({ ...latest, built: latest.built }, way, LENGTHS[way.how] ?? 0) : null,
          ).then((done) => done && chooseArts([own]))
        }
      >
        {svg ? (
          <img src={`data:image/svg+xml,${encodeURIComponent(svg)}`} alt="" className="h-12 w-full object-contain" />
        ) : (
          <span aria-hidden className="h-12 w-full rounded bg-bench" />
        )}
        <span className="text-xs leading-tight">{TEXTS[way.how]}</span>
      </button>
    );
  };
  return (
    <>
      <div className="grid grid-cols-4 gap-1">{ways.slice(0, HOWS.length).map(cell)}</div>
      <p className="heading">The other way round</p>
      <div className="grid grid-cols-5 gap-1">
        {ways.slice(HOWS.length).map((way, k) => cell(way, k + HOWS.length))}
      </div>
    </>
  );
}

/** What each way would lead to, drawn by the server; null until it is. */
function useOutcomes(own: string, other: string, ways: readonly Way[]): readonly string[] | null {
  const { id } = useOpenDesign();
  const stored = useStoredDesign(id);
  const built = stored?.built ?? null;
  const boxOf = (art: string) => built?.arts.find((candidate) => candidate.id === art)?.box;
  const [a, b] = [boxOf(own), boxOf(other)];
  const found = useQuery({
    queryKey: ["outcomes", id, stored?.revision, own, other],
    enabled: stored !== undefined && built !== null && a !== undefined && b !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) => {
      if (!stored || !built || !a || !b) throw new Error("nothing is built yet");
      const edits = ways.map((way) => relateEdit({ ...stored, built }, way, LENGTHS[way.how] ?? 0));
      return expectData(
        api.POST("/api/designs/{design}/outcomes", {
          params: { path: { design: id } },
          body: { base: stored.revision, edits, box: common(a, b) },
          signal,
        }),
      );
    },
  });
  return found.data ?? null;
}
