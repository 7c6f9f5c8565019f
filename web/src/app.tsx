import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Suspense, useCallback, useEffect, useState } from "react";
import { type Answer, addPicture, bringDesign, hasRegions, isRaster, startDesign, startLettering } from "@/api/client";
import { useServer } from "@/api/server";
import { Door } from "@/pages/start/Door";
import { Nowhere } from "@/pages/start/Nowhere";
import { type Intake, intakeFor, Start } from "@/pages/start/Start";
import { Away } from "@/parts/Away";
import { lazily, loadTheRest } from "@/parts/lazily";
import { Standing } from "@/parts/Standing";
import { keep, tell, useChange } from "@/state/design";
import { PURPOSES } from "@/state/grounds";
import { designKey } from "@/state/keys";
import { useReplacing } from "@/state/replacing";
import { goTo, goToDesign, useRoute } from "@/state/route";
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
  const route = useRoute();
  const id = route.at === "design" ? route.id : null;
  const locked = useServer((server) => server.locked);
  const client = useQueryClient();
  const [intake, setIntake] = useState<Intake>(intakeFor(PURPOSES[0]));
  const [over, setOver] = useState(false);
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
  const [asked, setAsked] = useState<File | null>(null);
  const take = useCallback(
    (file: File) => {
      if (/\.zip$/i.test(file.name)) takeParcel(file);
      // Where a design is open, it may be meant for that one.
      else if (id) setAsked(file);
      else takePicture(file);
    },
    [takeParcel, takePicture, id],
  );
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
  const add = async (file: File) => {
    if (!id) return;
    const made = await change({ do: "send", send: (base, signal) => addPicture(id, base, file, "60mm", signal) });
    const added = made?.recipe.arts.at(-1);
    if (!added) return;
    useView.getState().goTo("Art");
    useView.getState().chooseArts([added.id]);
  };

  useEffect(() => {
    const file = (list: FileList | undefined | null) => list?.[0];
    const onPaste = (event: ClipboardEvent) => {
      const pasted = file(event.clipboardData?.files) ?? drawingIn(event);
      if (pasted) take(pasted);
    };
    const carriesFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const onOver = (event: DragEvent) => {
      if (!carriesFile(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!carriesFile(event)) return;
      event.preventDefault();
      setOver(false);
      const dropped = file(event.dataTransfer?.files);
      if (dropped) take(dropped);
    };
    window.addEventListener("paste", onPaste);
    window.addEventListener("dragover", onOver);
    window.addEventListener("dragleave", onLeave);
    window.addEventListener("drop", onDrop);
    return () => {
      window.removeEventListener("paste", onPaste);
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("dragleave", onLeave);
      window.removeEventListener("drop", onDrop);
    };
  }, [take]);

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
          onPicture={take}
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
            file={asked}
            onAdd={() => {
              setAsked(null);
              void add(asked);
            }}
            onNew={() => {
              setAsked(null);
              takePicture(asked);
            }}
            replaceable={replaceable(asked)}
            onReplace={(art) => {
              setAsked(null);
              useView.getState().goTo("Art");
              if (id) useReplacing.getState().ask(id, art, asked);
            }}
            onCancel={() => setAsked(null)}
          />
        </Suspense>
      )}
      {(over || (bring.isPending && id)) && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-2 border-dashed border-chosen bg-tint/80">
          <p className="text-xl font-semibold text-chosen">
            {over ? "Drop it here" : <Standing text="Separating the colours…" />}
          </p>
        </div>
      )}
    </Suspense>
  );
}

/** Whether a file is a picture, by its kind or its name. */
function isPicture(file: File): boolean {
  return !/svg|dxf|pdf|postscript/i.test(file.type) && !/\.(svgz?|dxf|pdf|ai|plt|hpgl)$/i.test(file.name);
}

/** A drawing that was copied as text, unless it is pasted into a field. */
function drawingIn(event: ClipboardEvent): File | undefined {
  if (event.target instanceof HTMLElement && event.target.closest("input, textarea, [contenteditable]")) return;
  const text = (
    event.clipboardData?.getData("image/svg+xml") ||
    event.clipboardData?.getData("text/plain") ||
    ""
  ).trim();
  return /^(<\?xml|<!--|<!DOCTYPE svg|<svg)/i.test(text) && text.includes("<svg")
    ? new File([text], "pasted.svg", { type: "image/svg+xml" })
    : undefined;
}
