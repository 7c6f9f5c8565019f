import { useState } from "react";
import type { RegionArt } from "@/api/client";
import { FilmField } from "@/parts/FilmField";
import { Panel, PanelItem } from "@/parts/Panel";
import { useEdit, useOpenDesign } from "@/state/design";
import { ownerOf, ownersOf, useAreas } from "@/state/regions";
import { useView } from "@/state/view";

/** A film that came out badly, let go for clean lettering, or for a shadow of the films on it. */
export function ReplaceFilm({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const areas = useAreas(art.id);
  const chooseArts = useView((view) => view.chooseArts);
  const [film, setFilm] = useState<string | null>(null);
  const [words, setWords] = useState("");
  const own = film ?? built.layers.at(-1)?.film ?? null;
  const others = built.layers.filter((layer) => layer.film !== own);

  const byLettering = async () => {
    if (!own || !words.trim()) return;
    // The words come to lie where the film lay, as wide as it was.
    const owners = ownersOf(built.arts.find((candidate) => candidate.id === art.id)?.claims ?? []);
    const parts = areas?.all.filter((area) => ownerOf(owners, area) === own) ?? [];
    const left = Math.min(...parts.map((area) => area.left));
    const right = Math.max(...parts.map((area) => area.left + area.width_mm));
    const bottom = Math.max(...parts.map((area) => area.top + area.height_mm));
    const { place } = art;
    const known = parts.length > 0;
    const x = place.x_mm + (known ? (left + right) / 2 : (areas?.width ?? 0) / 2) * place.scale_x;
    const y = place.y_mm + (known ? bottom : 0) * place.scale_y;
    const done = await edit({
      kind: "replace-film",
      art: art.id,
      film: own,
      lettering: {
        kind: "lettering",
        text: words.trim(),
        film: own,
        fit_width_mm: known ? Math.max(1, (right - left) * place.scale_x) : 40,
        place: { ...place, x_mm: Number(x.toFixed(3)), y_mm: Number(y.toFixed(3)), scale_x: 1, scale_y: 1 },
      },
    });
    const added = done?.recipe.arts.at(-1);
    if (added) chooseArts([added.id]);
  };
  const castBy = (of: string) => {
    if (!own) return;
    void edit({
      kind: "replace-film",
      art: art.id,
      film: own,
      shadow: { kind: "outline-shadow", film: own, of: [of], mm: 2 },
    });
  };

  return (
    <Panel label="Replace a film" trigger="Replace film" triggerClass="act text-sm" side="bottom" width="w-72">
      <p className="mb-2 text-sm text-soft">Its pieces here are let go, and their neighbours close over them.</p>
      <FilmField label="Let go" film={own} onFilm={setFilm} />
      <label className="mt-3 block">
        <span className="heading">Lettering in its place</span>
        <input
          type="text"
          className="w-full border-b-2 border-firm bg-transparent py-0.5 focus:border-chosen"
          value={words}
          placeholder="The words it shows"
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      {words.trim() && <PanelItem onSelect={byLettering}>Set “{words.trim()}”</PanelItem>}
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
