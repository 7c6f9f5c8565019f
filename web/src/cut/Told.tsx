import type { Plan } from "@/state/job";

/** What is to be minded before film is cut. */
export function Findings({ plan }: { plan: Plan | undefined }) {
  const grave = plan?.findings.filter((found) => found.severity !== "note") ?? [];
  if (!grave.length) return null;
  return (
    <ul aria-label="Findings" className="flex flex-col gap-1.5">
      {grave.map((found) => (
        <li key={found.code + found.text} className="rounded bg-failtint px-3 py-1.5 text-[#6e1f0e]">
          {found.text} {found.helps}
        </li>
      ))}
    </ul>
  );
}
