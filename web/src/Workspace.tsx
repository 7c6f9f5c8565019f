import { Tabs } from "radix-ui";
import { type ReactNode, useEffect } from "react";
import { History } from "@/History";
import { TextField } from "@/parts/TextField";
import { Art } from "@/places/Art";
import { Colours } from "@/places/Colours";
import { Cut } from "@/places/Cut";
import { Sheets } from "@/places/Sheets";
import { Stack } from "@/places/Stack";
import { goToDesign } from "@/route";
import { Stage } from "@/stage/Stage";
import { DesignContext, useChange, useDesign, useEdit, useIsWorking, useOpenDesign } from "@/state/design";
import { useTools } from "@/state/tools";
import { useTries } from "@/state/tries";
import { PLACES, type Place, useView } from "@/state/view";

const VIEWS: Record<Place, () => ReactNode> = { Art, Colours, Stack, Sheets, Cut };

/** One design: the stage, and beside it the place of the job that is worked at. */
export function Workspace({ id }: { id: string }) {
  const design = useDesign(id);
  const tried = useTries((tries) => tries.built);
  const leave = useView((view) => view.leave);
  const take = useTools((tools) => tools.take);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another design is looked at afresh
  useEffect(() => {
    leave();
    take(null);
  }, [id]);
  if (design.isError) {
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
  return (
    <DesignContext.Provider value={tried ? { ...design.data, built: tried } : design.data}>
      <main className="grid h-full grid-cols-[372px_1fr] grid-rows-[48px_1fr]">
        <TopBar />
        <Bench />
        <Stage />
      </main>
    </DesignContext.Provider>
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
  const { recipe, can_undo, can_redo } = useOpenDesign();
  const change = useChange();
  const edit = useEdit();
  const working = useIsWorking();

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        (event.target instanceof HTMLInputElement && event.target.type === "text") ||
        event.target instanceof HTMLTextAreaElement;
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      void change({ do: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [change]);

  return (
    <header className="col-span-2 flex items-center gap-3 border-b border-line bg-paper px-4">
      <button type="button" className="flex items-center gap-2 font-semibold" onClick={() => goToDesign(null)}>
        <img src="/icon.svg" alt="" className="h-5 w-5" />
        All designs
      </button>
      <span aria-hidden className="h-5 border-l border-line" />
      <TextField
        label="Name of the design"
        value={recipe.name}
        onCommit={(name) => edit({ kind: "rename-design", name })}
        className="min-w-0 flex-1 truncate text-[17px] font-semibold"
      />
      <span aria-live="polite" className="w-20 text-right text-sm text-soft">
        {working ? "Building…" : ""}
      </span>
      <fieldset className="flex items-center text-sm" aria-label="Unit of lengths">
        {(["mm", "in"] as const).map((unit) => (
          <button
            key={unit}
            type="button"
            aria-pressed={recipe.unit === unit}
            className="px-2 py-1 text-soft aria-pressed:font-semibold aria-pressed:text-chosen aria-pressed:underline aria-pressed:decoration-2 aria-pressed:underline-offset-4"
            onClick={() => edit({ kind: "show-unit", unit })}
          >
            {unit}
          </button>
        ))}
      </fieldset>
      <button type="button" className="act" disabled={!can_undo} onClick={() => change({ do: "undo" })}>
        Undo
      </button>
      <button type="button" className="act" disabled={!can_redo} onClick={() => change({ do: "redo" })}>
        Redo
      </button>
      <History />
    </header>
  );
}

/** The places of the job, strung on one thread in the order a maker works. */
function Bench() {
  const place = useView((view) => view.place);
  const goTo = useView((view) => view.goTo);
  return (
    <Tabs.Root
      value={place}
      onValueChange={(next) => goTo(next as Place)}
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
