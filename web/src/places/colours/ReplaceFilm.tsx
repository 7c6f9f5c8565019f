import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData, type RegionArt } from "@/api/client";
import { Input } from "@/entry/Entry";
import { FilmField } from "@/parts/FilmField";
import { Panel, PanelItem } from "@/parts/Panel";
import { useEdit, useOpenDesign, useStoredDesign } from "@/state/design";
import { useView } from "@/state/view";

/** A film that came out badly, let go for clean lettering, or for a shadow of the films on it. */
export function ReplaceFilm({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const films = built.arts.find((candidate) => candidate.id === art.id)?.films ?? [];
  const own = built.layers.filter((layer) => films.includes(layer.film));
  const [chosen, setFilm] = useState<string | null>(null);
  const [words, setWords] = useState("");
  const [asked, ask] = useState("");
  const film = chosen ?? own.at(-1)?.film ?? null;
  const others = built.layers.filter((layer) => layer.film !== film);
  const castBy = (of: string) => {
    if (!film) return;
    void edit({
      kind: "replace-film",
      art: art.id,
      film,
      shadow: { kind: "outline-shadow", film, of: [of], mm: 2 },
    });
  };
  return (
    <Panel label="Replace a film" trigger="Replace film" triggerClass="act text-sm" side="bottom" width="w-80">
      <p className="mb-2 text-sm text-soft">Its pieces here are removed, and their neighbours close over them.</p>
      <FilmField label="Replace" film={film} onFilm={setFilm} />
      <form
        className="mt-3 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          ask(words.trim());
        }}
      >
        <label className="block min-w-0 flex-1">
          <span className="heading">Lettering in its place</span>
          <Input
            type="text"
            className="w-full border-b-2 bg-transparent py-0.5 focus:border-chosen"
            value={words}
            placeholder="The words it shows"
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
        <button type="submit" className="act text-sm" disabled={!words.trim()}>
          Find fonts
        </button>
      </form>
      {film && asked && <Alike art={art} film={film} words={asked} />}
      {others.length > 0 && (
        <>
          <p className="heading mt-3">Or an outline shadow of</p>
          {others.map((layer) => (
            <PanelItem key={layer.film} onSelect={() => castBy(layer.film)}>
              <span className="h-4 w-4 rounded-sm border border-firm" style={{ background: layer.colour }} />
              <span className="truncate">{layer.name}</span>
            </PanelItem>
          ))}
        </>
      )}
    </Panel>
  );
}

/** The words in the fonts of the shelf that come nearest to what is there, on its baseline and as wide. */
function Alike({ art, film, words }: { art: RegionArt; film: string; words: string }) {
  const { id } = useOpenDesign();
  const edit = useEdit();
  const chooseArts = useView((view) => view.chooseArts);
  const revision = useStoredDesign(id)?.revision ?? 0;
  const found = useQuery({
    queryKey: ["words-like", id, revision, art.id, film, words],
    retry: false,
    queryFn: () =>
      expectData(
        api.POST("/api/designs/{design}/arts/{art}/words-like", {
          params: { path: { design: id, art: art.id } },
          body: { revision, film, text: words },
        }),
      ),
  });
  if (found.isError) return <p className="mt-2 text-sm text-fail">{found.error.message}</p>;
  if (!found.data) return <p className="mt-2 text-sm text-soft">Setting the words in every font…</p>;
  return (
    <ul aria-label="Fonts that come near" className="mt-2 flex max-h-72 flex-col overflow-y-auto border-t border-line">
      {found.data.map((near) => {
        const { left, top, right, bottom } = near.box;
        return (
          <li key={near.lettering.font}>
            <PanelItem
              onSelect={async () => {
                const done = await edit({ kind: "replace-film", art: art.id, film, lettering: near.lettering });
                const added = done?.recipe.arts.at(-1);
                if (added) chooseArts([added.id]);
              }}
            >
              <span className="flex min-w-0 flex-1 flex-col">
                <svg
                  viewBox={`${left} ${top} ${right - left} ${bottom - top}`}
                  className="h-8 w-full"
                  preserveAspectRatio="xMinYMid meet"
                  role="img"
                  aria-label={`${words} in ${near.name}`}
                >
                  <path d={near.path} fill="currentColor" fillRule="nonzero" />
                </svg>
                <span className="text-xs text-soft">
                  {near.name} · {Math.round(near.share * 100)} % of the ink in common
                </span>
              </span>
            </PanelItem>
          </li>
        );
      })}
    </ul>
  );
}
