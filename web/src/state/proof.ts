import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { api, type Edit, expectData, type Finding, type FoundPlace } from "@/api/client";
import type { components } from "@/api/schema";
import { useOpenDesign } from "@/state/design";
import type { JobAnswer, JobEdit, Plan } from "@/state/job";
import { jobKey, ownJobKey } from "@/state/keys";

type Schemas = components["schemas"];
export type Proof = Schemas["ProofView"];
export type ProvedFilm = Proof["films"][number];
export type Slipped = Schemas["SlippedView"];
export type Widths = Schemas["WidthsView"];
export type Worse = Schemas["WorseView"];
export type When = Finding["when"];
/** What is told of a design or of its sheets. */
export type AnyFinding = Finding | Plan["findings"][number];

/** What will or may fail once an edit is made, and does not now; null while it is worked out. */
export function useWorse(edit: Edit | null): readonly Worse[] | null {
  const { id, revision } = useOpenDesign();
  const { data } = useQuery({
    queryKey: ["worse", id, revision, edit],
    queryFn: ({ signal }) => {
      if (!edit) throw new Error("nothing is proposed");
      const body = { base: revision, edit };
      return expectData(api.POST("/api/designs/{design}/worse", { params: { path: { design: id } }, body, signal }));
    },
    enabled: edit !== null,
    retry: false,
  });
  return data ?? null;
}

/** How long a design has to rest before it is proved: an edit is never kept waiting by it. */
const REST_MS = 350;

/** What the design is proved at: its revision, and that of its own sheets as far as they are known here. */
function useProvedKey(): readonly unknown[] {
  const { id, revision } = useOpenDesign();
  const own = useQuery<string>({ queryKey: ownJobKey(id), enabled: false });
  const job = useQuery<JobAnswer>({ queryKey: jobKey(own.data ?? ""), enabled: false });
  return [id, revision, job.data?.revision ?? 0];
}

