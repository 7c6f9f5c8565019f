import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { bringDesign, type Method, startDesign, startLettering } from "@/api/client";
import { JobPage } from "@/bench/JobPage";
import { NamesPage } from "@/names/NamesPage";
import { goTo, goToDesign, useRoute } from "@/route";
import { ShelfPage } from "@/shelf/ShelfPage";
import { Door } from "@/start/Door";
import { Start } from "@/start/Start";
import { keep, tell } from "@/state/design";
import { useServer } from "@/state/server";
import { useView } from "@/state/view";
import { Workspace } from "@/Workspace";

export interface Intake {
  width: string;
  method: Method;
}

/** The start page or an open design; a picture dropped or pasted anywhere starts a new design. */
export function App() {
  const route = useRoute();
  const id = route.at === "design" ? route.id : null;
  const locked = useServer((server) => server.locked);
  const client = useQueryClient();
  const [intake, setIntake] = useState<Intake>({ width: "120 mm", method: "adhesive" });
  const [over, setOver] = useState(false);
  const bring = useMutation({
    mutationFn: (file: File) => startDesign(file, intake.width, intake.method),
    onSuccess: (design) => {
      keep(client, design);
      void client.invalidateQueries({ queryKey: ["designs"] });
      useView.setState({
        design: design.id,
        // A file's colours are films already; a picture's are looked at first.
        place: design.recipe.arts[0]?.kind === "picture" ? "Colours" : "Art",
        lens: "Finished",
        original: 0,
        film: null,
        arts: design.recipe.arts[0]?.kind === "picture" ? [] : design.recipe.arts.map((art) => art.id),
        letters: [],
        picking: false,
      });
      goToDesign(design.id);
    },
    onError: tell,
  });
  const begin = useMutation({
    mutationFn: () => startLettering(intake.width, intake.method),
    onSuccess: (design) => {
      keep(client, design);
      void client.invalidateQueries({ queryKey: ["designs"] });
      const arts = design.recipe.arts.map((art) => art.id);
      useView.setState({
        design: design.id,
        place: "Art",
        lens: "Finished",
        original: 0,
        film: null,
        arts,
        letters: [],
        picking: false,
      });
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
  const take = useCallback(
    (file: File) => (/\.zip$/i.test(file.name) ? takeParcel(file) : takePicture(file)),
    [takeParcel, takePicture],
  );

  useEffect(() => {
    const file = (list: FileList | undefined | null) => list?.[0];
    const onPaste = (event: ClipboardEvent) => {
      const pasted = file(event.clipboardData?.files);
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

  if (locked) return <Door />;
  return (
    <>
      {route.at === "design" ? (
        <Workspace key={route.id} id={route.id} />
      ) : route.at === "job" ? (
        <JobPage key={route.id} id={route.id} />
      ) : route.at === "names" ? (
        <NamesPage key={route.id} id={route.id} />
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
      {(over || (bring.isPending && id)) && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-2 border-dashed border-chosen bg-tint/80">
          <p className="text-xl font-semibold text-chosen">
            {over ? "Let go to start a new design from this picture" : "Separating the colours…"}
          </p>
        </div>
      )}
    </>
  );
}
