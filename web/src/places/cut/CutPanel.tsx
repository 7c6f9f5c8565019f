import { useState } from "react";
import { showLength, showTime } from "@/geometry/lengths";
import { Again } from "@/parts/Again";
import { PlanFindings } from "@/parts/PlanFindings";
import { Records } from "@/parts/Records";
import { AtHand, doneText, Swatch } from "@/places/cut/AtHand";
import { Downloads } from "@/places/cut/Downloads";
import { Simulated } from "@/places/cut/Simulated";
import { atHand, type CutSheet, type Cutting, step, useCutStep, useCutting } from "@/state/cutting";
import { useUnit } from "@/state/design";
import { type JobAnswer, type Plan, useJobChange } from "@/state/job";
import type { AnyFinding } from "@/state/proof";
import { goTo } from "@/state/route";
import { useView } from "@/state/view";

interface CutPanelProps {
  job: JobAnswer;
  plan: Plan | undefined;
  /** What will fail of the design itself. */
  fails?: readonly AnyFinding[];
}

/** Cutting a job film by film: what to load, how far it is, what happened and how to go on. */
export function CutPanel({ job, plan, fails = NONE }: CutPanelProps) {
  const cutting = useCutting(job.id);
  const change = useJobChange(job.id);
  const move = useCutStep(job);
  const now = atHand(cutting.data);
  return (
    <div className="flex flex-col gap-4">
      <PlanFindings plan={plan} onFix={(edit) => change({ do: "edit", edit })} />
      {!cutting.data && (
        <Begin job={job} plan={plan} fails={fails} busy={move.isPending} onBegin={() => move.mutate("begin")} />
      )}
      {cutting.data?.held_by && !cutting.data.finished && <Held by={cutting.data.held_by} />}
      {cutting.data && now && <AtHand sheet={now} of={cutting.data} busy={move.isPending} move={move.mutate} />}
      {cutting.data?.finished && (
        <div className="rounded bg-bench px-3 py-2">
          <p>All films are cut. What they took is off the shelf; put them together as the job sheet says.</p>
          <span className="mt-2 flex gap-2">
            <Again job={job} change={change} />
          </span>
        </div>
      )}
      {cutting.data && <Sheets cutting={cutting.data} now={now?.number} />}
      {cutting.data && !cutting.data.finished && <Simulated cutting={cutting.data} sheet={now} move={move.mutate} />}
      <Records job={job} change={change} />
      <Downloads job={job} plan={plan} />
      {cutting.data && !cutting.data.finished && (
        <button
          type="button"
          className="quiet self-start text-sm"
          disabled={move.isPending}
          onClick={() => move.mutate(step("end"))}
        >
          End cutting here; what was used stays off the shelf
        </button>
      )}
    </div>
  );
}

const NONE: readonly AnyFinding[] = [];

interface AskingProps {
  fails: readonly { readonly text: string }[];
  disabled: boolean;
  onBegin(): void;
}

/** The button that begins to cut; where something will fail it asks once. */
function Asking({ fails, disabled, onBegin }: AskingProps) {
  const [asked, ask] = useState(false);
  const [first] = fails;
  if (!asked || !first)
    return (
      <button
        type="button"
        className="act-main mt-3"
        disabled={disabled}
        onClick={() => (first ? ask(true) : onBegin())}
      >
        Cut these films
      </button>
    );
  return (
    <div
      role="alertdialog"
      aria-label="Something will fail"
      className="mt-3 rounded bg-failtint px-3 py-2 text-failink"
    >
      <p>
        {first.text}
        {fails.length > 1 && ` And ${fails.length - 1} more that will fail; Proof tells of them.`}
      </p>
      <p className="mt-2 flex gap-2">
        <button type="button" className="act" disabled={disabled} onClick={onBegin}>
          Cut all the same
        </button>
        <button type="button" className="act" onClick={() => ask(false)}>
          Not yet
        </button>
      </p>
    </div>
  );
}

