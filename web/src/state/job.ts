import { keepPreviousData, useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import { api, expectData, ProblemError } from "@/api/client";
import type { components } from "@/api/schema";
import { askedFor, keepAnswer } from "@/state/answers";
import { tell } from "@/state/design";
import { designKey, jobKey, ownJobKey } from "@/state/keys";

type Schemas = components["schemas"];
export type JobAnswer = Schemas["JobView"];
export type Job = JobAnswer["job"];
export type JobEdit = Schemas["JobEditMade"]["edit"];
export type Plan = Schemas["PlanView"];
export type Sheet = Plan["sheets"][number];
export type SheetPart = Sheet["parts"][number];
export type PlannedFilm = Plan["films"][number];
export type Shelf = Schemas["ShelfView"];
export type Material = Schemas["Material-Output"];
export type Stock = Schemas["Piece"];
export type JobLine = Schemas["JobLineView"];
export type Format = Schemas["Format"];
export type PutWanted = Omit<Schemas["PutWanted"], "base">;

/** What a part is called: the design, film and number of it, on every sheet and in the decal. */
export interface PartName {
  design: string;
  film: string;
  part: number;
}

interface BenchState {
  /** The part that is pointed at, on a strip or in the decal. */
  pointed: PartName | null;
  /** Parts chosen on the strips, of one film. */
  chosen: PartName[];
  /** How much larger than fitting the strips are drawn. */
  zoom: number;
  grid: boolean;
  point(part: PartName | null): void;
  /** Chooses a part, or lets go of it; parts of another film are let go of. */
  choose(part: PartName): void;
  letGo(): void;
  scale(zoom: number): void;
  showGrid(grid: boolean): void;
}

/** What is looked at on the bench. */
export const useBench = create<BenchState>()(
  persist(
    (set) => ({
      pointed: null,
      chosen: [],
      zoom: 1,
      grid: false,
      point: (pointed) => set({ pointed }),
      choose: ({ design, film, part }) =>
        set(({ chosen }) => {
          const own = chosen.filter((one) => one.design === design && one.film === film);
          const rest = own.filter((one) => one.part !== part);
          return { chosen: rest.length < own.length ? rest : [...own, { design, film, part }] };
        }),
      letGo: () => set({ chosen: [] }),
      scale: (zoom) => set({ zoom: Math.min(6, Math.max(0.5, zoom)) }),
      showGrid: (grid) => set({ grid }),
    }),
    { name: "gladstack-bench", partialize: ({ grid }) => ({ grid }) },
  ),
);

export function useShelf(search = "") {
  return useQuery({
    queryKey: ["shelf", search],
    queryFn: () => expectData(api.GET("/api/shelf", { params: { query: { search } } })),
    placeholderData: (before) => before,
  });
}

/** The formats that sheets can be written in: the server knows which. */
export function useFormats() {
  return useQuery({
    queryKey: ["formats"],
    queryFn: () => expectData(api.GET("/api/formats")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useJobs(search: string, most: number) {
  return useQuery({
    queryKey: ["jobs", search, most],
    queryFn: () => expectData(api.GET("/api/jobs", { params: { query: { search, most } } })),
    placeholderData: keepPreviousData,
  });
}

/** A job as it stands; none as long as no id is known. */
export function useJob(id: string | undefined) {
  const client = useQueryClient();
  return useQuery({
    queryKey: jobKey(id ?? ""),
    queryFn: () =>
      askedFor(client, jobKey(id ?? ""), () =>
        expectData(api.GET("/api/jobs/{job}", { params: { path: { job: id ?? "" } } })),
      ),
    enabled: id !== undefined,
    retry: false,
  });
}

/** The job of a design's own sheets, begun when it is first asked for. */
export function useOwnJob(design: string) {
  const client = useQueryClient();
  const own = useQuery({
    queryKey: ownJobKey(design),
    queryFn: async () => {
      const job = await expectData(api.GET("/api/designs/{design}/job", { params: { path: { design } } }));
      client.setQueryData(jobKey(job.id), job);
      return job.id;
    },
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const job = useJob(own.data);
  return own.isError ? { ...job, isError: true, error: own.error } : job;
}

/** What was cut of a job, the last first; looked at anew when it has been cut. */
export function useRecords(job: JobAnswer) {
  return useQuery({
    queryKey: ["records", job.id, job.cut, job.at_cutter],
    queryFn: () => expectData(api.GET("/api/jobs/{job}/records", { params: { path: { job: job.id } } })),
    placeholderData: (before) => before,
  });
}

/** The plan of a job at a revision of it, and of the design whose own job it is. */
export function usePlan(job: JobAnswer | undefined, design: number | null) {
  const client = useQueryClient();
  const queryKey = ["plan", job?.id, job?.revision, design];
  const query = useQuery({
    queryKey,
    // Whoever leaves gives the work up.
    queryFn: ({ signal }) =>
      expectData(api.GET("/api/jobs/{job}/plan", { params: { path: { job: job?.id ?? "" } }, signal })),
    enabled: Boolean(job),
    placeholderData: (before) => (before?.job === job?.id ? before : undefined),
    retry: false,
  });
  return { ...query, stop: () => void client.cancelQueries({ queryKey }) };
}

export type JobChange =
  | { do: "edit"; edit: JobEdit | ((job: JobAnswer) => JobEdit | null) }
  | { do: "undo" | "redo" | "cut" | "uncut" }
  | { do: "again"; rest?: boolean; record?: number }
  | { do: "closer"; seconds: number; signal?: AbortSignal }
  | { do: "put"; put: PutWanted; refused(why: string, fits: { x_mm: number; y_mm: number } | null): void };

/**
 * Changes a job; changes wait for each other, and each is made on the newest revision this window has seen. A design's own
 * sheets wait for changes of the design as well: both are undone in one line of time.
 */
export function useJobChange(id: string): (change: JobChange) => Promise<JobAnswer | null> {
  const client = useQueryClient();
  const design = client.getQueryData<JobAnswer>(jobKey(id))?.own_of;
  const mutation = useMutation({
    mutationKey: ["job-change", id],
    scope: { id: design ? `change-${design}` : `job-${id}` },
    mutationFn: async (change: JobChange) => {
      const now = client.getQueryData<JobAnswer>(jobKey(id));
      return now ? send(now, change) : null;
    },
    onSuccess: (answer, change) => {
      if (!answer) return;
      keepAnswer(client, jobKey(id), answer);
      const { undoes, redoes } = answer;
      if (answer.own_of)
        client.setQueryData(designKey(answer.own_of), (now?: object) => now && { ...now, undoes, redoes });
      if (change.do === "cut" || change.do === "uncut" || change.do === "again") {
        void client.invalidateQueries({ queryKey: ["records", id] });
        void client.invalidateQueries({ queryKey: ["cutting", id] });
        void client.invalidateQueries({ queryKey: ["shelf"] });
        void client.invalidateQueries({ queryKey: ["plan"] });
      }
      void client.invalidateQueries({ queryKey: ["jobs"] });
    },
    onError: (fault) => {
      if (fault instanceof DOMException) return;
      tell(fault);
      if (fault instanceof ProblemError && fault.code === "stale-revision")
        void client.invalidateQueries({ queryKey: jobKey(id) });
    },
  });
  return (change) => mutation.mutateAsync(change).catch(() => null);
}

export function useJobWorking(id: string): boolean {
  return useIsMutating({ mutationKey: ["job-change", id] }) > 0;
}

async function send(now: JobAnswer, change: JobChange): Promise<JobAnswer | null> {
  const params = { path: { job: now.id } };
  const base = now.revision;
  switch (change.do) {
    case "edit": {
      const edit = typeof change.edit === "function" ? change.edit(now) : change.edit;
      return edit ? expectData(api.POST("/api/jobs/{job}/edits", { params, body: { base, edit } })) : null;
    }
    case "undo":
      return expectData(api.POST("/api/jobs/{job}/undo", { params, body: { base } }));
    case "redo":
      return expectData(api.POST("/api/jobs/{job}/redo", { params, body: { base } }));
    case "cut":
      return expectData(api.POST("/api/jobs/{job}/cut", { params, body: { base } }));
    case "uncut":
      return expectData(api.POST("/api/jobs/{job}/uncut", { params, body: { base } }));
    case "again": {
      const body = { base, rest: change.rest ?? false, record: change.record ?? null };
      return expectData(api.POST("/api/jobs/{job}/again", { params, body }));
    }
    case "closer": {
      const body = { base, seconds: change.seconds };
      return (await expectData(api.POST("/api/jobs/{job}/closer", { params, body, signal: change.signal }))).job;
    }
    case "put": {
      const answer = await expectData(api.POST("/api/jobs/{job}/parts", { params, body: { base, ...change.put } }));
      if (!answer.job) change.refused(answer.why, answer.fits);
      return answer.job;
    }
  }
}
