import { ChevronLeft, ChevronRight, CircleAlert, Info, TriangleAlert } from "lucide-react";
import { useState } from "react";
import type { Edit } from "@/api/client";
import { useEdit, useOpenDesign } from "@/state/design";
import type { JobAnswer, JobEdit } from "@/state/job";
import { type Alike, type AnyFinding, isSamePlace, useHelping, useHelpingOnSheets } from "@/state/proof";
import { useTries } from "@/state/tries";
import { useTry } from "@/state/useTry";
import { useView } from "@/state/view";

const SIGNS = { stop: CircleAlert, mind: TriangleAlert, note: Info } as const;
const GRAVE = { stop: "Will fail", mind: "May fail", note: "Good to know" } as const;
const TONES = { stop: "text-fail", mind: "text-failink", note: "text-soft" } as const;

interface AlikeFindingsProps {
  alike: Alike;
  /** Findings of the sheets, which are mended by edits of the job. */
  ofSheets: ReadonlySet<AnyFinding>;
  job: JobAnswer | undefined;
  onJobFix(edit: JobEdit): unknown;
}

/** Findings of one kind about one film: one at a time, stepped through, each shown on the stage with what mends it. */
export function AlikeFindings({ alike: { findings }, ofSheets, job, onJobFix }: AlikeFindingsProps) {
  const { built } = useOpenDesign();
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const { show, shown } = useView();
  const k = Math.min(at, findings.length - 1);
  const found = findings[k];
  if (!found) return null;
  const Sign = SIGNS[found.severity];
  const colour = built.layers.find((layer) => layer.film === found.about)?.colour;
  const own = isShown(found, shown?.place ?? null);
  const step = (by: number) => {
    const next = (k + by + findings.length) % findings.length;
    setAt(next);
    show(findings[next]?.place ?? null);
  };
  const toggle = () => {
    setOpen(!open);
    if (!open && found.place) show(found.place);
    if (open && own) show(null);
  };
  return (
    <li className={`border-l-4 ${open ? "border-chosen bg-tint" : "border-transparent"}`}>
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full gap-2 rounded py-1.5 pl-2 text-left hover:bg-bench"
        onClick={toggle}
      >
        <span className="mt-0.5 flex shrink-0 flex-col items-center gap-1">
          <Sign role="img" aria-label={GRAVE[found.severity]} size={17} className={TONES[found.severity]} />
          {colour && (
            <span aria-hidden className="h-3 w-3 rounded-sm border border-firm" style={{ background: colour }} />
          )}
        </span>
        <span className="min-w-0 grow">{found.text}</span>
        {findings.length > 1 && <span className="measure pr-1 text-sm text-soft">{findings.length}×</span>}
      </button>
      {open && (
        <div className="flex flex-wrap items-center gap-1.5 pb-2 pl-[33px]">
          <Fixes found={found} ofSheets={ofSheets.has(found)} job={job} onJobFix={onJobFix} />
          {findings.length > 1 && (
            <span className="ml-auto flex items-center text-sm text-soft">
              <button type="button" aria-label="The one before" className="act p-1" onClick={() => step(-1)}>
                <ChevronLeft aria-hidden size={15} />
              </button>
              <span className="measure px-1.5" aria-live="polite">
                {k + 1} of {findings.length}
              </span>
              <button type="button" aria-label="The next one" className="act p-1" onClick={() => step(1)}>
                <ChevronRight aria-hidden size={15} />
              </button>
            </span>
          )}
        </div>
      )}
    </li>
  );
}

function isShown(found: AnyFinding, shown: AnyFinding["place"]): boolean {
  return found.place !== null && isSamePlace(found.place, shown);
}

interface FixesProps {
  found: AnyFinding;
  ofSheets: boolean;
  job: JobAnswer | undefined;
  onJobFix(edit: JobEdit): unknown;
}

/** What mends it, of which nothing is offered that does not help; pointed at, it is tried on the stage. */
function Fixes({ found, ofSheets, job, onJobFix }: FixesProps) {
  const edit = useEdit();
  const attempt = useTry();
  const clear = useTries((tries) => tries.clear);
  const show = useView((view) => view.show);
  const onStage = useHelping(found, !ofSheets);
  const onSheets = useHelpingOnSheets(job, found, ofSheets);
  const helping = ofSheets ? onSheets : onStage;
  if (helping === null) return <span className="text-sm text-soft">Trying what helps…</span>;
  const fixes = found.fixes.filter((_, k) => helping[k]);
  return (
    <>
      {fixes.length === 0 && found.helps && <span className="text-sm text-soft">{found.helps}</span>}
      {fixes.map((fix) =>
        ofSheets ? (
          <button
            key={fix.label}
            type="button"
            className="act px-2 text-sm"
            onClick={() => onJobFix(fix.edit as JobEdit)}
          >
            {fix.label}
          </button>
        ) : (
          <button
            key={fix.label}
            type="button"
            className="act px-2 text-sm"
            onPointerEnter={() => attempt(fix.edit as Edit)}
            onPointerLeave={clear}
            onFocus={() => attempt(fix.edit as Edit)}
            onBlur={clear}
            onClick={() => {
              show(null);
              void edit(fix.edit as Edit);
            }}
          >
            {fix.label}
          </button>
        ),
      )}
    </>
  );
}