/** A value that follows another once that has rested. */
function useRested<T>(value: T, key: string): T {
  const [rested, settle] = useState(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key says whether it is another
  useEffect(() => {
    const later = window.setTimeout(() => settle(value), REST_MS);
    return () => window.clearTimeout(later);
  }, [key]);
  return rested;
}

/** The proof of the open design on its film; while it is worked out anew, the last one stays. */
export function useProof() {
  const { id } = useOpenDesign();
  const now = useProvedKey();
  const key = useRested(now, now.join());
  const params = { path: { design: id } };
  // What is told of each film by itself is there sooner, and is shown until all of it is.
  const films = useQuery({
    queryKey: ["proof-of-films", ...key],
    queryFn: ({ signal }) => expectData(api.GET("/api/designs/{design}/proof/films", { params, signal })),
    enabled: key[0] === id,
    placeholderData: (before, last) => (last?.queryKey[1] === id ? before : undefined),
    retry: false,
  });
  const query = useQuery({
    queryKey: ["proof", ...key],
    queryFn: ({ signal }) => expectData(api.GET("/api/designs/{design}/proof", { params, signal })),
    enabled: key[0] === id && !films.isPending && !films.isPlaceholderData,
    placeholderData: (before, last) => (last?.queryKey[1] === id ? before : undefined),
    retry: false,
  });
  const findings = useMemo(
    () => (query.isSuccess && !query.isPlaceholderData ? query.data.findings : soFar(films.data, query.data)),
    [query.isSuccess, query.isPlaceholderData, query.data, films.data],
  );
  return { ...query, findings, settled: !films.isFetching && !query.isFetching && key.join() === now.join() };
}

/** What is told while the films are proved anew: of each by itself as soon as that is known, of how they lie as it was. */
export function soFar(ofFilms: readonly Finding[] | undefined, before: Proof | undefined): readonly Finding[] {
  if (!before) return ofFilms ?? [];
  return ofFilms ? [...ofFilms, ...before.findings.slice(before.of_films)] : before.findings;
}

/** The narrow stretches of all films, as far as they are looked at. */
export function useWidths(wanted: boolean): readonly Widths[] {
  const { id } = useOpenDesign();
  const key = useProvedKey();
  const query = useQuery({
    queryKey: ["widths", ...key],
    queryFn: ({ signal }) =>
      expectData(api.GET("/api/designs/{design}/widths", { params: { path: { design: id } }, signal })),
    enabled: wanted,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return wanted ? (query.data ?? NONE) : NONE;
}

const NONE: readonly Widths[] = [];

/** A film that is laid off its place, by so many mm. */
export interface Slip {
  readonly film: string;
  readonly x: number;
  readonly y: number;
}

/** What a slip bares; what was last answered stays until the next answer. */
export function useSlipped(slip: Slip | null): Slipped | null {
  const { id } = useOpenDesign();
  const key = useProvedKey();
  const query = useQuery({
    queryKey: ["slip", ...key, slip?.film, slip?.x, slip?.y],
    queryFn: ({ signal }) => {
      const { film, x, y } = slip as Slip;
      const params = { path: { design: id }, query: { film, x_mm: x, y_mm: y } };
      return expectData(api.GET("/api/designs/{design}/slip", { params, signal }));
    },
    enabled: slip !== null && (slip.x !== 0 || slip.y !== 0),
    placeholderData: (before, last) => (last?.queryKey[4] === slip?.film ? before : undefined),
    retry: false,
  });
  return slip && (slip.x !== 0 || slip.y !== 0) ? (query.data ?? null) : null;
}

/** Whether two places are one: what is proved anew tells of the same place once more. */
export function isSamePlace(a: FoundPlace | null, b: FoundPlace | null): boolean {
  if (a === b || !a || !b) return a === b;
  return (
    a.at?.x_mm === b.at?.x_mm && a.at?.y_mm === b.at?.y_mm && a.outline === b.outline && a.box?.left === b.box?.left
  );
}

/** When it happens, in the order of the work. */
export const WHENS: Readonly<Record<When, string>> = {
  source: "In what was brought in",
  blade: "At the blade",
  weeding: "In weeding",
  laying: "When the films are laid",
  sheets: "On the sheets",
};

/** Findings of one kind about one film, the worst first. */
export interface Alike {
  readonly key: string;
  readonly findings: readonly AnyFinding[];
}

const GRAVITY = { stop: 0, mind: 1, note: 2 } as const;

/** What is told, by when it happens, and in each the alike together, the gravest first. */
export function byWhen(findings: readonly AnyFinding[]): { when: When; alike: Alike[] }[] {
  return (Object.keys(WHENS) as When[]).flatMap((when) => {
    const groups = new Map<string, AnyFinding[]>();
    for (const found of findings) {
      if (found.when !== when) continue;
      const key = `${found.code} ${found.about ?? ""}`;
      groups.set(key, [...(groups.get(key) ?? []), found]);
    }
    if (groups.size === 0) return [];
    const alike = [...groups].map(([key, own]) => ({
      key,
      findings: own.sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity]),
    }));
    return [{ when, alike: alike.sort((a, b) => worst(a) - worst(b)) }];
  });
}

function worst({ findings }: Alike): number {
  return findings[0] ? GRAVITY[findings[0].severity] : 3;
}

/** How many kinds of trouble of each gravity there are: what is alike in one film counts once, as its gravest does. */
export function countsOf(findings: readonly AnyFinding[]): Record<keyof typeof GRAVITY, number> {
  const counts = { stop: 0, mind: 0, note: 0 };
  for (const { alike } of byWhen(findings)) {
    for (const one of alike) if (one.findings[0]) counts[one.findings[0].severity] += 1;
  }
  return counts;
}

/** All that is told of the open design and of the films it is cut from. */
export function useTold(): readonly AnyFinding[] {
  const { findings } = useOpenDesign().built;
  const proved = useProof().findings;
  return useMemo(() => [...findings, ...proved], [findings, proved]);
}

/** What is told of the plan of the design's own sheets, as far as that is known here; nothing is asked for. */
export function useKnownOfSheets(): Plan["findings"] {
  const [id, revision] = useProvedKey();
  const own = useQuery<string>({ queryKey: ownJobKey(String(id)), enabled: false });
  const job = useQuery<JobAnswer>({ queryKey: jobKey(own.data ?? ""), enabled: false });
  const queryKey = ["plan", job.data?.id, job.data?.revision, revision];
  return useQuery<Plan>({ queryKey, enabled: false }).data?.findings ?? NOTHING;
}

const NOTHING: Plan["findings"] = [];

/** How many designs a job may have for its fixes to be tried first. */
const MOST_TRIED = 20;

/** Which fixes of what is told of a job's sheets mend it; null as long as that is not known. */
export function useHelpingOnSheets(job: JobAnswer | undefined, found: AnyFinding, wanted: boolean) {
  const { revision: design } = useOpenDesign();
  const asks = wanted && found.fixes.length > 0 && job !== undefined && job.job.designs.length <= MOST_TRIED;
  const { code, about, place, measure } = found;
  const query = useQuery({
    queryKey: ["helping-on-sheets", job?.id, job?.revision, design, code, about, found.text],
    queryFn: ({ signal }) => {
      if (!job) throw new Error("there is no job");
      const edits = found.fixes.map((fix) => fix.edit as JobEdit);
      const body = { base: job.revision, code, about, at: place?.at ?? null, figure: measure?.figure ?? null, edits };
      return expectData(api.POST("/api/jobs/{job}/helping", { params: { path: { job: job.id } }, body, signal }));
    },
    enabled: asks,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const all = found.fixes.map(() => true);
  return asks ? (query.data ?? (query.isError ? all : null)) : all;
}

/** Which of a finding's fixes mend it and make nothing worse, once they were tried; null as long as that is not known. */
export function useHelping(found: AnyFinding, wanted: boolean): readonly boolean[] | null {
  const { id, revision } = useOpenDesign();
  const key = useProvedKey();
  const { code, about, place, measure } = found;
  const asks = wanted && found.fixes.length > 0;
  const query = useQuery({
    queryKey: ["helping", ...key, code, about, found.text, place?.at?.x_mm, place?.at?.y_mm],
    queryFn: ({ signal }) => {
      const edits = found.fixes.map((fix) => fix.edit as Edit);
      const at = place?.at ?? null;
      const body = { base: revision, code, about, at, figure: measure?.figure ?? null, edits };
      return expectData(api.POST("/api/designs/{design}/helping", { params: { path: { design: id } }, body, signal }));
    },
    enabled: asks,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return asks ? (query.data ?? (query.isError ? found.fixes.map(() => false) : null)) : found.fixes.map(() => true);
}
