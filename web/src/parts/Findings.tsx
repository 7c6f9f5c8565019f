import { CircleAlert, Info, LocateFixed, TriangleAlert } from "lucide-react";
import { useState } from "react";
import type { Finding } from "@/api/client";
import { useEdit } from "@/state/design";
import { useView } from "@/state/view";

const SIGNS = { stop: CircleAlert, mind: TriangleAlert, note: Info } as const;
const GRAVE = { stop: "Before you cut", mind: "Worth a look", note: "Good to know" } as const;
const LOOKS = {
  stop: "bg-failtint text-failink",
  mind: "bg-failtint/60 text-failink",
  note: "bg-bench text-ink",
} as const;

/** So many of one kind are all shown; of more only the first, until they are asked for. */
const MOST_ALIKE = 3;

const GRAVITY = { stop: 0, mind: 1, note: 2 } as const;

interface FindingsProps {
  findings: readonly Finding[];
  /** How many are told here, the gravest; of the rest Proof tells. */
  most?: number;
}

/** What is told of the design: said in words and with a sign, where it is, what helps, and what mends it at a click. */
export function Findings({ findings: all, most = all.length }: FindingsProps) {
  const goTo = useView((view) => view.goTo);
  const findings =
    all.length > most ? [...all].sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity]).slice(0, most) : all;
  const edit = useEdit();
  const show = useView((view) => view.show);
  const [open, setOpen] = useState<readonly string[]>([]);
  if (findings.length === 0) return null;
  const alike = (code: string) => findings.filter((one) => one.code === code);
  const shown = findings.filter(
    (one) => open.includes(one.code) || alike(one.code).length <= MOST_ALIKE || alike(one.code)[0] === one,
  );
  return (
    <ul aria-label="Findings" className="mb-4 flex flex-col gap-2">
      {shown.map((finding) => {
        const more = open.includes(finding.code) ? 0 : alike(finding.code).length - 1;
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
              {more >= MOST_ALIKE && (
                <button type="button" className="quiet mt-1 text-sm" onClick={() => setOpen([...open, finding.code])}>
                  Show {more} more like this
                </button>
              )}
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
      {all.length > findings.length && (
        <li>
          <button type="button" className="quiet text-sm" onClick={() => goTo("Proof")}>
            {all.length - findings.length} more under Proof
          </button>
        </li>
      )}
    </ul>
  );
}
