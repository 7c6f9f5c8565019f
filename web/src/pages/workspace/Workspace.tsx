import { ChevronLeft, ChevronRight } from "lucide-react";
import { Tabs } from "radix-ui";
import { type ComponentType, type ReactNode, Suspense, useDeferredValue, useEffect } from "react";
import type { Answer } from "@/api/client";
import { History } from "@/pages/workspace/History";
import { Thread } from "@/pages/workspace/Thread";
import { Versions } from "@/pages/workspace/Versions";
import { Away } from "@/parts/Away";
import { ComingFilms } from "@/parts/ComingFilms";
import { lazily } from "@/parts/lazily";
import { More, MoreFile, MoreItem, UnitItem } from "@/parts/More";
import { TextField } from "@/parts/TextField";
import { Home, useUndoKeys } from "@/parts/TopBar";
import { UndoRedo } from "@/parts/UndoRedo";
import { Working } from "@/parts/Working";
import { Art } from "@/places/Art";
import { ReplacingSheet } from "@/places/art/ReplaceSource";
import { Colours } from "@/places/Colours";
import { NextPlace } from "@/places/Found";
import { Stack } from "@/places/Stack";
import { Stage } from "@/stage/Stage";
import { usePlaceInAddress } from "@/state/address";
import { DesignContext, useChange, useDesign, useEdit, useIsWorking, useOpenDesign } from "@/state/design";
import { PLACES, type Place } from "@/state/mode";
import { useNews } from "@/state/news";
import { goTo, goToDesign } from "@/state/route";
import { useTries } from "@/state/tries";
import { useView } from "@/state/view";

const Proof = lazily(() => import("@/places/Proof").then((place) => place.Proof));
const Sheets = lazily(() => import("@/places/Sheets").then((place) => place.Sheets));
const Cut = lazily(() => import("@/places/Cut").then((place) => place.Cut));
const DesignBench = lazily(() => import("@/places/bench/DesignBench").then((place) => place.DesignBench));
const DesignCut = lazily(() => import("@/places/cut/DesignCut").then((place) => place.DesignCut));

const VIEWS: Record<Place, ComponentType> = { Art, Colours, Stack, Proof, Sheets, Cut };

/** One design: the stage, and beside it the place of the job that is worked at. */
export function Workspace({ id }: { id: string }) {
  const design = useDesign(id);
  const tried = useTries((tries) => (tries.tried?.design === id ? tries.tried.built : null));
  const enter = useView((view) => view.enter);
  const place = useView((view) => view.place);
  const go = useView((view) => view.goTo);
  const folded = useView((view) => view.folded);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another design is looked at afresh
  useEffect(() => {
    enter(id);
    useTries.getState().clear();
  }, [id]);
  usePlaceInAddress(id);
  useNews(id);
  // Where a button led here that is gone now, what comes next is what the place holds.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another place moves the focus
  useEffect(() => {
    // A button that was pressed takes the focus after the place has changed.
    const later = window.setTimeout(() => {
      const at = document.activeElement;
      if (at && at !== document.body) return;
      document.querySelector<HTMLElement>('[role="tabpanel"][data-state="active"]')?.focus({ preventScroll: true });
    });
    return () => window.clearTimeout(later);
  }, [place]);
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
    return (
      <Message title="Laying out the films…">
        <ComingFilms className="mx-auto mb-3 block h-12" />
        The picture is separated and its films are cut.
      </Message>
    );
  const built = tried ?? design.data.built;
  if (!built) return <Unbuilt design={design.data} />;
  return (
    <DesignContext.Provider value={{ ...design.data, built }}>
      <title>{`${design.data.recipe.name} · Glad Stack`}</title>
      <Tabs.Root value={place} onValueChange={(next) => go(next as Place)} asChild>
        <main className={`desk ${folded ? "desk-folded" : ""}`}>
          <TopBar />
          <Away className="desk-note" />
          <Bench folded={folded} />
          <div className="desk-stage">
            <Suspense fallback={null}>
              <Table />
            </Suspense>
          </div>
          <ReplacingSheet />
        </main>
      </Tabs.Root>
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
        <button type="button" className="act" disabled={design.undoes === null} onClick={() => change({ do: "undo" })}>
          Undo the last step
        </button>
        <button type="button" className="act" onClick={() => goToDesign(null)}>
          All designs
        </button>
      </span>
    </Message>
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
  const { id, recipe, undoes, redoes } = useOpenDesign();
  const change = useChange(id);
  const edit = useEdit();
  const working = useIsWorking();
  const folded = useView((view) => view.folded);
  const fold = useView((view) => view.fold);

  useUndoKeys((which) => change({ do: which }));

  return (
    <header className="pl-2!">
      <button
        type="button"
        aria-expanded={!folded}
        aria-label={folded ? "Show the panel" : "Fold the panel away"}
        title={folded ? "Show the panel" : "Fold the panel away"}
        className="-mr-1 grid h-8 w-7 place-items-center rounded text-soft hover:text-ink"
        onClick={() => fold(!folded)}
      >
        {folded ? <ChevronRight aria-hidden size={18} /> : <ChevronLeft aria-hidden size={18} />}
      </button>
      <Home />
      <TextField
        label="Name of the design"
        value={recipe.name}
        onCommit={(name) => edit({ kind: "rename-design", name })}
        className="min-w-24 flex-1 truncate text-[1.0625rem] font-semibold"
      />
      <Versions />
      <Thread />
      <Working working={working} text="Building…" ended="Built." />
      <UndoRedo undoes={undoes} redoes={redoes} onStep={(which) => change({ do: which })} />
      <History />
      <More>
        <MoreFile href={`/api/designs/${id}/file`}>Download the design</MoreFile>
        <UnitItem unit={recipe.unit ?? "mm"} onUnit={(unit) => edit({ kind: "show-unit", unit })} />
        <MoreItem onDo={() => goTo("/shelf")}>Shelf of films</MoreItem>
        <MoreItem onDo={() => goTo("/help")}>Help</MoreItem>
      </More>
    </header>
  );
}

/** The light table, or where the films are laid: the bench. */
function Table() {
  // The panel comes first: both at once would hold up the hand.
  const place = useDeferredValue(useView((view) => view.place));
  if (place === "Sheets") return <DesignBench />;
  return place === "Cut" ? <DesignCut /> : <Stage />;
}

/** What is done at the place of the job that is worked at. */
function Bench({ folded }: { folded: boolean }) {
  const place = useView((view) => view.place);
  return (
    <div className={folded ? "hidden" : "desk-panel narrow:overflow-visible overflow-hidden"}>
      {PLACES.map((name) => {
        const View = VIEWS[name];
        return (
          // Were it to come and go by itself, it would ask for the style of all that is on the page each time.
          <Tabs.Content
            key={name}
            value={name}
            forceMount
            hidden={name !== place}
            className="relative h-full overflow-y-auto px-4 pt-3 pb-6 narrow:h-auto narrow:overflow-visible"
          >
            {name === place && (
              <>
                <Suspense fallback={null}>
                  <View />
                </Suspense>
                <NextPlace place={name} />
              </>
            )}
          </Tabs.Content>
        );
      })}
    </div>
  );
}
