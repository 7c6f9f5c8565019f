import { useState } from "react";
import type { RegionArt } from "@/api/client";
import { showTime } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { Slide } from "@/parts/Slide";
import { Standing } from "@/parts/Standing";
import { useOpenDesign } from "@/state/design";
import { useDeviationFor, useNodes } from "@/state/nodes";
import { useView } from "@/state/view";
import { NodeCurve } from "./NodeCurve";
import { useArtChange } from "./useArt";

const MOST_MM = 0.5;

/** Fewer nodes within a tolerance: what it saves at the blade, live on the stage. */
export function SimplifyFields({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const { change, show } = useArtChange<RegionArt>(art);
  const { nodes: shown, showNodes } = useView();
  const saving = built.arts.find((candidate) => candidate.id === art.id)?.saving;
  const nodes = built.layers.reduce((sum, layer) => sum + layer.nodes, 0);
  const [open, setOpen] = useState(art.simplify_mm > 0);
  const curve = useNodes(art.id, open);
  const deviationFor = useDeviationFor(art.id);
  const knee = curve?.curve.find((one) => one.mm === curve.knee_mm);
  const own = curve?.curve.filter((one) => one.mm <= art.simplify_mm + 1e-6).at(-1)?.nodes ?? nodes;
  return (
    <Fold title="Nodes" figure={nodes} open={art.simplify_mm > 0} onOpen={setOpen}>
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
      {open && !curve && (
        <p role="status" className="text-sm text-soft">
          <Standing text="Working out what fewer nodes save…" />
        </p>
      )}
      {curve && curve.curve.length > 1 && (
        <>
          <NodeCurve nodes={curve} mm={art.simplify_mm} onTake={(mm) => change({ simplify_mm: mm })} />
          {curve.knee_mm === 0 && (
            <p className="text-sm text-soft">Its edges have hardly more nodes than their form needs.</p>
          )}
          {knee && knee.mm > 0 && Math.abs(knee.mm - art.simplify_mm) > 1e-6 && (
            <p className="measure flex flex-wrap items-center gap-x-2 text-sm">
              At {knee.mm} mm: {knee.nodes} nodes, {showTime(knee.seconds)}.
              <button type="button" className="act text-sm" onClick={() => change({ simplify_mm: knee.mm })}>
                Take that
              </button>
            </p>
          )}
          <NumberField
            label="No more nodes of its edges than"
            value={saving?.nodes_after ?? own}
            places={0}
            step={50}
            onCommit={async (count) => {
              const mm = await deviationFor(Math.max(3, Math.round(count)));
              return mm === null ? null : change({ simplify_mm: mm });
            }}
          />
        </>
      )}
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
