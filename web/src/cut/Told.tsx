import type { Plan } from "@/state/job";

/** What is to be minded before film is cut: the first in full, the rest folded away. */
export function Findings({ plan }: { plan: Plan | undefined }) {
  const grave = plan?.findings.filter((found) => found.severity !== "note") ?? [];
  const [first, ...rest] = grave;
  if (!first) return null;
  return (
    <section aria-label="Findings" className="rounded bg-failtint px-3 py-1.5 text-[#6e1f0e]">
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
