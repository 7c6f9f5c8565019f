import type { ReactNode } from "react";
import { ProblemError } from "@/api/client";
import { Input } from "@/entry/Entry";

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
