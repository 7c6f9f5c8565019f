import type { JobEdit, Plan } from "@/state/job";

interface PlanFindingsProps {
  plan: Plan | undefined;
  /** Whether what is only good to know is told, too. */
  notes?: boolean;
  /** Makes an edit of the job that mends what is told. */
  onFix(edit: JobEdit): unknown;
}

/** What is to be minded before film is cut: the gravest in full, the rest folded away. */
export function PlanFindings({ plan, notes = false, onFix }: PlanFindingsProps) {
  const told = plan?.findings ?? [];
  const grave = told.filter((found) => found.severity !== "note");
  const shown = notes ? [...grave, ...told.filter((found) => found.severity === "note")] : grave;
  const [first, ...rest] = shown;
  if (!first) return null;
  return (
    <section
      aria-label="Findings"
      className={`rounded px-3 py-1.5 ${grave.length > 0 ? "bg-failtint text-failink" : "bg-bench"}`}
    >
      <Told found={first} onFix={onFix} />
      {rest.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-sm underline underline-offset-2">
            {rest.length} more to look at
          </summary>
          <ul className="mt-1 flex flex-col gap-1.5">
            {rest.map((found) => (
              <li key={found.code + found.text}>
                <Told found={found} onFix={onFix} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function Told({ found, onFix }: { found: Plan["findings"][number]; onFix: PlanFindingsProps["onFix"] }) {
  return (
    <>
      <p>
        {found.text} {found.fixes.length === 0 && found.helps}
      </p>
      {found.fixes.map((fix) => (
        <button key={fix.label} type="button" className="act mt-1 text-sm" onClick={() => onFix(fix.edit)}>
          {fix.label}
        </button>
      ))}
    </>
  );
}
