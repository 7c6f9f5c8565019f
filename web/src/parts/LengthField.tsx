import { useEffect, useRef, useState } from "react";
import { editLength, nudge, restLength, withUnit } from "@/geometry/lengths";
import { Refused } from "@/parts/Refused";
import { useDraft } from "@/parts/useDraft";
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
  const { draft, isSent, refused, field, why, type, commit, reset } = useDraft(shown);
  // All its digits are there to be edited; at rest they would be noise.
  const [entered, setEntered] = useState(false);
  const resting = !entered && none === undefined && draft === shown;
  const rest = useRef<number | undefined>(undefined);
  const leaving = useRef<(() => void) | null>(null);
  // A length that was nudged just before its place is left is kept.
  useEffect(() => () => leaving.current?.(), []);

  const settle = (text: string) => {
    window.clearTimeout(rest.current);
    leaving.current = null;
    if (text.trim() === shown || !text.trim()) reset();
    else if (!isSent(text)) commit(text, (typed) => onCommit(withUnit(typed, unit)));
  };
  return (
    <span className="inline-flex flex-col">
      <label className="inline-flex flex-col">
        <span className={hideLabel ? "sr-only" : "heading"}>{label}</span>
        <input
          type="text"
          inputMode="decimal"
          {...field}
          disabled={disabled}
          value={resting ? restLength(mm, unit) : draft}
          title={resting ? shown : undefined}
          className={`measure border-b-2 border-firm bg-transparent aria-invalid:border-fail focus:border-chosen disabled:border-line disabled:text-soft ${large ? "w-32 py-1 text-2xl" : "w-22 py-0.5"}`}
          onChange={(event) => type(event.target.value)}
          onFocus={() => setEntered(true)}
          onBlur={() => {
            setEntered(false);
            settle(draft);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") settle(draft);
            if (event.key === "Escape") reset();
            if (event.key === "ArrowUp" || event.key === "ArrowDown") {
              const next = nudge(draft, unit, (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1), signed);
              if (next === null) return;
              event.preventDefault();
              type(next);
              window.clearTimeout(rest.current);
              leaving.current = () => settle(next);
              rest.current = window.setTimeout(() => settle(next), NUDGE_REST_MS);
            }
          }}
        />
      </label>
      <Refused id={why} why={refused} />
    </span>
  );
}
