import { useState } from "react";
import type { components } from "@/api/schema";

type Reading = components["schemas"]["ReadingView"];

const LINES = 3;
const FEW = 3;

/** What a file may read as where nothing tells its encoding: the maker sees which is right. */
export function Readings({
  readings,
  text,
  onChoose,
}: {
  readings: readonly Reading[];
  text: string;
  onChoose(text: string): void;
}) {
  const [all, setAll] = useState(false);
  return (
    <fieldset className="rounded-lg border border-line px-3 pt-1 pb-2">
      <legend className="px-1 font-semibold">Which of these reads right?</legend>
      <p className="mb-1 text-sm text-soft">The file does not tell how its letters are written.</p>
      {readings.slice(0, all ? undefined : FEW).map((reading) => (
        <label key={reading.name} className="flex items-baseline gap-2 py-1">
          <input
            type="radio"
            name="reading"
            className="accent-chosen"
            checked={reading.text === text}
            onChange={() => onChoose(reading.text)}
          />
          <span className="min-w-0">
            <span className="block truncate">{telling(reading.text).join(" · ")}</span>
            <span className="block text-sm text-soft">{reading.name}</span>
          </span>
        </label>
      ))}
      {readings.length > FEW && (
        <button type="button" className="quiet text-sm" onClick={() => setAll(!all)}>
          {all ? "Show fewer" : "Show others"}
        </button>
      )}
    </fieldset>
  );
}

/** The first lines that differ from one encoding to another: those with other letters than A to Z. */
export function telling(text: string): string[] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim());
  const other = lines.filter((line) => [...line].some((letter) => letter.charCodeAt(0) > 126));
  return (other.length > 0 ? other : lines).slice(0, LINES);
}
