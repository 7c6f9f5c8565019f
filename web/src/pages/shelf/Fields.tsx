import { type ReactNode, useState } from "react";
import { ProblemError } from "@/api/client";
import { Input } from "@/entry/Entry";
import { readLength, soldLength, type Unit } from "@/geometry/lengths";

export function Field({ label, wide, children }: { label: string; wide?: boolean; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is the child
    <label className={`block ${wide ? "col-span-2" : ""}`}>
      <span className="heading block">{label}</span>
      {children}
    </label>
  );
}

export function Amount({ label, value, onChange }: { label: string; value: number; onChange(value: number): void }) {
  return (
    <Field label={label}>
      <Input
        type="number"
        step="any"
        min="0"
        className="measure w-full"
        value={Number(value.toFixed(4))}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </Field>
  );
}

interface LengthProps {
  label: string;
  mm: number;
  unit: Unit;
  onChange(mm: number): void;
}

const AS_WRITTEN = "Write it like 2 mm or 1/16 in.";

/** A length of a form in the maker's unit; one that cannot be read keeps the form from being sent, and says so. */
export function Length({ label, mm, unit, onChange }: LengthProps) {
  const [text, setText] = useState(() => soldLength(mm, unit));
  const read = readLength(text, unit);
  const refused = read === null || read < 0;
  return (
    <Field label={label}>
      <Input
        className="measure w-full"
        value={text}
        aria-invalid={refused}
        ref={(input) => input?.setCustomValidity(refused ? AS_WRITTEN : "")}
        onChange={(event) => {
          setText(event.target.value);
          const typed = readLength(event.target.value, unit);
          if (typed !== null && typed >= 0) onChange(typed);
        }}
      />
      {refused && <span className="block text-sm text-failink">{AS_WRITTEN}</span>}
    </Field>
  );
}

/** Why a form was refused, in the form; what was typed stays to be mended. */
export function Refused({ fault }: { fault: Error | null }) {
  if (!fault) return null;
  const helps = fault instanceof ProblemError ? fault.remedy : "";
  return (
    <p role="alert" className="mt-3 rounded bg-failtint px-3 py-1.5 text-failink">
      {fault instanceof ProblemError ? fault.detail : fault.message} {helps}
    </p>
  );
}
