import { useEffect } from "react";
import { usePen } from "@/state/usePen";

/** Enter ends a line that the pen draws, Backspace takes its last point back, Esc all of them; `aiming` has Enter itself. */
export function usePenKeys(aiming: boolean): void {
  const pen = usePen();
  useEffect(() => {
    if (!pen || pen.tool.knots.length === 0) return;
    const onKey = (event: KeyboardEvent) => {
      // In a field, on a button or a fold these keys have their own meaning.
      const free = event.target === document.body || event.target instanceof HTMLCanvasElement;
      if (event.key === "Enter" && free && !aiming) pen.finish(false);
      else if (event.key === "Backspace" && free) pen.takeBack();
      else if (event.key === "Escape") pen.clear();
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  });
}
