import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { Suspense, useCallback, useEffect, useState } from "react";
import { toast } from "sonner";
import {
  type Answer,
  addFont,
  addPicture,
  bringDesign,
  hasRegions,
  isRaster,
  readFilms,
  startDesign,
  startLettering,
} from "@/api/client";
import { useServer } from "@/api/server";
import { useArrivals } from "@/arrivals";
import { Door } from "@/pages/start/Door";
import { Nowhere } from "@/pages/start/Nowhere";
import { type Intake, intakeFor, Start } from "@/pages/start/Start";
import { Away } from "@/parts/Away";
import { lazily, loadTheRest } from "@/parts/lazily";
import { Standing } from "@/parts/Standing";
import { type Arrival, arrivalOf, useHanded } from "@/state/arrival";
import { keep, tell, useChange } from "@/state/design";
import { useFocusKept } from "@/state/focus";
import { PURPOSES } from "@/state/grounds";
import { designKey } from "@/state/keys";
import { useReplacing } from "@/state/replacing";
import { goTo, goToDesign, type Route, useRoute } from "@/state/route";
import { isTyping } from "@/state/typing";
import { useView } from "@/state/view";
import { stoppable, wasStopped } from "@/state/work";

const Workspace = lazily(() => import("@/pages/workspace/Workspace").then((page) => page.Workspace));
const JobPage = lazily(() => import("@/pages/job/JobPage").then((page) => page.JobPage));
const ShelfPage = lazily(() => import("@/pages/shelf/ShelfPage").then((page) => page.ShelfPage));
const NamesPage = lazily(() => import("@/pages/names/NamesPage").then((page) => page.NamesPage));
const KeysSheet = lazily(() => import("@/pages/help/KeysSheet").then((sheet) => sheet.KeysSheet));
const AddOrNew = lazily(() => import("@/pages/start/AddOrNew").then((sheet) => sheet.AddOrNew));
const Help = lazily(() => import("@/pages/help/Help").then((page) => page.Help));
/** The page that is asked for comes first. */
const REST_MS = 2000;

