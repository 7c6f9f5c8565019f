import { useState } from "react";
import { showLength, type Unit } from "@/geometry/lengths";
import { NumberField } from "@/parts/NumberField";
import { useSpokenWork } from "@/parts/Spoken";
import { type CutSheet, type Cutting, step, type useCutStep, type Way } from "@/state/cutting";
import { useUnit } from "@/state/design";

export type Move = ReturnType<typeof useCutStep>["mutate"];

interface AtHandProps {
  sheet: CutSheet;
  of: Cutting;
  busy: boolean;
  move: Move;
}

/** What is said when the blade rests; of trouble its own words are. */
const ENDED: Partial<Record<CutSheet["stage"], string>> = { cut: "All of this film is cut.", paused: "Paused." };

/** The film at the cutter: what to load, how far it is, what went wrong and how to go on. */
export function AtHand({ sheet, of, busy, move }: AtHandProps) {
  const unit = useUnit();
  const cut = sheet.contours - sheet.to_cut;
  useSpokenWork(sheet.stage === "cutting", `${cut} of ${sheet.contours} contours cut`, ENDED[sheet.stage] ?? "");
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
          {sheet.bought ? ", to buy" : `, ${sheet.kind}`}
        </Row>
        <Row name="Size">
          <strong className="font-semibold">{showLength(sheet.width_mm, unit)}</strong> wide, takes{" "}
          {showLength(sheet.length_used_mm, unit)}
        </Row>
        <Row name="Face">
          {sheet.face_down ? (
            <strong className="font-semibold text-chosen">face down, on its carrier</strong>
          ) : (
            "film up"
          )}
          , {sheet.mirrored ? <strong className="font-semibold text-chosen">cut mirrored</strong> : "not mirrored"}
        </Row>
        <Row name="Dial in">
          <strong className="font-semibold">{sheet.force_g} g</strong>, {sheet.speed_mm_s.toFixed(0)} mm/s,{" "}
          {sheet.angle_deg}° blade{sheet.passes > 1 && `, ${sheet.passes} passes`}
        </Row>
      </dl>
      <div className="mt-3 flex flex-col gap-2">
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
              {sheet.pen > 0 ? `Draw with ${sheet.pen_name ?? "the pen"}` : cut > 0 ? "Cut the rest" : "Cut it"}
            </button>
            {sheet.pen > 0 && (
              <p className="text-sm text-soft">Put {sheet.pen_name ?? "the pen"} in; the blade comes after it.</p>
            )}
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
export function doneText({ figures }: CutSheet, unit: Unit): string {
  return figures ? `cut, within ${showLength(figures.largest_mm, unit, 2)}` : "cut";
}

export function Swatch({ colour }: { colour: string }) {
  return <span className="h-5 w-5 rounded-sm border border-firm" style={{ background: colour }} />;
}

export function ordinal(n: number): string {
  return ["first", "second", "third", "fourth", "fifth"][n - 1] ?? `${n}${ENDINGS[ORDINAL.select(n)]}`;
}

const ORDINAL = new Intl.PluralRules("en", { type: "ordinal" });
const ENDINGS: Readonly<Record<Intl.LDMLPluralRule, string>> = {
  one: "st",
  two: "nd",
  few: "rd",
  other: "th",
  zero: "th",
  many: "th",
};
