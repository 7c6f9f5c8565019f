import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { toast } from "sonner";
import { api, expectData } from "@/api/client";
import type { components } from "@/api/schema";
import { tell, useOpenDesign } from "@/state/design";

export type Nodes = components["schemas"]["NodesView"];

function nodesOf(design: string, art: string, revision: number, at_most?: number): Promise<Nodes> {
  return expectData(
    api.GET("/api/designs/{design}/arts/{art}/nodes", {
      params: { path: { design, art }, query: { revision, at_most } },
    }),
  );
}

/** How an art's nodes become fewer as its edges may move. */
export function useNodes(art: string, wanted: boolean) {
  const { id, revision } = useOpenDesign();
  return useQuery({
    queryKey: ["nodes", id, art, revision],
    queryFn: () => nodesOf(id, art, revision),
    enabled: wanted,
    placeholderData: keepPreviousData,
    retry: false,
  }).data;
}

/** Asks how far edges must move for an art to have no more than so many nodes; says so where that cannot be. */
export function useDeviationFor(art: string): (nodes: number) => Promise<number | null> {
  const { id, revision } = useOpenDesign();
  return async (nodes) => {
    try {
      const { wanted } = await nodesOf(id, art, revision, nodes);
      if (wanted) return wanted.mm;
      toast(`It cannot come to ${nodes} nodes without losing its form.`);
    } catch (fault) {
      tell(fault);
    }
    return null;
  };
}
