import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, expectData } from "@/api/client";
import type { components } from "@/api/schema";
import { useOpenDesign, useStoredDesign } from "@/state/design";
import { useView } from "@/state/view";

export type FilmChange = components["schemas"]["FilmChangeView"];

/** What of the open design is cut otherwise than at the step it is held against; null where it is held against none. */
export function useCompared() {
  const { id } = useOpenDesign();
  const since = useView((view) => view.since);
  const now = useStoredDesign(id)?.revision;
  const query = useQuery({
    queryKey: ["compared", id, since?.revision, now],
    queryFn: ({ signal }) => {
      const params = { path: { design: id, revision: since?.revision ?? 0 }, query: { now: now ?? 0 } };
      return expectData(api.GET("/api/designs/{design}/revisions/{revision}/compared", { params, signal }));
    },
    enabled: since !== null && now !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (since === null) return null;
  return { since, changes: query.data ?? null, failed: query.error?.message ?? null, settled: !query.isFetching };
}
