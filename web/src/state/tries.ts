import { create } from "zustand";
import type { Built } from "@/api/held";

interface TriesState {
  /** What a design would be built to with the control as it is held now; null when nothing is held. */
  tried: { readonly design: string; readonly built: Built } | null;
  /** Counts what was let go, so that late answers are told from wanted ones. */
  round: number;
  /** Ends the request of a try that is under way. */
  stop: () => void;
  show(design: string, built: Built, round: number): void;
  begin(stop: () => void): void;
  clear(): void;
}

export const useTries = create<TriesState>()((set) => ({
  tried: null,
  round: 0,
  stop: () => undefined,
  begin: (stop) => set({ stop }),
  show: (design, built, round) => set((now) => (now.round === round ? { tried: { design, built } } : now)),
  clear: () =>
    set((now) => {
      now.stop();
      return { tried: null, round: now.round + 1, stop: () => undefined };
    }),
}));
