import { useEffect, useState } from "react";

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
  const [draft, setDraft] = useState(shown);
  useEffect(() => setDraft(shown), [shown]);
  const read = (text: string) => Number.parseFloat(text.replace(",", ".").replace("−", "-"));
  const commit = (text: string) => {
    const typed = read(text);
    if (Number.isNaN(typed) || typed === Number(value.toFixed(places))) setDraft(shown);
    else onCommit(typed);
  };
  return (
    <label className="inline-flex flex-col">
      <span className="heading">{label}</span>
      <input
        type="text"
        inputMode="decimal"
        value={draft}
        className="measure w-18 border-b-2 border-firm bg-transparent py-0.5 focus:border-chosen"
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => commit(draft)}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit(draft);
          if (event.key === "Escape") setDraft(shown);
          if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
          event.preventDefault();
          const by = (event.key === "ArrowUp" ? 1 : -1) * step * (event.shiftKey ? 10 : 1);
          const next = Number(((Number.isNaN(read(draft)) ? value : read(draft)) + by).toFixed(places));
          onCommit(next);
        }}
      />
    </label>
  );
}
