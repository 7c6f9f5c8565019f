import { useState } from "react";
import { readLength, showLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useWorse, type Worse } from "@/state/proof";

const TOLD_MM = 0.05;

/** The whole design's size; scaling asks whether joints and shadows keep their lengths. */
export function WholeDesign() {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const unit = useUnit();
  const [wanted, setWanted] = useState<number | null>(null);
  const [plain, whole] = [built.plain.right - built.plain.left, built.box.right - built.box.left];
  const more = whole - plain;
  const factor = wanted === null ? 1 : wanted / whole;
  // What shadows and thickening add to the width stays as it is when their lengths are kept.
  const kept = wanted !== null && wanted > more ? (wanted - more) / plain : factor;
  const scale = (lengths: "keep" | "scale") => {
    setWanted(null);
    return edit({ kind: "scale-design", factor: lengths === "keep" ? kept : factor, lengths });
  };
  const worse = useWorse(wanted === null ? null : { kind: "scale-design", factor: kept, lengths: "keep" });
  return (
    <section aria-label="Whole design" className="flex flex-col gap-2 border-t border-line pt-3">
      <h3 className="heading">Whole design</h3>
      <div className="flex items-end justify-between">
        <LengthField
          label="Width of the whole design"
          mm={wanted ?? built.width_mm}
          onCommit={async (text) => {
            const mm = readLength(text, unit);
            if (mm === null || mm <= 0) return null;
            setWanted(mm);
            return true;
          }}
        />
        <p>
          <span className="heading block">Height of the whole design</span>
          <span className="measure block py-0.5">{showLength(built.height_mm * factor, unit)}</span>
        </p>
        <Panel label="Turn the design" trigger="Turn…" triggerClass="act text-sm">
          <div className="flex flex-col items-start gap-1.5">
            <button
              type="button"
              className="act"
              onClick={() => edit({ kind: "turn-design", turn_deg: 90, mirror: false })}
            >
              A quarter clockwise
            </button>
            <button
              type="button"
              className="act"
              onClick={() => edit({ kind: "turn-design", turn_deg: -90, mirror: false })}
            >
              A quarter back
            </button>
            <button
              type="button"
              className="act"
              onClick={() => edit({ kind: "turn-design", turn_deg: 0, mirror: true })}
            >
              Mirror left to right
            </button>
          </div>
        </Panel>
      </div>
      {more > TOLD_MM && (
        <p className="measure text-sm text-soft">
          The art by itself is {showLength(plain, unit)} wide; with shadows and thickening {showLength(whole, unit)}.
        </p>
      )}
      {wanted !== null && (
        <div role="alert" className="rounded bg-tint p-2">
          <p>
            Scale everything to {(factor * 100).toFixed(1)} %. Joints, shadows and lines are in millimetres: keep those?
          </p>
          <AtThatSize worse={worse} />
          <p className="mt-2 flex gap-2">
            <button type="button" className="act-main text-sm" onClick={() => scale("keep")}>
              Keep them
            </button>
            <button type="button" className="act text-sm" onClick={() => scale("scale")}>
              Scale them too
            </button>
            <button type="button" className="quiet text-sm" onClick={() => setWanted(null)}>
              Cancel
            </button>
          </p>
        </div>
      )}
    </section>
  );
}

const MOST_TOLD = 3;

/** What will or may fail at a size, and does not at the size it has. */
function AtThatSize({ worse }: { worse: readonly Worse[] | null }) {
  if (!worse) return <p className="mt-1 text-sm text-soft">Looking what will be too thin or too small at that size…</p>;
  if (worse.length === 0) return <p className="mt-1 text-sm">Nothing more will fail at that size.</p>;
  const more = worse.slice(MOST_TOLD).reduce((sum, one) => sum + one.more, 0);
  return (
    <div className="mt-1 text-sm">
      <p className="font-semibold">At that size:</p>
      <ul aria-label="What gets worse" className="list-disc pl-4">
        {worse.slice(0, MOST_TOLD).map((one) => (
          <li key={one.text} className={one.severity === "stop" ? "text-failink" : ""}>
            {one.text}
            {one.more > 1 && ` So it is in ${one.more} places.`}
          </li>
        ))}
      </ul>
      {more > 0 && <p>And in {more === 1 ? "1 more place" : `${more} more places`} of other kinds.</p>}
    </div>
  );
}
