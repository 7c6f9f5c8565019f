import { useState } from "react";
import { showLength, showTime, type Unit } from "@/geometry/lengths";
import { Select } from "@/parts/Entry";
import { Fold } from "@/parts/Fold";
import { NumberField } from "@/parts/NumberField";
import { PlanFindings } from "@/parts/PlanFindings";
import { Downloads } from "@/places/cut/Downloads";
import { atHand, type CutSheet, type Cutting, step, useCutStep, useCutting, type Way } from "@/state/cutting";
import { useUnit } from "@/state/design";
import { type JobAnswer, type Plan, useJobChange } from "@/state/job";

interface CutPanelProps {
  job: JobAnswer;
  plan: Plan | undefined;
}

/** Cutting a job film by film: what to load, how far it is, what happened and how to go on. */
export function CutPanel({ job, plan }: CutPanelProps) {
  const cutting = useCutting(job.id);
  const change = useJobChange(job.id);
  const move = useCutStep(job);
  const now = atHand(cutting.data);
  return (
    <div className="flex flex-col gap-4">
      <PlanFindings plan={plan} onFix={(edit) => change({ do: "edit", edit })} />
      {!cutting.data && <Begin job={job} plan={plan} busy={move.isPending} onBegin={() => move.mutate("begin")} />}
      {cutting.data && now && <AtHand sheet={now} of={cutting.data} busy={move.isPending} move={move.mutate} />}
      {cutting.data?.finished && (
        <p className="rounded bg-bench px-3 py-2">
          All films are cut. What they took is off the shelf; put them together as the job sheet says.
        </p>
      )}
      {cutting.data && <Sheets cutting={cutting.data} now={now?.number} />}
      {cutting.data && !cutting.data.finished && <Simulated cutting={cutting.data} sheet={now} move={move.mutate} />}
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

type Move = ReturnType<typeof useCutStep>["mutate"];

function Begin({ job, plan, busy, onBegin }: CutPanelProps & { busy: boolean; onBegin(): void }) {
  const unit = useUnit();
  const short = plan?.findings.some((found) => found.severity === "stop");
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
        <p className="mt-2 text-soft">This job was marked as cut on {new Date(job.cut).toLocaleString()}.</p>
      ) : (
        <button type="button" className="act-main mt-3" disabled={busy || short} onClick={onBegin}>
          Cut these films
        </button>
      )}
      {short && <p className="mt-1 text-sm text-soft">There is too little film on the shelf.</p>}
    </section>
  );
}

function Swatch({ colour }: { colour: string }) {
  return <span className="h-5 w-5 rounded-sm border border-firm" style={{ background: colour }} />;
}

interface AtHandProps {
  sheet: CutSheet;
  of: Cutting;
  busy: boolean;
  move: Move;
}

/** The film at hand: what to load and dial in, and the one thing to do next. */
function AtHand({ sheet, of, busy, move }: AtHandProps) {
  const unit = useUnit();
  const cut = sheet.contours - sheet.to_cut;
  return (
    <section aria-label="Film at hand" className="rounded-lg border border-firm bg-table p-3">
      <p className="heading">
        Film {sheet.number} of {of.sheets.length}
        {sheet.films > 1 && `, on its ${ordinal(sheet.films)} piece`}
      </p>
      <div className="flex items-center gap-2">
        <Swatch colour={sheet.colour} />
        <h2 className="min-w-0 truncate text-lg font-semibold">{sheet.name}</h2>
      </div>
      <dl className="measure mt-2 grid grid-cols-[92px_1fr] gap-x-2 gap-y-0.5">
        <Row name="Film">
          {sheet.material}
          {sheet.bought ? ", to be bought" : `, ${sheet.kind}`}
        </Row>
        <Row name="Size">
          <strong className="font-semibold">{showLength(sheet.width_mm, unit)}</strong> wide, takes{" "}
          {showLength(sheet.length_used_mm, unit)}
        </Row>
        <Row name="Face">
          {sheet.mirrored ? (
            <strong className="font-semibold text-chosen">carrier down, cut mirrored</strong>
          ) : (
            "film up, not mirrored"
          )}
        </Row>
        <Row name="Dial in">
          <strong className="font-semibold">{sheet.force_g} g</strong>, {sheet.speed_mm_s.toFixed(0)} mm/s,{" "}
          {sheet.angle_deg}° blade{sheet.passes > 1 && `, ${sheet.passes} passes`}
        </Row>
      </dl>
      <div className="mt-3 flex flex-col gap-2" aria-live="polite">
        {sheet.stage === "waiting" && (
          <button
            type="button"
            className="act-main"
            disabled={busy}
            onClick={() => move(step("load", { number: sheet.number }))}
          >
            The film is loaded
          </button>
        )}
        {sheet.stage === "ready" && (
          <>
            <button type="button" className="act-main" disabled={busy} onClick={() => move(step("cut"))}>
              {sheet.pen > 0 ? "Draw with the pen" : cut > 0 ? "Cut the rest" : "Cut it"}
            </button>
            {sheet.pen > 0 && <p className="text-sm text-soft">Put the pen in; the blade comes after it.</p>}
            {sheet.tests && !sheet.test && sheet.pen === 0 && (
              <button type="button" className="act" disabled={busy} onClick={() => move(step("test"))}>
                Test cut first
              </button>
            )}
          </>
        )}
        {sheet.test && sheet.stage !== "done" && (
          <p className="text-sm">
            Test cut: {sheet.test.through ? "through" : <strong className="text-fail">not through</strong>}, corners
            within {showLength(sheet.test.corner_mm, unit, 2)}, off by at most{" "}
            {showLength(sheet.test.largest_mm, unit, 2)}.
          </p>
        )}
        {(sheet.stage === "cutting" || sheet.stage === "paused") && (
          <>
            <Progress done={cut} of={sheet.contours} />
            <span className="flex gap-2">
              {sheet.stage === "cutting" ? (
                <button type="button" className="act" onClick={() => move(step("pause"))}>
                  Pause
                </button>
              ) : (
                <button type="button" className="act-main" onClick={() => move(step("resume"))}>
                  Go on
                </button>
              )}
              <button type="button" className="act" onClick={() => move(step("stop"))}>
                Stop
              </button>
            </span>
          </>
        )}
        {sheet.stage === "trouble" && <Trouble sheet={sheet} busy={busy} move={move} />}
        {sheet.stage === "cut" && (
          <>
            <Compared sheet={sheet} />
            <button type="button" className="act-main" disabled={busy} onClick={() => move(step("finish"))}>
              Take it out{sheet.number < of.sheets.length && ": next film"}
            </button>
          </>
        )}
      </div>
    </section>
  );
}