/** Another job has its film in the cutter: the way there, where it is finished or taken out. */
function Held({ by }: { by: NonNullable<Cutting["held_by"]> }) {
  const go = useView((view) => view.goTo);
  return (
    <p className="rounded bg-failtint px-3 py-2 text-failink">
      Film of “{by.name}” is in the cutter: finish cutting it there, or take it out.{" "}
      <button
        type="button"
        className="quiet"
        onClick={() => {
          goTo(by.design ? `/design/${by.design}` : `/job/${by.job}`);
          if (by.design) go("Cut");
        }}
      >
        Go there
      </button>
    </p>
  );
}

function Begin({ job, plan, fails = NONE, busy, onBegin }: CutPanelProps & { busy: boolean; onBegin(): void }) {
  const unit = useUnit();
  const short = plan?.findings.some((found) => found.code === "short-of-film");
  const stops = plan?.findings.filter((found) => found.severity === "stop") ?? [];
  if (!plan) return <p className="text-soft">Laying the films…</p>;
  const whole = plan.sheets.reduce((sum, sheet) => sum + sheet.seconds, 0);
  const sooner = plan.sheets.reduce((sum, sheet) => sum + sheet.seconds_before - sheet.seconds, 0);
  const saved = plan.sheets.reduce((sum, sheet) => sum + sheet.travel_before_mm - sheet.travel_mm, 0);
  return (
    <section aria-label="Films to cut">
      <ol className="border-t border-line">
        {plan.sheets.map((sheet) => (
          <li
            key={sheet.number}
            className="grid grid-cols-[20px_24px_1fr_auto] items-center gap-2 border-b border-line py-1.5"
          >
            <span className="measure text-right text-soft">{sheet.number}</span>
            <Swatch colour={sheet.material.colour} />
            <span className="min-w-0">
              <span className="block truncate font-semibold">{sheet.name}</span>
              <span className="block truncate text-sm text-soft">
                {sheet.material.name}
                {sheet.mirrored && ", mirrored"}
              </span>
            </span>
            <span className="measure text-right text-sm text-soft">
              {showLength(sheet.length_used_mm, unit)}
              <br />
              {showTime(sheet.seconds)}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm text-soft">
        {showLength(
          plan.sheets.reduce((sum, sheet) => sum + sheet.cut_mm, 0),
          unit,
        )}{" "}
        to cut in {showTime(whole)}, with {plan.sheets.reduce((sum, sheet) => sum + sheet.lifts, 0)} lifts;{" "}
        {showLength(Math.max(0, saved), unit)} of travel and {showTime(Math.max(0, sooner))} saved by the order.
      </p>
      {job.cut ? (
        <p className="mt-2 text-soft">
          This job was cut on {new Date(job.cut).toLocaleString()}; under Sheets it can be cut again.
        </p>
      ) : (
        <Asking fails={[...fails, ...stops]} disabled={busy || Boolean(short)} onBegin={onBegin} />
      )}
      {short && <p className="mt-1 text-sm text-soft">There is too little film on the shelf.</p>}
    </section>
  );
}

function Sheets({ cutting, now }: { cutting: Cutting; now: number | undefined }) {
  const unit = useUnit();
  return (
    <ol aria-label="Films" className="border-t border-line">
      {cutting.sheets.map((sheet) => (
        <li
          key={sheet.number}
          aria-current={sheet.number === now ? "step" : undefined}
          className="grid grid-cols-[20px_24px_1fr_auto] items-center gap-2 border-b border-line py-1.5 aria-[current]:font-semibold"
        >
          <span className="measure text-right text-soft">{sheet.number}</span>
          <Swatch colour={sheet.colour} />
          <span className="truncate">{sheet.name}</span>
          <span className="measure text-sm text-soft">
            {sheet.stage === "done" ? doneText(sheet, unit) : sheet.number === now ? STAGES[sheet.stage] : "to come"}
          </span>
        </li>
      ))}
    </ol>
  );
}

const STAGES: Record<CutSheet["stage"], string> = {
  waiting: "load it",
  ready: "loaded",
  cutting: "being cut",
  paused: "held",
  trouble: "stopped",
  cut: "cut",
  done: "cut",
};
