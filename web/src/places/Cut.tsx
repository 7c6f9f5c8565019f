import type { Layer } from "@/api/client";
import { showLength, showTime } from "@/lengths";
import { Findings } from "@/parts/Findings";
import { useOpenDesign, useUnit } from "@/state/design";

/** What is taken away: the sheets to cut, in the order the films go together. */
export function Cut() {
  const { id, built } = useOpenDesign();
  const cut = built.layers.filter((layer) => layer.nodes > 0);
  const pressed = cut.filter((layer) => layer.mirrored);
  const taped = cut.filter((layer) => !layer.mirrored).reverse();
  return (
    <div className="flex flex-col gap-5">
      <Findings findings={built.findings} />
      {cut.length > 0 ? (
        <div>
          <a className="act-main inline-block" href={`/api/jobs/of-${id}/sheets.zip`} download>
            Download files
          </a>
          <p className="mt-2 text-sm text-soft">
            A ZIP with the sheets as they lie under Sheets, the whole decal layer by layer, and the order of assembly.
          </p>
        </div>
      ) : (
        <p className="text-soft">Nothing is left to cut: every colour is dropped. Bring one back under Colours.</p>
      )}
      {pressed.length > 0 && (
        <Order
          title="Press, bottom film first"
          layers={pressed}
          note="Cut mirrored. Press the last one for the full time."
        />
      )}
      {taped.length > 0 && (
        <Order
          title="Gather on transfer tape, top film first"
          layers={taped}
          note="The last one lies on the ground when the stack is laid down."
        />
      )}
    </div>
  );
}

function Order({ title, layers, note }: { title: string; layers: Layer[]; note: string }) {
  const unit = useUnit();
  return (
    <section>
      <h2 className="font-semibold">{title}</h2>
      <ol className="mt-1 border-t border-line">
        {layers.map((layer, k) => (
          <li
            key={layer.colour}
            className="grid grid-cols-[20px_26px_1fr_auto] items-center gap-2 border-b border-line py-1.5"
          >
            <span className="measure text-right text-soft">{k + 1}</span>
            <span className="h-6 w-6 rounded-sm border border-firm" style={{ background: layer.colour }} />
            <span className="truncate font-semibold">{layer.name}</span>
            <span className="measure text-right text-sm text-soft">
              {showLength(layer.cut_length_mm, unit)} · {layer.nodes} nodes · {showTime(layer.seconds)}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-sm text-soft">{note}</p>
    </section>
  );
}
