import type { LineArt } from "@/api/client";
import { Check } from "@/entry/Entry";
import { Choice } from "@/parts/Choice";
import { FilmField } from "@/parts/FilmField";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { Slide } from "@/parts/Slide";
import { useArtChange } from "@/places/art/useArt";
import { useEdit, useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

/** Line art: what counts as ink, what becomes of it, and the areas it encloses. */
export function LineArtFields({ art }: { art: LineArt }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const { change, show } = useArtChange(art);
  const { edges, showEdges } = useView();
  const threshold = built.arts.find((a) => a.id === art.id)?.threshold;
  return (
    <div className="flex flex-col gap-3">
      <p className="text-sm text-soft">Drawn in lines on paper, so it is treated as line art.</p>
      <div className="flex items-end gap-4">
        <NumberField
          label="Ink darker than"
          value={threshold?.taken ?? 128}
          places={0}
          step={2}
          onCommit={(value) => change({ threshold: Math.min(254, Math.max(1, Math.round(value))) })}
        />
        <Slide
          label="What is darker than this is ink"
          value={threshold?.taken ?? 128}
          least={1}
          most={254}
          step={1}
          onHold={() => showEdges(true)}
          onSlide={(value) => {
            showEdges(true);
            show({ threshold: value });
          }}
          onSettle={(value) => change({ threshold: value })}
        />
      </div>
      <p className="flex items-center justify-between text-sm">
        <label className="flex items-center gap-2">
          <Check checked={edges} onChange={(event) => showEdges(event.target.checked)} />
          Traced edge on the picture
        </label>
        {art.threshold === null ? (
          <span className="text-soft">as proposed</span>
        ) : (
          <button type="button" className="quiet" onClick={() => change({ threshold: null })}>
            Use {threshold?.proposed}, as proposed
          </button>
        )}
      </p>
      <div className="flex items-end justify-between gap-2">
        <Choice
          label="Ink"
          value={art.ink}
          options={[
            { value: "lines", text: "Lines" },
            { value: "solid", text: "Solid" },
            { value: "none", text: "Not cut" },
          ]}
          onChange={(ink) => change({ ink })}
        />
        {art.ink !== "none" && (
          <FilmField label="Film of the ink" film={art.ink_film} onFilm={(ink_film) => change({ ink_film })} />
        )}
      </div>
      <div className="flex justify-between">
        <LengthField label="Detail" mm={art.detail_mm} onCommit={(text) => change({ detail_mm: text })} />
        <LengthField label="Smoothing" mm={art.smoothing_mm} onCommit={(text) => change({ smoothing_mm: text })} />
        <LengthField label="Specks below" mm={art.speck_mm} onCommit={(text) => change({ speck_mm: text })} />
      </div>
      <button
        type="button"
        className="quiet self-start text-sm"
        onClick={() => edit({ kind: "treat-picture", art: art.id, treatment: "colours" })}
      >
        Treat as flat colours
      </button>
    </div>
  );
}
