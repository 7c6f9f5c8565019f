import type { ReactNode } from "react";

export const INPUT = "w-full min-w-0 rounded border border-firm bg-table px-2 py-1";

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
      <input
        type="number"
        step="any"
        min="0"
        className={`measure ${INPUT}`}
        value={Number(value.toFixed(4))}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </Field>
  );
}