/** The start page or an open design; a picture dropped or pasted anywhere starts a new design. */
export function App() {
  useFocusKept();
  const route = useRoute();
  const id = route.at === "design" ? route.id : null;
  const locked = useServer((server) => server.locked);
  const client = useQueryClient();
  const [intake, setIntake] = useState<Intake>(intakeFor(PURPOSES[0]));
  const [keys, showKeys] = useState(false);
  const bring = useMutation({
    mutationFn: (file: File) =>
      stoppable((signal) => startDesign(file, intake.width, intake.use, intake.ground, signal)),
    onSuccess: (design) => {
      keep(client, design);
      void client.invalidateQueries({ queryKey: ["designs"] });
      const plain = design.recipe.arts[0]?.kind === "picture";
      useView.getState().begin(design.id, "Colours", plain ? [] : design.recipe.arts.map((art) => art.id));
      goToDesign(design.id);
    },
    onError: (fault) => !wasStopped(fault) && tell(fault),
  });
  const begin = useMutation({
    mutationFn: () => startLettering(intake.width, intake.use, intake.ground),
    onSuccess: (design) => {
      keep(client, design);
      void client.invalidateQueries({ queryKey: ["designs"] });
      useView.getState().begin(
        design.id,
        "Art",
        design.recipe.arts.map((art) => art.id),
      );
      goToDesign(design.id);
    },
    onError: tell,
  });
  const bringParcel = useMutation({
    mutationFn: bringDesign,
    onSuccess: (found) => {
      void client.invalidateQueries();
      if (found.job) goTo(`/job/${found.job}`);
      else goToDesign(found.designs[0] ?? null);
    },
    onError: tell,
  });
  const takePicture = bring.mutate;
  const takeParcel = bringParcel.mutate;
  const [asked, setAsked] = useState<readonly File[] | null>(null);
  const takeArts = useCallback(
    (files: readonly File[]) => {
      const [first] = files;
      if (!first) return;
      // Where a design is open, it may be meant for that one.
      if (id || files.length > 1) setAsked(files);
      else takePicture(first);
    },
    [takePicture, id],
  );
  const take = useCallback(
    async (files: readonly File[]) => {
      const kinds = await Promise.all(files.map(arrivalOf));
      const of = (kind: Arrival) => files.filter((_, k) => kinds[k] === kind);
      for (const parcel of of("parcel")) takeParcel(parcel);
      for (const font of of("font")) await takenIn(font, client, "fonts");
      for (const table of of("films")) await takenIn(table, client, "shelf");
      for (const list of of("names")) takeNames(list, route);
      takeArts(of("art"));
    },
    [client, route, takeArts, takeParcel],
  );
  const over = useArrivals(take);
  const change = useChange(id ?? "");
  const opened = client.getQueryData<Answer>(designKey(id ?? ""));
  const chosen = useView((view) => view.arts);
  // What is chosen comes first; of many, no more are offered than can be looked over.
  const replaceable = (file: File) =>
    (opened?.recipe.arts ?? [])
      .filter(hasRegions)
      .filter((art) => isRaster(art) === isPicture(file))
      .sort((a, b) => Number(chosen.includes(b.id)) - Number(chosen.includes(a.id)))
      .slice(0, 3)
      .map((art) => ({ id: art.id, name: art.filename || "the picture" }));
  const add = async (files: readonly File[]) => {
    for (const file of files) {
      const made = await change({
        do: "send",
        send: (base, signal) => addPicture(id ?? "", base, file, "60mm", signal),
      });
      const added = made?.recipe.arts.at(-1);
      if (!added) continue;
      useView.getState().goTo("Art");
      useView.getState().chooseArts([added.id]);
    }
  };
  /** A new design of each file, or all of them on one. */
  const beginWith = useMutation({
    mutationFn: async ({ files, together }: { files: readonly File[]; together: boolean }) => {
      const made: Answer[] = [];
      for (const file of files) {
        const last = together ? made.at(-1) : undefined;
        const send = (signal: AbortSignal) =>
          last
            ? addPicture(last.id, last.revision, file, "60mm", signal)
            : startDesign(file, intake.width, intake.use, intake.ground, signal);
        await stoppable(send)
          .then((design) => made.push(design))
          .catch((fault) => !wasStopped(fault) && tell(fault));
      }
      return made;
    },
    onSuccess: (made, { together }) => {
      for (const design of made) keep(client, design);
      void client.invalidateQueries({ queryKey: ["designs"] });
      const last = made.at(-1);
      if (last && (together || made.length === 1)) goToDesign(last.id);
      else if (last) {
        goTo("/");
        toast.success(`${made.length} designs were begun.`);
      }
    },
  });

  // The key is heard at once; the sheet may still have to be loaded.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "?" || isTyping(event)) return;
      event.preventDefault();
      showKeys(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);

  useEffect(() => {
    const later = window.setTimeout(() => void loadTheRest(), REST_MS);
    return () => window.clearTimeout(later);
  }, []);

  if (locked) return <Door />;
  return (
    <Suspense fallback={null}>
      {route.at === "design" ? (
        <Workspace key={route.id} id={route.id} />
      ) : route.at === "job" ? (
        <JobPage key={route.id} id={route.id} />
      ) : route.at === "names" ? (
        <NamesPage key={route.id} id={route.id} />
      ) : route.at === "help" ? (
        <Help />
      ) : route.at === "nowhere" ? (
        <Nowhere />
      ) : route.at === "shelf" ? (
        <ShelfPage />
      ) : (
        <Start
          intake={intake}
          onIntake={setIntake}
          onPicture={(file) => take([file])}
          onLettering={() => begin.mutate()}
          busy={bring.isPending || begin.isPending || bringParcel.isPending}
        />
      )}
      {!id && <Away className="fixed inset-x-0 bottom-0 z-30 border-t border-line" />}
      {keys && (
        <Suspense fallback={null}>
          <KeysSheet onClose={() => showKeys(false)} />
        </Suspense>
      )}
      {asked && (
        <Suspense fallback={null}>
          <AddOrNew
            files={asked}
            open={id !== null}
            onAdd={() => {
              setAsked(null);
              if (id) void add(asked);
              else beginWith.mutate({ files: asked, together: true });
            }}
            onNew={() => {
              setAsked(null);
              const [only] = asked;
              if (asked.length === 1 && only) takePicture(only);
              else beginWith.mutate({ files: asked, together: false });
            }}
            replaceable={asked.length === 1 && asked[0] ? replaceable(asked[0]) : []}
            onReplace={(art) => {
              setAsked(null);
              useView.getState().goTo("Art");
              if (id && asked[0]) useReplacing.getState().ask(id, art, asked[0]);
            }}
            onCancel={() => setAsked(null)}
          />
        </Suspense>
      )}
      {(over || beginWith.isPending || (bring.isPending && id)) && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-2 border-dashed border-chosen bg-tint/80">
          <p className="text-xl font-semibold text-chosen">
            {over ? "Drop it here" : <Standing text="Separating the colours…" />}
          </p>
        </div>
      )}
    </Suspense>
  );
}

/** A font or films from a table come onto their shelf, wherever they were dropped. */
async function takenIn(file: File, client: QueryClient, shelf: "fonts" | "shelf"): Promise<void> {
  try {
    if (shelf === "fonts") toast.success(`“${(await addFont(file)).name}” is on the shelf of fonts now.`);
    else toast.success(`The shelf has ${(await readFilms(file)).total} films now.`);
    void client.invalidateQueries({ queryKey: [shelf] });
  } catch (fault) {
    tell(fault);
  }
}

/** A list of names is for the design that is open, or the one whose names are asked for. */
function takeNames(list: File, route: Route): void {
  if (route.at !== "design" && route.at !== "names")
    return void toast.info(`“${list.name}” is a list of names: open the design that they are for, then drop it there.`);
  useHanded.getState().hand(list);
  if (route.at === "design") goTo(`/names/${route.id}`);
}

/** Whether a file is a picture, by its kind or its name. */
function isPicture(file: File): boolean {
  return !/svg|dxf|pdf|postscript/i.test(file.type) && !/\.(svgz?|dxf|pdf|ai|plt|hpgl)$/i.test(file.name);
}
