import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { create } from "zustand";
import { api, type Built, type Design, type Edit, expectData } from "@/api/client";
import { designKey, useOpenDesign } from "@/state/design";

interface TriesState {
  /** What the design would be built to with the control as it is held now; null when nothing is held. */
  built: Built | null;
  /** Counts what was let go, so that late answers are told from wanted ones. */
  round: number;
  show(built: Built, round: number): void;
  clear(): void;
}

export const useTries = create<TriesState>()((set) => ({
  built: null,
  round: 0,
  show: (built, round) => set((now) => (now.round === round ? { built } : now)),
  clear: () => set((now) => ({ built: null, round: now.round + 1 })),
}));

/**
 * Shows what an edit would lead to while its control is handled. One request runs at a time; of those asked for
 * meanwhile only the newest is made. Nothing is kept until the edit itself is made.
 */
export function useTry(): (edit: Edit) => void {
  const { id } = useOpenDesign();
  const client = useQueryClient();
  const running = useRef(false);
  const waiting = useRef<{ edit: Edit; round: number } | null>(null);

  const run = async (edit: Edit, round: number): Promise<void> => {
    running.current = true;
    try {
      const base = client.getQueryData<Design>(designKey(id))?.revision ?? 0;
      const built = await expectData(
        api.POST("/api/designs/{design}/tries", { params: { path: { design: id } }, body: { base, edit } }),
      );
      useTries.getState().show(built, round);
    } catch {
      // What cannot be built is told when the edit itself is made.
    }
    running.current = false;
    const next = waiting.current;
    waiting.current = null;
    if (next && next.round === useTries.getState().round) void run(next.edit, next.round);
  };

  return (edit) => {
    const { round } = useTries.getState();
    if (running.current) waiting.current = { edit, round };
    else void run(edit, round);
  };
}
