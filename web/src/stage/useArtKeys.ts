import { useEffect } from "react";
import { useArtActs } from "@/state/artActs";
import { isTyping } from "@/state/typing";

/** Delete, Ctrl D and Ctrl A for art, wherever the focus is, unless something is typed. */
export function useArtKeys(on: boolean, chosen: readonly string[]): void {
  const acts = useArtActs();
  useEffect(() => {
    if (!on) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event)) return;
      const key = event.key.toLowerCase();
      const command = event.ctrlKey || event.metaKey;
      if ((key === "delete" || key === "backspace") && chosen.length > 0) void acts.remove(chosen);
      else if (command && key === "d" && chosen.length > 0) void acts.copy(chosen);
      else if (command && key === "a") acts.all();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
