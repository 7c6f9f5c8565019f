import type { JointKind } from "@/api/client";
import { showLength } from "@/geometry/lengths";
import { JointGlyph } from "@/parts/JointGlyph";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import { useUnit } from "@/state/design";

const KINDS: { kind: JointKind; text: string; hint: string }[] = [
  { kind: "butt", text: "Butt", hint: "The lower film ends where the upper begins." },
  { kind: "lap", text: "Lap", hint: "The lower film runs on a little under the upper." },
  { kind: "full", text: "Full", hint: "The lower film stays solid under the upper." },
  { kind: "gap", text: "Gap", hint: "The lower film keeps away; what is below shows." },
];
const FIRST_MM: Record<JointKind, number> = { butt: 0, lap: 0.4, full: 0.4, gap: 1 };

export interface Rule {
  kind: JointKind;
  mm: number | string;
}

interface JointControlProps {
  label: string;
  kind: JointKind;
  mm: number;
  lower: string;
  upper: string;
  /** What chose this joint, for reading; `own` says that it was chosen right here. */
  source?: string;
  own?: boolean;
  onSet(rule: Rule): Promise<unknown>;
  /** Goes back to what holds without a choice made here. */
  onClear?(): unknown;
}

/** A joint, drawn as a cross-section that opens into its choices. */
export function JointControl({ label, kind, mm, lower, upper, source, own, onSet, onClear }: JointControlProps) {
  const unit = useUnit();
  return (
    <Panel
      label={`${label}: ${kind}${kind !== "butt" && mm > 0 ? ` ${showLength(mm, unit)}` : ""}`}
      triggerClass="flex shrink-0 items-center gap-2 rounded px-1 py-0.5 text-sm whitespace-nowrap hover:bg-bench"
      width="w-76"
      trigger={
        <>
          <JointGlyph kind={kind} lower={lower} upper={upper} />
          <span className={own ? "font-semibold text-chosen" : ""}>
            {KINDS.find((k) => k.kind === kind)?.text}
            {kind !== "butt" && mm > 0 && <span className="measure"> {showLength(mm, unit)}</span>}
          </span>
          {source && <span className="text-soft">{source}</span>}
        </>
      }
    >
      <p className="mb-2 font-semibold">{label}</p>
      <fieldset className="flex flex-col gap-1" aria-label="Kind of joint">
        {KINDS.map((option) => (
          <button
            key={option.kind}
            type="button"
            aria-pressed={kind === option.kind}
            className="grid grid-cols-[92px_1fr] items-center gap-2 rounded border border-transparent p-1.5 text-left hover:bg-bench aria-pressed:border-chosen aria-pressed:bg-tint"
            onClick={() => onSet({ kind: option.kind, mm: mm > 0 && kind !== "butt" ? mm : FIRST_MM[option.kind] })}
          >
            <JointGlyph kind={option.kind} lower={lower} upper={upper} wide />
            <span>
              <span className="block font-semibold">{option.text}</span>
              <span className="block text-sm leading-tight text-soft">{option.hint}</span>
            </span>
          </button>
        ))}
      </fieldset>
      <div className="mt-3 flex items-end justify-between">
        {kind === "butt" ? (
          <span />
        ) : (
          <LengthField
            label={kind === "gap" ? "Width of the gap" : "Length of the lap"}
            mm={mm}
            onCommit={(length) => onSet({ kind, mm: length })}
          />
        )}
        {onClear && own && (
          <button type="button" className="quiet" onClick={onClear}>
            Back to the default
          </button>
        )}
      </div>
    </Panel>
  );
}
