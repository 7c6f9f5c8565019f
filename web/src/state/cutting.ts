import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, expectData } from "@/api/client";
import type { components } from "@/api/schema";
import { tell } from "@/state/design";
import type { JobAnswer } from "@/state/job";

type Schemas = components["schemas"];
export type Cutting = Schemas["CutView"];
export type CutSheet = Cutting["sheets"][number];
export type CutStep = Schemas["CutStep"];
export type Way = NonNullable<CutStep["way"]>;

const BUSY_MS = 200;

const key = (job: string) => ["cutting", job] as const;

/** How far a job at the cutter is; null while it is not there. */
export function useCutting(job: string) {
  return useQuery({
    queryKey: key(job),
    queryFn: () => expectData(api.GET("/api/jobs/{job}/cutting", { params: { path: { job } } })),
    refetchInterval: (query) =>
      query.state.data?.sheets.some((sheet) => sheet.stage === "cutting" || sheet.stage === "paused") ? BUSY_MS : false,
    retry: false,
  });
}

/** The sheet that is at hand: the first that is not cut yet. */
export function atHand(cutting: Cutting | null | undefined): CutSheet | undefined {
  return cutting?.sheets.find((sheet) => sheet.stage !== "done");
}

/** Steps at the cutter; beginning is one of them. */
export function useCutStep(job: JobAnswer | undefined) {
  const client = useQueryClient();
  const id = job?.id ?? "";
  return useMutation({
    mutationFn: (step: CutStep | "begin") => {
      const params = { path: { job: id } };
      return step === "begin"
        ? expectData(api.POST("/api/jobs/{job}/cutting", { params, body: { base: job?.revision ?? 0 } }))
        : expectData(api.POST("/api/jobs/{job}/cutting/steps", { params, body: step }));
    },
    onSuccess: (view) => client.setQueryData(key(id), view),
    onError: (fault) => {
      tell(fault);
      void client.invalidateQueries({ queryKey: key(id) });
    },
    onSettled: (view, _, step) => {
      // What was cut is off the shelf, and a job at the cutter stays as it is.
      const moved = step === "begin" || step.do === "finish" || step.do === "end" || step.do === "mend";
      if (!moved) return;
      for (const stale of [["job", id], ["shelf"], ["jobs"]]) void client.invalidateQueries({ queryKey: stale });
      if (!view) void client.invalidateQueries({ queryKey: ["plan"] });
    },
  });
}

/** A step without the choices it does not need. */
export function step(what: CutStep["do"], more: Partial<CutStep> = {}): CutStep {
  return { do: what, number: 0, rate: 1, fault: "cover", after_mm: 0, ...more };
}

/** The job sheet's pages, drawn. */
export function useJobSheet(job: JobAnswer | undefined, paper: "A4" | "Letter", design: number | null) {
  return useQuery({
    queryKey: ["job-sheet", job?.id, job?.revision, paper, design],
    queryFn: () =>
      expectData(api.GET("/api/jobs/{job}/job-sheet", { params: { path: { job: job?.id ?? "" }, query: { paper } } })),
    enabled: Boolean(job),
    placeholderData: (before) => before,
    retry: false,
  });
}
