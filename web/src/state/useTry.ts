import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { type Answer, api, expectBuilt } from "@/api/client";
import { type MadeEdit, useOpenDesign } from "@/state/design";
import { designKey } from "@/state/keys";
import { useTries } from "@/state/tries";

/**
 * Shows what an edit would lead to while its control is handled. One request runs at a time; of those asked for
 * meanwhile only the newest is made. Nothing is kept until the edit itself is made; a control that goes away takes what
 * it tried along.
 */
export function useTry(): (edit: MadeEdit) => void {
  const { id } = useOpenDesign();
  const client = useQueryClient();
  const running = useRef(false);
  const waiting = useRef<{ edit: MadeEdit; round: number } | null>(null);
  const asked = useRef(false);
  useEffect(
    () => () => {
      if (asked.current) useTries.getState().clear();
    },
    [],
  );

  const run = async (made: MadeEdit, round: number): Promise<void> => {
    running.current = true;
    try {
      const now = client.getQueryData<Answer>(designKey(id));
      const edit = typeof made === "function" ? now && made(now) : made;
      if (now && edit) {
        const params = { path: { design: id } };
        const leave = new AbortController();
        useTries.getState().begin(() => leave.abort());
        const body = { base: now.revision, edit };
        const built = await expectBuilt(
          api.POST("/api/designs/{design}/tries", { params, body, signal: leave.signal }),
        );
        useTries.getState().show(id, built, round);
      }
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
    asked.current = true;
    if (running.current) waiting.current = { edit, round };
    else void run(edit, round);
  };
}
