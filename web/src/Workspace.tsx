import { useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { type ReactNode, useEffect } from "react";
import type { Answer } from "@/api/client";
import { DesignBench } from "@/bench/DesignBench";
import { DesignCut } from "@/cut/DesignCut";
import { History } from "@/History";
import { TextField } from "@/parts/TextField";
import { Home, UnitSwitch, useUndoKeys } from "@/parts/TopBar";
import { Art } from "@/places/Art";
import { Colours } from "@/places/Colours";
import { Cut } from "@/places/Cut";
import { Sheets } from "@/places/Sheets";
import { Stack } from "@/places/Stack";
import { goTo, goToDesign } from "@/route";
import { Stage } from "@/stage/Stage";
import { DesignContext, designKey, useChange, useDesign, useEdit, useIsWorking, useOpenDesign } from "@/state/design";
import { useServer } from "@/state/server";
import { useTools } from "@/state/tools";
import { useTries } from "@/state/tries";
import { PLACES, type Place, useView } from "@/state/view";

const VIEWS: Record<Place, () => ReactNode> = { Art, Colours, Stack, Sheets, Cut };

/** One design: the stage, and beside it the place of the job that is worked at. */
export function Workspace({ id }: { id: string }) {
  const design = useDesign(id);
  const tried = useTries((tries) => (tries.tried?.design === id ? tries.tried.built : null));
  const enter = useView((view) => view.enter);
  const take = useTools((tools) => tools.take);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another design is looked at afresh
  useEffect(() => {
    enter(id);
    take(null);
    useTries.getState().clear();
  }, [id]);
  if (!design.data && design.isError) {
    return (
      <Message title="This design cannot be opened">
        {design.error.message}{" "}
        <button type="button" className="quiet" onClick={() => goToDesign(null)}>
          Back to all designs
        </button>
      </Message>
    );
  }
  if (!design.data)
    return <Message title="Laying out the films…">The picture is separated and its films are cut.</Message>;
  const built = tried ?? design.data.built;
  if (!built) return <Unbuilt design={design.data} />;
  return (
    <DesignContext.Provider value={{ ...design.data, built }}>
      <main className="grid h-full grid-cols-[372px_1fr] grid-rows-[48px_auto_1fr]">
        <TopBar />
        <Away design={id} />
        <Bench />
        <Table />
      </main>
    </DesignContext.Provider>
  );
}

/** A design of which nothing could be built: why, and the way back. */
function Unbuilt({ design }: { design: Answer }) {
  const change = useChange(design.id);
  return (
    <Message title="This design cannot be built">
      {design.trouble
        ? `${design.trouble.detail} ${design.trouble.remedy}`
        : "What it asks for could not be worked out."}
      <span className="mt-4 flex justify-center gap-3">
        <button type="button" className="act" disabled={!design.can_undo} onClick={() => change({ do: "undo" })}>
          Undo the last step
        </button>
        <button type="button" className="act" onClick={() => goToDesign(null)}>
          All designs
        </button>
      </span>
    </Message>
  );
}

const KNOCK_MS = 1500;

/** Says that the server is away, and asks for it until it is back; what is on the screen stays. */
function Away({ design }: { design: string }) {
  const away = useServer((server) => server.away);
  const client = useQueryClient();
  useEffect(() => {
    if (!away) return;
    const knock = window.setInterval(() => void client.refetchQueries({ queryKey: designKey(design) }), KNOCK_MS);
    return () => window.clearInterval(knock);
  }, [away, design, client]);
  return (
    <div className="col-span-2" aria-live="polite">
      {away && (
        <p className="border-b border-line bg-tint px-4 py-1.5">
          The app's own server does not answer. What you see is safe; changes can be made as soon as it is back.
        </p>
      )}
    </div>
  );
}

function Message({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid h-full place-content-center text-center">
      <h1 className="text-xl font-semibold">{title}</h1>
      <p className="mt-2 max-w-md text-soft">{children}</p>
    </main>
  );
}

function TopBar() {
  const { id, recipe, can_undo, can_redo } = useOpenDesign();
  const change = useChange(id);
  const edit = useEdit();
  const working = useIsWorking();

  useUndoKeys((which) => change({ do: which }));

  return (
    <header className="col-span-2 flex items-center gap-3 border-b border-line bg-paper px-4">
      <Home />
      <TextField
        label="Name of the design"
        value={recipe.name}
        onCommit={(name) => edit({ kind: "rename-design", name })}
        className="min-w-0 flex-1 truncate text-[17px] font-semibold"
      />
      <span aria-live="polite" className="w-20 text-right text-sm text-soft">
        {working ? "Building…" : ""}
      </span>
      <UnitSwitch unit={recipe.unit} onUnit={(unit) => edit({ kind: "show-unit", unit })} />
      <button type="button" className="act" disabled={!can_undo} onClick={() => change({ do: "undo" })}>
        Undo
      </button>
      <button type="button" className="act" disabled={!can_redo} onClick={() => change({ do: "redo" })}>
        Redo
      </button>
      <History />
      <a
        className="act"
        href={`/api/designs/${id}/file`}
        download
        title="The design as one file, to keep or to hand on"
      >
        Keep as file
      </a>
      <button type="button" className="act" onClick={() => goTo("/shelf")}>
        Shelf
      </button>
    </header>
  );
}

/** The light table, or where the films are laid: the bench. */
function Table() {
  const place = useView((view) => view.place);
  const shown = useView((view) => view.shown);
  if (place === "Sheets") return <DesignBench />;
  // What is told is shown on the decal, though one is at the cutter.
  return place === "Cut" && !shown ? <DesignCut /> : <Stage />;
}

/** The places of the job, strung on one thread in the order a maker works. */
function Bench() {
  const place = useView((view) => view.place);
  const go = useView((view) => view.goTo);
  return (
    <Tabs.Root
      value={place}
      onValueChange={(next) => go(next as Place)}
      className="grid min-h-0 grid-rows-[auto_1fr] border-r border-line bg-paper"
    >
      <Tabs.List aria-label="Places of the job" className="relative mx-4 mt-3 mb-1 flex justify-between">
        <span aria-hidden className="absolute top-[7px] right-4 left-4 border-t-2 border-line" />
        {PLACES.map((name) => (
          <Tabs.Trigger
            key={name}
            value={name}
            className="group relative flex flex-col items-center gap-1 px-1 pb-1 text-soft data-[state=active]:font-semibold data-[state=active]:text-ink"
          >
            <span
              aria-hidden
              className="h-4 w-4 rounded-full border-2 border-firm bg-paper group-data-[state=active]:border-chosen group-data-[state=active]:bg-chosen"
            />
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {PLACES.map((name) => {
        const View = VIEWS[name];
        return (
          <Tabs.Content key={name} value={name} className="relative min-h-0 overflow-y-auto px-4 pt-3 pb-6">
            <View />
          </Tabs.Content>
        );
      })}
    </Tabs.Root>
  );
}