function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="heading pt-0.5">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  );
}

function Progress({ done, of }: { done: number; of: number }) {
  return (
    <div>
      <div
        role="progressbar"
        aria-label="Contours cut"
        aria-valuemin={0}
        aria-valuemax={of}
        aria-valuenow={done}
        className="h-2 overflow-hidden rounded-full bg-bench"
      >
        <div className="h-full bg-chosen" style={{ width: `${(100 * done) / Math.max(1, of)}%` }} />
      </div>
      <p className="measure mt-0.5 text-sm text-soft">
        {done} of {of} contours cut
      </p>
    </div>
  );
}

const WAYS: Record<Way, { text: string; helps: string }> = {
  "go-on": { text: "Go on where it stopped", helps: "What is cut stays as it is; nothing is cut twice." },
  again: { text: "Cut those again", helps: "In the same place, with the force below." },
  recut: {
    text: "Cut the damaged parts again",
    helps: "On the rest of this film. They no longer lie in register with the others.",
  },
  rest: { text: "Cut the rest on new film", helps: "The parts that are whole stay; only the others are cut again." },
  "start-over": { text: "Start over on new film", helps: "What was used of this one goes off the shelf." },
};

function Trouble({ sheet, busy, move }: Omit<AtHandProps, "of">) {
  const [force, setForce] = useState(Math.round(sheet.force_g * 1.3));
  const cut = sheet.contours - sheet.to_cut;
  return (
    <>
      <p role="alert" className="rounded bg-failtint px-3 py-2 text-failink">
        <strong className="font-semibold">{sheet.trouble}</strong>{" "}
        {cut > 0 ? `${cut} of ${sheet.contours} contours are good.` : "Nothing is cut yet."}
      </p>
      {sheet.ways.includes("again") && (
        <NumberField label="Force, g" value={force} places={0} onCommit={(grams) => setForce(Math.round(grams))} />
      )}
      {sheet.ways.map((way, k) => (
        <span key={way}>
          <button
            type="button"
            className={`${k === 0 ? "act-main" : "act"} w-full`}
            disabled={busy}
            onClick={() => move(step("mend", { way, force_g: way === "again" ? force : undefined }))}
          >
            {WAYS[way].text}
          </button>
          <span className="block text-sm text-soft">{WAYS[way].helps}</span>
        </span>
      ))}
    </>
  );
}

function Compared({ sheet }: { sheet: CutSheet }) {
  const unit = useUnit();
  const found = sheet.figures;
  if (!found) return null;
  const fine = found.missing === 0 && found.twice === 0 && found.largest_mm <= 0.05;
  return (
    <p className={`rounded px-3 py-2 ${fine ? "bg-bench" : "bg-failtint text-failink"}`}>
      {found.cut_once} of {found.contours} contours cut once
      {found.missing > 0 && `, ${found.missing} not whole`}
      {found.twice > 0 && `, ${found.twice} cut twice`}. Off the plan by at most{" "}
      <strong className="measure font-semibold">{showLength(found.largest_mm, unit, 2)}</strong>
      {!fine && found.x_mm !== null && found.y_mm !== null && (
        <>
          , at {showLength(found.x_mm, unit)} along and {showLength(found.y_mm, unit)} across
        </>
      )}
      ; corners within {showLength(found.corner_mm, unit, 2)}.
    </p>
  );
}

/** What is told of a film that is done with. */
function doneText({ figures }: CutSheet, unit: Unit): string {
  return figures ? `cut, within ${showLength(figures.largest_mm, unit, 2)}` : "cut";
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

const MISHAPS = [
  { value: "cover", text: "The cover is opened" },
  { value: "slip", text: "The film slips" },
  { value: "film-out", text: "The film runs out" },
  { value: "link", text: "The line is lost" },
  { value: "power", text: "The power is lost" },
  { value: "force", text: "The blade is blunt" },
] as const;

/** The cutter that ships with the app: how fast it works, and mishaps to try. */
function Simulated({ cutting, sheet, move }: { cutting: Cutting; sheet: CutSheet | undefined; move: Move }) {
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

function ordinal(n: number): string {
  return ["first", "second", "third", "fourth", "fifth"][n - 1] ?? `${n}th`;
}
