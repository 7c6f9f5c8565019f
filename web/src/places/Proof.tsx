import { useMemo } from "react";
import { Fold } from "@/parts/Fold";
import { AlikeFindings } from "@/places/proof/AlikeFindings";
import { DriftFields } from "@/places/proof/DriftFields";
import { ShrinkFields } from "@/places/proof/ShrinkFields";
import { ThicknessFields } from "@/places/proof/ThicknessFields";
import { WeedingFields } from "@/places/proof/WeedingFields";
import { useOpenDesign } from "@/state/design";
import { type JobAnswer, type JobEdit, useJobChange, useOwnJob, usePlan } from "@/state/job";
import { type Alike, type AnyFinding, byWhen, countsOf, useProof, useTold, WHENS } from "@/state/proof";

/** What will go wrong at the blade, in weeding and on the ground: told, shown, and mended before film is cut. */
export function Proof() {
  const { id, revision } = useOpenDesign();
  const proof = useProof();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  const change = useJobChange(job.data?.id ?? "");
  const told = useTold();
  const laid = plan.data?.findings;
  const all = useMemo(() => [...told, ...(laid ?? [])], [told, laid]);
  const ofSheets: ReadonlySet<AnyFinding> = useMemo(() => new Set(laid ?? []), [laid]);
  const groups = useMemo(() => byWhen(all.filter((found) => found.severity !== "note")), [all]);
  const notes = useMemo(() => byWhen(all.filter((f) => f.severity === "note")).flatMap(({ alike }) => alike), [all]);
  const mendJob = (made: JobEdit) => change({ do: "edit", edit: made });
  const settled = proof.settled && !plan.isFetching;
  return (
    <div className="flex flex-col gap-4">
      <Summary counts={countsOf(all)} settled={settled} failed={proof.error?.message ?? null} />
      {groups.map(({ when, alike }) => (
        <section key={when} aria-label={WHENS[when]}>
          <h2 className="heading mb-1">{WHENS[when]}</h2>
          <Rows alike={alike} ofSheets={ofSheets} job={job.data} onJobFix={mendJob} />
        </section>
      ))}
      {notes.length > 0 && (
        <Fold title="Good to know" figure={notes.length} open={false}>
          <Rows alike={notes} ofSheets={ofSheets} job={job.data} onJobFix={mendJob} />
        </Fold>
      )}
      {proof.data && (
        <div className="flex flex-col gap-3">
          <DriftFields proof={proof.data} />
          <ThicknessFields proof={proof.data} />
          <WeedingFields proof={proof.data} />
          <ShrinkFields proof={proof.data} job={job.data} onChange={(made) => change({ do: "edit", edit: made })} />
        </div>
      )}
    </div>
  );
}

interface RowsProps {
  alike: readonly Alike[];
  ofSheets: ReadonlySet<AnyFinding>;
  job: JobAnswer | undefined;
  onJobFix(edit: JobEdit): unknown;
}

function Rows({ alike, ...rest }: RowsProps) {
  return (
    <ul className="flex flex-col">
      {alike.map((one) => (
        <AlikeFindings key={one.key} alike={one} {...rest} />
      ))}
    </ul>
  );
}

interface SummaryProps {
  counts: ReturnType<typeof countsOf>;
  settled: boolean;
  failed: string | null;
}

/** How many things will fail, may fail, and are good to know. */
function Summary({ counts, settled, failed }: SummaryProps) {
  const { stop, mind, note } = counts;
  const none = stop + mind + note === 0;
  return (
    <div role="status" className="flex items-baseline gap-4 border-b border-line pb-2">
      {none ? (
        <p className="font-semibold">{settled ? "No problems found" : "Looking…"}</p>
      ) : (
        <>
          <Count many={stop} says="will fail" tone="text-fail" />
          <Count many={mind} says="may fail" tone="text-failink" />
          <Count many={note} says="good to know" tone="text-soft" />
        </>
      )}
      <span className="ml-auto text-sm text-soft">
        {failed ?? (!settled && !none && <span title="Looking again">…</span>)}
      </span>
    </div>
  );
}

function Count({ many, says, tone }: { many: number; says: string; tone: string }) {
  return (
    <p className={many > 0 ? tone : "text-soft"}>
      <span className="measure text-xl font-semibold">{many}</span> <span className="text-sm">{says}</span>
    </p>
  );
}
