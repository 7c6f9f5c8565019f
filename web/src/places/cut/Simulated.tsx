import { useState } from "react";
import { Select } from "@/entry/Entry";
import { Fold } from "@/parts/Fold";
import type { Move } from "@/places/cut/AtHand";
import { type CutSheet, type Cutting, step } from "@/state/cutting";

const MISHAPS = [
  { value: "cover", text: "The cover is opened" },
  { value: "slip", text: "The film slips" },
  { value: "film-out", text: "The film runs out" },
  { value: "link", text: "The line is lost" },
  { value: "power", text: "The power is lost" },
  { value: "force", text: "The blade is blunt" },
] as const;

/** The cutter that ships with the app: how fast it works, and mishaps to try. */
/** What can be made to happen at the simulated cutter. */
export function Simulated({ cutting, sheet, move }: { cutting: Cutting; sheet: CutSheet | undefined; move: Move }) {
  const [fault, setFault] = useState<(typeof MISHAPS)[number]["value"]>("cover");
  return (
    <Fold
      title="Simulated cutter"
      figure={cutting.rate === 1 ? "real time" : `${cutting.rate} times faster`}
      open={false}
    >
      <div className="flex gap-2">
        {[1, 50].map((rate) => (
          <button
            key={rate}
            type="button"
            className="act aria-pressed:border-chosen aria-pressed:bg-tint"
            aria-pressed={cutting.rate === rate}
            onClick={() => move(step("rate", { rate }))}
          >
            {rate === 1 ? "In real time" : "50 times faster"}
          </button>
        ))}
      </div>
      <label className="flex items-center gap-2">
        <span className="heading">Try a mishap</span>
        <Select className="grow" value={fault} onChange={(event) => setFault(event.target.value as typeof fault)}>
          {MISHAPS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.text}
            </option>
          ))}
        </Select>
      </label>
      <button
        type="button"
        className="act self-start"
        disabled={!sheet || sheet.stage === "waiting"}
        onClick={() => move(step("fault", { fault, after_mm: sheet?.stage === "cutting" ? 20 : 120 }))}
      >
        Let it happen
      </button>
    </Fold>
  );
}
