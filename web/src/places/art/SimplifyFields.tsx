import type { RegionArt } from "@/api/client";
import { showTime } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { Slide } from "@/parts/Slide";
import { useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";
import { useArtChange } from "./useArt";

const MOST_MM = 0.5;

/** Fewer nodes within a tolerance: what it saves at the blade, live on the stage. */
export function SimplifyFields({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const { change, show } = useArtChange<RegionArt>(art);
  const { nodes: shown, showNodes } = useView();
  const saving = built.arts.find((candidate) => candidate.id === art.id)?.saving;
  const nodes = built.layers.reduce((sum, layer) => sum + layer.nodes, 0);
  return (
    <Fold title="Nodes" figure={nodes} open={art.simplify_mm > 0}>
      <div className="flex items-end gap-4">
        <LengthField
          label="Edges may move by"
          mm={art.simplify_mm}
          onCommit={(text) => change({ simplify_mm: text })}
        />
        <Slide
          label="How far edges may move"
          value={art.simplify_mm}
          most={MOST_MM}
          step={0.01}
          onHold={() => {
            if (!shown) showNodes(true);
          }}
          onSlide={(simplify_mm) => show({ simplify_mm })}
          onSettle={(simplify_mm) => change({ simplify_mm })}
        />
      </div>
      {saving ? (
        <dl aria-label="What simplifying saves" className="measure grid grid-cols-[1fr_auto_auto] gap-x-3 text-sm">
          <dt className="text-soft">Nodes</dt>
          <dd className="text-right">{saving.nodes_before}</dd>
          <dd className="text-right font-semibold">→ {saving.nodes_after}</dd>
          <dt className="text-soft">At the blade, about</dt>
          <dd className="text-right">{showTime(saving.seconds_before)}</dd>
          <dd className="text-right font-semibold">→ {showTime(saving.seconds_after)}</dd>
          <dt className="text-soft">Edges moved at most</dt>
          <dd className="col-span-2 text-right">{saving.deviation_mm.toFixed(3)} mm</dd>
        </dl>
      ) : (
        <p className="text-sm text-soft">At 0 every edge stays as it is. Corners stay in any case.</p>
      )}
    </Fold>
  );
}
