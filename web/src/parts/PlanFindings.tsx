import type { Plan } from "@/state/job";

interface PlanFindingsProps {
  plan: Plan | undefined;
  /** Whether what is only good to know is told, too. */
  notes?: boolean;
}

/** What is to be minded before film is cut: the gravest in full, the rest folded away. */
export function PlanFindings({ plan, notes = false }: PlanFindingsProps) {
  const told = plan?.findings ?? [];
  const grave = told.filter((found) => found.severity !== "note");
  const shown = notes ? [...grave, ...told.filter((found) => found.severity === "note")] : grave;
  const [first, ...rest] = shown;
  if (!first) return null;
  return (
    <section
      aria-label="Findings"
      className={`rounded px-3 py-1.5 ${grave.length > 0 ? "bg-failtint text-[#6e1f0e]" : "bg-bench"}`}
    >
      <p>
        {first.text} {first.helps}
      </p>
      {rest.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-sm underline underline-offset-2">{rest.length} more to mind</summary>
          <ul className="mt-1 flex flex-col gap-1.5">
            {rest.map((found) => (
              <li key={found.code + found.text}>
                {found.text} {found.helps}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
