import { CircleAlert, Info, LocateFixed, TriangleAlert } from "lucide-react";
import type { Finding } from "@/api/client";
import { useEdit } from "@/state/design";
import { useView } from "@/state/view";

const SIGNS = { stop: CircleAlert, mind: TriangleAlert, note: Info } as const;
const GRAVE = { stop: "Before you cut", mind: "Worth a look", note: "Good to know" } as const;
const LOOKS = {
  stop: "bg-failtint text-[#6e1f0e]",
  mind: "bg-failtint/60 text-[#6e1f0e]",
  note: "bg-bench text-ink",
} as const;

/** What is told of the design: said in words and with a sign, where it is, what helps, and what mends it at a click. */
export function Findings({ findings }: { findings: readonly Finding[] }) {
  const edit = useEdit();
  const show = useView((view) => view.show);
  if (findings.length === 0) return null;
  return (
    <ul aria-label="Findings" className="mb-4 flex flex-col gap-2">
      {findings.map((finding) => {
        const Sign = SIGNS[finding.severity];
        return (
          <li
            key={`${finding.code} ${finding.about} ${finding.text}`}
            className={`flex gap-2 rounded px-3 py-2 ${LOOKS[finding.severity]}`}
          >
            <Sign role="img" aria-label={GRAVE[finding.severity]} size={17} className="mt-0.5 shrink-0" />
            <div className="min-w-0 grow">
              <p>
                {finding.text} {finding.fixes.length === 0 && finding.helps}
              </p>
              {(finding.place || finding.fixes.length > 0) && (
                <p className="mt-1 flex flex-wrap gap-2">
                  {finding.fixes.map((fix) => (
                    <button key={fix.label} type="button" className="act text-sm" onClick={() => edit(fix.edit)}>
                      {fix.label}
                    </button>
                  ))}
                  {finding.place && (
                    <button
                      type="button"
                      className="act flex items-center gap-1 text-sm"
                      onClick={() => show(finding.place)}
                    >
                      <LocateFixed aria-hidden size={14} /> Show where
                    </button>
                  )}
                </p>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}
