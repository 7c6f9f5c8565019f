import { type QueryClient, useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { toast } from "sonner";
import {
  type Answer,
  api,
  type Design,
  type Edit,
  expectBuilt,
  expectData,
  expectDesign,
  ProblemError,
} from "@/api/client";
import type { Unit } from "@/geometry/lengths";
import { askedFor, keepAnswer } from "@/state/answers";
import { designKey, jobKey, ownJobKey } from "@/state/keys";
import { goToDesign } from "@/state/route";
import { useTries } from "@/state/tries";
import { useBenchUnit } from "@/state/units";
import { motifOf } from "@/state/versions";
import { stoppable, wasStopped } from "@/state/work";

export function useDesigns() {
  return useQuery({ queryKey: ["designs"], queryFn: () => expectData(api.GET("/api/designs")) });
}

/** A design as it is stored, with what was last built of it. */
export function useDesign(id: string) {
  const client = useQueryClient();
  return useQuery({
    queryKey: designKey(id),
    queryFn: () =>
      askedFor(client, designKey(id), async () =>
        newest(client, await expectDesign(api.GET("/api/designs/{design}", { params: { path: { design: id } } }))),
      ),
    retry: false,
    // News asks for it when the window is come back to, and says so.
    refetchOnWindowFocus: false,
  });
}

/** A design as it is stored and known here, without what is being tried; nothing is asked for. */
export function useStoredDesign(id: string): Answer | undefined {
  return useQuery<Answer>({ queryKey: designKey(id), enabled: false }).data;
}

/** Every step of the open design and its sheets, the oldest first. */
export function useHistory(wanted: boolean) {
  const { id, revision, undoes, redoes } = useOpenDesign();
  return useQuery({
    queryKey: [...designKey(id), "history", revision, undoes, redoes],
    queryFn: () => expectData(api.GET("/api/designs/{design}/history", { params: { path: { design: id } } })),
    enabled: wanted,
    placeholderData: (before) => before,
  });
}

export const DesignContext = createContext<Design | null>(null);

/** The design that is open, as it is shown: with what is tried while a control is held. */
export function useOpenDesign(): Design {
  const design = useContext(DesignContext);
  if (!design) throw new Error("no design is open");
  return design;
}

/** The unit of the open design; where none is open, the one chosen for the bench. */
export function useUnit(): Unit {
  const design = useContext(DesignContext);
  const own = useBenchUnit((bench) => bench.unit);
  return design?.recipe.unit ?? own;
}

/**
 * A change of the design as it is when the change is sent, which may be later than it was asked for: `edit` is told what
 * the design is then, and gives nothing where there is nothing left to change.
 */
export type MadeEdit = Edit | ((design: Answer) => Edit | null);
export type Change =
  | { do: "edit"; edit: MadeEdit }
  | { do: "undo" }
  | { do: "redo" }
  | { do: "go-to"; whose: "design" | "sheets"; revision: number }
  | { do: "send"; send(base: number, signal: AbortSignal): Promise<Answer> };

/**
 * Changes the open design. Changes wait for each other, and each is made on the newest revision that this window has
 * seen; if another window was faster, the design is brought up to date and the change is not made.
 */
export function useChange(id: string): (change: Change) => Promise<Answer | null> {
  const client = useQueryClient();
  const mutation = useMutation({
    mutationKey: ["change"],
    scope: { id: `change-${id}` },
    mutationFn: async (change: Change) => {
      // What was asked for before the change must not arrive after it.
      await client.cancelQueries({ queryKey: designKey(id) });
      useTries.getState().stop();
      const sheets = sheetsOf(client, id)?.revision ?? null;
      return stoppable((signal) => send(id, client.getQueryData<Answer>(designKey(id)), sheets, change, signal));
    },
    onSuccess: async (answer, change) => {
      useTries.getState().clear();
      if (answer === null) return;
      keep(client, answer);
      // The step may have been one of the sheets: the next change is made on them as they are now.
      if (change.do !== "edit" && change.do !== "send") await askForSheets(client, id);
      forgetOtherVersions(client, answer.id);
      // Where the version is gone, as when its making was undone, there is the motif.
      if (answer.id !== id) goToDesign(answer.id);
      void client.invalidateQueries({ queryKey: ["designs"] });
    },
    onError: (fault) => {
      useTries.getState().clear();
      // What was given up may have been kept just before: the design is looked at again.
      if (wasStopped(fault)) return void client.invalidateQueries({ queryKey: designKey(id) });
      tell(fault);
      if (fault instanceof ProblemError && fault.code === "stale-revision") {
        void client.invalidateQueries({ queryKey: designKey(id) });
        void askForSheets(client, id);
      }
    },
  });
  return (change) => mutation.mutateAsync(change).catch(() => null);
}

export function useEdit(): (edit: MadeEdit) => Promise<Answer | null> {
  const change = useChange(useOpenDesign().id);
  return (edit) => change({ do: "edit", edit });
}

export function useIsWorking(): boolean {
  return useIsMutating() > 0;
}

/** What is about to be said of something that was refused, unless a field says it beside itself. */
let told: { readonly text: string; readonly later: number } | null = null;

/** What was said of something that was refused since `forgetTold`, for the field that asked for it. */
export function lastTold(): string | null {
  return told?.text ?? null;
}

/** The same for a field that shows it: then it stands there, and not over the page as well. */
export function takeTold(): string | null {
  window.clearTimeout(told?.later);
  return lastTold();
}

export function forgetTold(): void {
  told = null;
}

/** How long a message waits for the field that it is about to take it. */
const SOON_MS = 50;

/** Says on the screen what went wrong and what helps. */
export function tell(fault: unknown): void {
  const [what, helps] = fault instanceof ProblemError ? [fault.detail, fault.remedy] : [String(fault), ""];
  // Said twice, it stands there once.
  const show = () => toast.error(what, { id: what, description: helps || undefined });
  told = { text: `${what} ${helps}`.trim(), later: window.setTimeout(show, SOON_MS) };
}

/** Says that a typed length cannot be read; what was typed stays to be mended. */
export function unread(text: string): null {
  tell(
    new ProblemError(
      "length",
      `“${text.trim()}” is not a length that fits here.`,
      "Write it like 3mm, 0.4, 1/8in or 1 1/2in.",
    ),
  );
  return null;
}

/** An answer as it is shown: where nothing was built for it, with what was built before. */
function newest(client: QueryClient, answer: Answer): Answer {
  const before = client.getQueryData<Answer>(designKey(answer.id));
  return answer.built || !before?.built ? answer : { ...answer, built: before.built };
}

/** Keeps an answer, and asks for what is built where the answer did not wait for that. */
export function keep(client: QueryClient, answer: Answer): void {
  const key = designKey(answer.id);
  keepAnswer(client, key, newest(client, answer));
  if (answer.built || answer.trouble) return;
  const path = { design: answer.id, revision: answer.revision };
  expectBuilt(api.GET("/api/designs/{design}/revisions/{revision}/built", { params: { path } }))
    .then((built) =>
      client.setQueryData<Answer>(key, (now) => (now && now.revision === answer.revision ? { ...now, built } : now)),
    )
    .catch(() => undefined);
}

/** What is known of other versions of a design may be another by now: it is asked for when they are opened. */
function forgetOtherVersions(client: QueryClient, id: string): void {
  const others = ({ queryKey: [of, other] }: { queryKey: readonly unknown[] }) =>
    of === "design" && typeof other === "string" && other !== id && motifOf(other) === motifOf(id);
  client.removeQueries({ predicate: others });
}

/** The design's own sheets as they were last seen, if they were. */
function sheetsOf(client: QueryClient, design: string): { revision: number } | undefined {
  const own = client.getQueryData<string>(ownJobKey(design));
  return own === undefined ? undefined : client.getQueryData(jobKey(own));
}

async function askForSheets(client: QueryClient, design: string): Promise<void> {
  const own = client.getQueryData<string>(ownJobKey(design));
  if (own !== undefined) await client.refetchQueries({ queryKey: jobKey(own), type: "all" });
}

async function send(
  design: string,
  now: Answer | undefined,
  sheets: number | null,
  change: Change,
  signal: AbortSignal,
): Promise<Answer | null> {
  const params = { path: { design } };
  const base = now?.revision ?? 0;
  switch (change.do) {
    case "edit": {
      const edit = typeof change.edit === "function" ? now && change.edit(now) : change.edit;
      if (!edit) return null;
      return expectDesign(api.POST("/api/designs/{design}/edits", { params, body: { base, edit }, signal }));
    }
    case "undo":
      return expectDesign(api.POST("/api/designs/{design}/undo", { params, body: { base, sheets }, signal }));
    case "redo":
      return expectDesign(api.POST("/api/designs/{design}/redo", { params, body: { base, sheets }, signal }));
    case "go-to":
      return expectDesign(
        api.POST("/api/designs/{design}/go-to", {
          params,
          body: { base, sheets, whose: change.whose, revision: change.revision },
          signal,
        }),
      );
    case "send":
      return change.send(base, signal);
  }
}
