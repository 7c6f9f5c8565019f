import { useEffect } from "react";
import { BenchStage } from "@/bench/BenchStage";
import { JobPanel } from "@/bench/JobPanel";
import { TextField } from "@/parts/TextField";
import { goTo } from "@/route";
import { useJob, useJobChange, useJobWorking, usePlan } from "@/state/job";
import { useBenchUnit } from "@/state/units";

/** A job of several designs: its bench, and beside it all that is chosen for it. */
export function JobPage({ id }: { id: string }) {
  const job = useJob(id);
  const plan = usePlan(job.data, null);
  const change = useJobChange(id);
  const working = useJobWorking(id) || plan.isFetching;
  const { unit, measureIn } = useBenchUnit();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement && event.target.type === "text";
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      void change({ do: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [change]);
  if (!job.data)
    return (
      <main className="grid h-full place-content-center text-center">
        <h1 className="text-xl font-semibold">{job.isError ? "This job cannot be opened" : "Opening the job…"}</h1>
        <p className="mt-2 text-soft">
          {job.error?.message}{" "}
          <button type="button" className="quiet" onClick={() => goTo("/")}>
            Back to all designs
          </button>
        </p>
      </main>
    );
  const now = job.data;
  return (
    <main className="grid h-full grid-cols-[372px_1fr] grid-rows-[48px_1fr]">
      <header className="col-span-2 flex items-center gap-3 border-b border-line bg-paper px-4">
        <button type="button" className="flex items-center gap-2 font-semibold" onClick={() => goTo("/")}>
          <img src="/icon.svg" alt="" className="h-5 w-5" />
          All designs
        </button>
        <span aria-hidden className="h-5 border-l border-line" />
        <TextField
          label="Name of the job"
          value={now.job.name}
          onCommit={(name) => change({ do: "edit", edit: { kind: "set-job", name } })}
          className="min-w-0 flex-1 truncate text-[17px] font-semibold"
        />
        <fieldset className="flex items-center text-sm" aria-label="Unit of lengths">
          {(["mm", "in"] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={unit === one}
              className="px-2 py-1 text-soft aria-pressed:font-semibold aria-pressed:text-chosen aria-pressed:underline aria-pressed:decoration-2 aria-pressed:underline-offset-4"
              onClick={() => measureIn(one)}
            >
              {one}
            </button>
          ))}
        </fieldset>
        <button type="button" className="act" disabled={!now.can_undo} onClick={() => change({ do: "undo" })}>
          Undo
        </button>
        <button type="button" className="act" disabled={!now.can_redo} onClick={() => change({ do: "redo" })}>
          Redo
        </button>
        <button type="button" className="act" onClick={() => goTo("/shelf")}>
          Shelf
        </button>
      </header>
      <div className="overflow-y-auto border-r border-line bg-paper px-4 pt-3 pb-6">
        <JobPanel job={now} plan={plan.data} change={change} />
      </div>
      <BenchStage job={now} plan={plan.data} fault={plan.error} working={working} change={change} />
    </main>
  );
}
