import { useEffect } from "react";
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
