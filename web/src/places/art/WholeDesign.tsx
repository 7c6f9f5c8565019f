import { useEffect, useRef } from "react";

import { readLength, showLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import { AtThatSize } from "@/parts/WhatGetsWorse";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useWorse } from "@/state/proof";
import { useView } from "@/state/view";

const TOLD_MM = 0.05;

/** The whole design's size; scaling asks whether joints and shadows keep their lengths. */
export function WholeDesign() {
  const { built, recipe, version } = useOpenDesign();
  const own = recipe.versions.find((one) => one.id === version);
  const edit = useEdit();
  const unit = useUnit();
  // It stays open while another place is looked at.
  const wanted = useView((view) => view.widthAsked);
  const setWanted = useView((view) => view.askWidth);
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
  const question = useRef<HTMLDivElement>(null);
  const asked = wanted !== null;
  // The panel may end just where it is asked.
  useEffect(() => {
    if (asked) question.current?.scrollIntoView?.({ block: "nearest" });
  }, [asked]);
  return (
    <section aria-label="Whole design" className="flex flex-col gap-2 border-t border-line pt-3">
      <h3 className="heading">Whole design</h3>
      <div className="flex items-end justify-between">
        <LengthField
          label="Width of the whole design"
          mm={wanted ?? built.width_mm}
          onCommit={async (text) => {
            const mm = readLength(text, unit);
            if (mm === null || mm <= 0) return unread(text);
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
      {own && <p className="text-sm text-soft">This is the size of “{own.name}” alone; the others keep theirs.</p>}
      {more > TOLD_MM && (
        <p className="measure text-sm text-soft">
          The art by itself is {showLength(plain, unit)} wide; with shadows and thickening {showLength(whole, unit)}.
        </p>
      )}
      {asked && (
        <div ref={question} role="alert" className="rounded bg-tint p-2">
          <p>
            Scale everything to {(factor * 100).toFixed(1)} %. Joints, shadows and lines are in millimetres: keep those?
          </p>
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
          {/* It comes after a while: it must not move the buttons away from the pointer. */}
          <div className="min-h-20">
            <AtThatSize worse={worse} />
          </div>
        </div>
      )}
    </section>
  );
}
