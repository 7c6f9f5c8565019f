import { useEffect, useRef, useState } from "react";
import { Check } from "@/entry/Entry";
import { showLength } from "@/geometry/lengths";
import { useIsLong, useSpokenWork } from "@/parts/Spoken";
import { Standing, useStanding } from "@/parts/Standing";
import { useGrowing } from "@/parts/useGrowing";
import { Strip, shownLength, TAIL_PX } from "@/places/bench/Strip";
import { useUnit } from "@/state/design";
import { type JobAnswer, type JobChange, useBench, type usePlan } from "@/state/job";
import { useFingers } from "./useFingers";

interface BenchStageProps {
  job: JobAnswer;
  /** The plan as it comes: it can be stopped, and asked for again. */
  laid: ReturnType<typeof usePlan>;
  working: boolean;
  change(change: JobChange): Promise<unknown>;
}

const HIGHEST_PX = 300;
/** So many parts are drawn within a frame or two: a thousand at once would hold the page up. */
const PARTS_AT_ONCE = 150;

/** How many come before each of some groups, and at the end how many there are. */
function startsOf(counts: readonly number[]): number[] {
  const starts = [0];
  for (const count of counts) starts.push((starts.at(-1) ?? 0) + count);
  return starts;
}

/** The bench: every film as a strip, true to scale, in the order of assembly; the decals stay in sight beside them. */
export function BenchStage({ job, laid, working, change }: BenchStageProps) {
  const { data: plan, error: fault } = laid;
  const unit = useUnit();
  const laidText = plan && `Laid: ${showLength(plan.length_used_mm, unit)} of film on ${plan.sheets.length} sheets.`;
  useSpokenWork(useIsLong(working), useStanding("Laying…"), laidText ?? "Not laid.");
  const { zoom, scale, grid, showGrid, point } = useBench();
  const frame = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(800);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWide(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  useEffect(() => () => point(null), [point]);
  useFingers(frame, { zoom, scale });
  const longest = Math.max(60, ...(plan?.sheets.map(shownLength) ?? []));
  const widest = Math.max(60, ...(plan?.sheets.map((sheet) => sheet.width_mm) ?? []));
  const fit = Math.min((wide - TAIL_PX - 50) / longest, HIGHEST_PX / widest);
  const before = startsOf(plan?.sheets.map((sheet) => sheet.parts.length) ?? []);
  const drawn = useGrowing(before.at(-1) ?? 0, PARTS_AT_ONCE);
  const saved = plan ? plan.naive_length_mm - plan.length_used_mm : 0;
  return (
    <section aria-label="Bench" className="grid min-h-0 min-w-0 grid-rows-[auto_1fr] bg-bench">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-4 py-1.5">
        <span className="measure">
          {plan && (
            <>
              <strong className="font-semibold">{showLength(plan.length_used_mm, unit)}</strong> of film,{" "}
              {Math.round(plan.film_used * 100)} % of it in parts
              {plan.cost > 0 && `, costs ${plan.cost.toFixed(2)}`}
              {saved > 1 && (
                <span className="text-soft"> — cut one by one: {showLength(plan.naive_length_mm, unit)}</span>
              )}
            </>
          )}
          {working && (
            <span className="ml-3 text-soft">
              <Standing text="Laying…" />
            </span>
          )}
          {laid.isFetching && (
            <button type="button" className="quiet ml-2 text-sm" onClick={laid.stop}>
              Cancel
            </button>
          )}
        </span>
        <label className="ml-auto flex items-center gap-1.5 text-sm">
          <Check className="h-4 w-4" checked={grid} onChange={(event) => showGrid(event.target.checked)} />
          Grid
        </label>
        <button type="button" className="act text-sm" aria-label="Smaller" onClick={() => scale(zoom / 1.4)}>
          −
        </button>
        <button type="button" className="act text-sm" onClick={() => scale(1)}>
          Fit
        </button>
        <button type="button" className="act text-sm" aria-label="Larger" onClick={() => scale(zoom * 1.4)}>
          +
        </button>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard */}
      <div ref={frame} tabIndex={0} className="min-h-0 overflow-auto px-4 pt-3">
        {fault && !plan && <p className="mt-10 text-center text-fail">{fault.message}</p>}
        {!plan && !fault && working && <p className="mt-10 text-center text-soft">Laying the films…</p>}
        {!plan && !fault && !working && (
          <p className="mt-10 text-center text-soft">
            The films are not laid.
            <button type="button" className="act ml-3" onClick={() => laid.refetch()}>
              Lay the films
            </button>
          </p>
        )}
        <ol>
          {plan?.sheets.slice(0, before.filter((count) => count < drawn).length).map((sheet, k) => (
            <Strip
              key={sheet.number}
              sheet={sheet}
              pxPerMm={fit * zoom}
              change={change}
              locked={Boolean(job.cut) || job.at_cutter}
              upTo={Math.max(0, drawn - (before[k] ?? 0))}
            />
          ))}
        </ol>
      </div>
    </section>
  );
}
