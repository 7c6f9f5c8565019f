import { useEffect, useRef } from "react";
import { Input } from "@/entry/Entry";
import { Refused } from "@/parts/Refused";
import { useDraft } from "@/parts/useDraft";

const NUDGE_REST_MS = 250;

interface NumberFieldProps {
  label: string;
  value: number;
  onCommit(value: number): unknown;
  suffix?: string;
  step?: number;
  places?: number;
}

/** A plain number with what it counts: typed, or nudged with the arrow keys. */
export function NumberField({ label, value, onCommit, suffix = "", step = 1, places = 2 }: NumberFieldProps) {
  const shown = `${Number(value.toFixed(places))}${suffix}`;
  const { draft, isSent, refused, field, why, type, commit, reset } = useDraft(shown);
  const rest = useRef<number | undefined>(undefined);
  const leaving = useRef<(() => void) | null>(null);
  useEffect(() => () => leaving.current?.(), []);
  const read = (text: string) => Number.parseFloat(text.replace(",", ".").replace("−", "-"));
  const settle = (text: string) => {
    window.clearTimeout(rest.current);
    leaving.current = null;
    const typed = read(text);
    if (Number.isNaN(typed) || typed === Number(value.toFixed(places))) reset();
    else if (!isSent(text)) commit(text, () => onCommit(typed));
  };
  return (
    <span className="inline-flex flex-col">
      <label className="inline-flex flex-col">
        <span className="heading">{label}</span>
        <Input
          type="text"
          inputMode="decimal"
          {...field}
          value={draft}
          className="measure w-18 border-b-2 bg-transparent py-0.5 aria-invalid:border-fail focus:border-chosen"
          onChange={(event) => type(event.target.value)}
          onBlur={() => settle(draft)}
          onKeyDown={(event) => {
            if (event.key === "Enter") settle(draft);
            if (event.key === "Escape") reset();
            if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
            event.preventDefault();
            const by = (event.key === "ArrowUp" ? 1 : -1) * step * (event.shiftKey ? 10 : 1);
            const next = Number(((Number.isNaN(read(draft)) ? value : read(draft)) + by).toFixed(places));
            const text = `${next}${suffix}`;
            type(text);
            window.clearTimeout(rest.current);
            leaving.current = () => settle(text);
            rest.current = window.setTimeout(() => settle(text), NUDGE_REST_MS);
          }}
        />
      </label>
      <Refused id={why} why={refused} />
    </span>
  );
}
