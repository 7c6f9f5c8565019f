import type { JointKind } from "@/api/client";
import { showLength } from "@/geometry/lengths";
import { JointGlyph } from "@/parts/JointGlyph";
import { JOINT_KINDS, JOINTS } from "@/parts/joints";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import { useUnit } from "@/state/design";
import { useAsked } from "@/state/useAsked";

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
export function JointControl({ label, lower, upper, source, own, onSet, onClear, ...holds }: JointControlProps) {
  const unit = useUnit();
  const asked = useAsked({ kind: holds.kind, mm: holds.mm });
  const { kind, mm } = asked.value;
  const form = JOINTS[kind];
  const length = form.length && mm > 0 ? ` ${showLength(mm, unit)}` : "";
  return (
    <Panel
      label={`${label}: ${kind}${length}`}
      triggerClass="flex shrink-0 items-center gap-2 rounded px-1 py-0.5 text-sm whitespace-nowrap hover:bg-bench"
      width="w-76"
      trigger={
        <>
          <JointGlyph kind={kind} lower={lower} upper={upper} />
          <span
            data-pending={asked.pending || undefined}
            aria-busy={asked.pending || undefined}
            className={own ? "font-semibold text-chosen" : ""}
          >
            {form.text}
            {length && <span className="measure">{length}</span>}
          </span>
          {source && <span className="text-soft">{source}</span>}
        </>
      }
    >
      <p className="mb-2 font-semibold">{label}</p>
      <fieldset className="flex flex-col gap-1" aria-label="Kind of joint">
        {JOINT_KINDS.map((other) => (
          <button
            key={other}
            type="button"
            aria-pressed={kind === other}
            data-pending={(asked.pending && kind === other) || undefined}
            className="grid grid-cols-[92px_1fr] items-center gap-2 rounded border border-transparent p-1.5 text-left hover:bg-bench aria-pressed:border-chosen aria-pressed:bg-tint"
            onClick={() => {
              const rule = { kind: other, mm: length ? mm : (JOINTS[other].length?.first_mm ?? 0) };
              asked.ask(rule, () => onSet(rule));
            }}
          >
            <JointGlyph kind={other} lower={lower} upper={upper} wide />
            <span>
              <span className="block font-semibold">{JOINTS[other].text}</span>
              <span className="block text-sm leading-tight text-soft">{JOINTS[other].hint}</span>
            </span>
          </button>
        ))}
      </fieldset>
      <div className="mt-3 flex items-end justify-between">
        {form.length ? (
          <LengthField label={form.length.label} mm={mm} onCommit={(length) => onSet({ kind, mm: length })} />
        ) : (
          <span />
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
