import { useEffect } from "react";
import type { Unit } from "@/geometry/lengths";
import { Mark } from "@/parts/Mark";
import { goTo } from "@/state/route";

/** The way back to the first page. */
export function Home() {
  return (
    <>
      <button type="button" className="flex items-center gap-2 font-semibold" onClick={() => goTo("/")}>
        <Mark className="h-6 w-6" />
        <span className="max-[520px]:sr-only">Designs</span>
      </button>
      <span aria-hidden className="h-5 border-l border-line max-[520px]:hidden" />
    </>
  );
}

/** Millimetres or inches. */
export function UnitSwitch({ unit, onUnit }: { unit: Unit; onUnit(unit: Unit): unknown }) {
  return (
    <fieldset className="flex items-center text-sm" aria-label="Unit of lengths">
      {(["mm", "in"] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={unit === one}
          className="px-2 py-1 text-soft aria-pressed:font-semibold aria-pressed:text-chosen aria-pressed:underline aria-pressed:decoration-2 aria-pressed:underline-offset-4"
          onClick={() => onUnit(one)}
        >
          {one}
        </button>
      ))}
    </fieldset>
  );
}

/** Undo and redo by keyboard, unless text is being typed. */
export function useUndoKeys(step: (which: "undo" | "redo") => unknown): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        (event.target instanceof HTMLInputElement && event.target.type === "text") ||
        event.target instanceof HTMLTextAreaElement;
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      step(event.shiftKey ? "redo" : "undo");
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [step]);
}
