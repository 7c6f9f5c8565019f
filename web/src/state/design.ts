import { useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { toast } from "sonner";
import { api, type Design, type Edit, expectData, ProblemError } from "@/api/client";
import type { Unit } from "@/lengths";
import { useTries } from "@/state/tries";

export const designKey = (id: string) => ["design", id] as const;

export function useDesigns() {
  return useQuery({ queryKey: ["designs"], queryFn: () => expectData(api.GET("/api/designs")) });
}

export function useDesign(id: string) {
  return useQuery({
    queryKey: designKey(id),
    queryFn: () => expectData(api.GET("/api/designs/{design}", { params: { path: { design: id } } })),
    retry: false,
  });
}

export const DesignContext = createContext<Design | null>(null);

/** The design that is open. */
export function useOpenDesign(): Design {
  const design = useContext(DesignContext);
  if (!design) throw new Error("no design is open");
  return design;
}

export function useUnit(): Unit {
  return useOpenDesign().recipe.unit;
}

export type Change = { do: "edit"; edit: Edit } | { do: "undo" } | { do: "redo" } | { do: "go-to"; revision: number };

/**
 * Changes the open design. Changes wait for each other, and each is made on the newest revision that this window has
 * seen; if another window was faster, the design is brought up to date and the change is not made.
 */
export function useChange(): (change: Change) => Promise<Design | null> {
  const { id } = useOpenDesign();
  const client = useQueryClient();
  const mutation = useMutation({
    mutationKey: ["change"],
    scope: { id: `change-${id}` },
    mutationFn: (change: Change) => send(id, client.getQueryData<Design>(designKey(id))?.revision ?? 0, change),
    onSuccess: (design) => {
      useTries.getState().clear();
      client.setQueryData(designKey(id), design);
      void client.invalidateQueries({ queryKey: ["designs"] });
    },
    onError: (fault) => {
      useTries.getState().clear();
      tell(fault);
      if (fault instanceof ProblemError && fault.code === "stale-revision") {
        void client.invalidateQueries({ queryKey: designKey(id) });
      }
    },
  });
  return (change) => mutation.mutateAsync(change).catch(() => null);
}

export function useEdit(): (edit: Edit) => Promise<Design | null> {
  const change = useChange();
  return (edit) => change({ do: "edit", edit });
}

export function useIsWorking(): boolean {
  return useIsMutating() > 0;
}

/** Says on the screen what went wrong and what helps. */
export function tell(fault: unknown): void {
  if (fault instanceof ProblemError) toast.error(fault.detail, { description: fault.remedy || undefined });
  else toast.error(String(fault));
}

function send(design: string, base: number, change: Change): Promise<Design> {
  const params = { path: { design } };
  switch (change.do) {
    case "edit":
      return expectData(api.POST("/api/designs/{design}/edits", { params, body: { base, edit: change.edit } }));
    case "undo":
      return expectData(api.POST("/api/designs/{design}/undo", { params, body: { base } }));
    case "redo":
      return expectData(api.POST("/api/designs/{design}/redo", { params, body: { base } }));
    case "go-to":
      return expectData(api.POST("/api/designs/{design}/go-to", { params, body: { base, revision: change.revision } }));
  }
}
