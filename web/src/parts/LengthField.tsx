import { useEffect, useRef, useState } from "react";
import { editLength, nudge, withUnit } from "@/lengths";
import { useUnit } from "@/state/design";

const NUDGE_REST_MS = 250;

interface LengthFieldProps {
  label: string;
  mm: number;
  /** Takes the length as typed, with its unit; the server reads it. */
  onCommit(length: string): Promise<unknown>;
  hideLabel?: boolean;
  disabled?: boolean;
  large?: boolean;
  /** Whether it may be negative. */
  signed?: boolean;
  /** What is shown in place of a length where there is none. */
  none?: string;
}

/** A length, set like a measurement: typed in any unit, or nudged with the arrow keys. */
export function LengthField({ label, mm, onCommit, hideLabel, disabled, large, signed, none }: LengthFieldProps) {
  const unit = useUnit();
  const shown = none ?? editLength(mm, unit);
  const [draft, setDraft] = useState(shown);
  const rest = useRef<number | undefined>(undefined);
  useEffect(() => setDraft(shown), [shown]);
  useEffect(() => () => window.clearTimeout(rest.current), []);

  const commit = (text: string) => {
    window.clearTimeout(rest.current);
    if (text.trim() === shown || !text.trim()) setDraft(shown);
    else void onCommit(withUnit(text, unit)).then((done) => done === null && setDraft(shown));
  };
  return (
    <label className="inline-flex flex-col">
      <span className={hideLabel ? "sr-only" : "heading"}>{label}</span>
      <input
        type="text"
        inputMode="decimal"
        disabled={disabled}
        value={draft}
        className={`measure border-b-2 border-firm bg-transparent focus:border-chosen disabled:border-line disabled:text-soft ${large ? "w-32 py-1 text-2xl" : "w-22 py-0.5"}`}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => commit(draft)}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit(draft);
          if (event.key === "Escape") setDraft(shown);
          if (event.key === "ArrowUp" || event.key === "ArrowDown") {
            const next = nudge(draft, unit, (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1), signed);
            if (next === null) return;
            event.preventDefault();
            setDraft(next);
            window.clearTimeout(rest.current);
            rest.current = window.setTimeout(() => commit(next), NUDGE_REST_MS);
          }
        }}
      />
    </label>
  );
}
