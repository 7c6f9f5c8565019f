import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { toast } from "sonner";
import { type Answer, api, expectData } from "@/api/client";
import { useServer } from "@/api/server";
import { designKey, jobKey, ownJobKey } from "@/state/keys";

const ASK_MS = 1500;

/** Brings a design up to date that another window has changed, before an edit made on what was seen here is refused. */
export function useNews(id: string): void {
  const client = useQueryClient();
  const away = useServer((server) => server.away);
  const { data, dataUpdatedAt } = useQuery({
    queryKey: ["newest", id],
    queryFn: () => expectData(api.GET("/api/designs/{design}/newest", { params: { path: { design: id } } })),
    refetchInterval: ASK_MS,
    enabled: !away,
    retry: false,
    staleTime: 0,
    gcTime: 0,
  });
  // What cannot be had, as where the version that is open was removed, is not asked for again and again.
  const asked = useRef<number | null>(null);
  useEffect(() => {
    // What this window changes itself is answered by itself.
    if (!data || client.isMutating() > 0) return;
    const seen = client.getQueryState<Answer>(designKey(id));
    const fresh = asked.current !== data.revision;
    if (fresh && seen?.data && seen.dataUpdatedAt < dataUpdatedAt && seen.data.revision !== data.revision) {
      asked.current = data.revision;
      void client.invalidateQueries({ queryKey: designKey(id) });
      toast.info("This design was changed in another window: you see it as it is now.", { id: "news" });
    }
    const own = client.getQueryData<string>(ownJobKey(id));
    const job = own === undefined ? undefined : client.getQueryState<{ revision: number }>(jobKey(own));
    if (own && job?.data && job.dataUpdatedAt < dataUpdatedAt && job.data.revision !== data.sheets)
      void client.invalidateQueries({ queryKey: jobKey(own) });
  }, [client, data, dataUpdatedAt, id]);
}
