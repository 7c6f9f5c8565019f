import { useEffect, useState } from "react";
import { Choice } from "@/parts/Choice";
import { More, MoreItem, UnitItem } from "@/parts/More";
import { TextField } from "@/parts/TextField";
import { Home, useUndoKeys } from "@/parts/TopBar";
import { UndoRedo } from "@/parts/UndoRedo";
import { BenchStage } from "@/places/bench/BenchStage";
import { JobPanel } from "@/places/bench/JobPanel";
import { CutPanel } from "@/places/cut/CutPanel";
import { CutStage } from "@/places/cut/CutStage";
import { useJob, useJobChange, useJobWorking, usePlan } from "@/state/job";
import { goTo } from "@/state/route";
import { useBenchUnit } from "@/state/units";

/** A job of several designs: its bench, and beside it all that is chosen for it. */
export function JobPage({ id }: { id: string }) {
  const job = useJob(id);
  const plan = usePlan(job.data, null);
  const change = useJobChange(id);
  const working = useJobWorking(id) || plan.isFetching;
  const { unit, measureIn } = useBenchUnit();
  const [chosen, setPlace] = useState<"Sheets" | "Cut" | null>(null);
  // A job at the cutter is found again where it is, and stays there when it is done.
  const atCutter = job.data?.at_cutter ?? false;
  useEffect(() => {
    if (atCutter) setPlace((now) => now ?? "Cut");
  }, [atCutter]);
  const place = chosen ?? "Sheets";
  useUndoKeys((which) => change({ do: which }));
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
    <main className="desk">
      <header>
        <Home />
        <TextField
          label="Name of the job"
          value={now.job.name}
          onCommit={(name) => change({ do: "edit", edit: { kind: "set-job", name } })}
          className="min-w-24 flex-1 truncate text-[1.0625rem] font-semibold"
        />
        <UndoRedo undoes={now.undoes} redoes={now.redoes} onStep={(which) => change({ do: which })} />
        <More>
          <UnitItem unit={unit} onUnit={measureIn} />
          <MoreItem onDo={() => goTo("/shelf")}>Shelf of films</MoreItem>
          <MoreItem onDo={() => goTo("/help")}>Help</MoreItem>
        </More>
      </header>
      <div className="desk-panel px-4 pt-3 pb-6">
        <Choice
          label="Place"
          value={place}
          options={[
            { value: "Sheets", text: "Sheets" },
            { value: "Cut", text: "Cut" },
          ]}
          onChange={(next) => setPlace(next)}
        />
        <div className="mt-3">
          {place === "Sheets" ? (
            <JobPanel job={now} plan={plan.data} change={change} />
          ) : (
            <CutPanel job={now} plan={plan.data} />
          )}
        </div>
      </div>
      <div className="desk-stage">
        {place === "Sheets" ? (
          <BenchStage job={now} laid={plan} working={working} change={change} />
        ) : (
          <CutStage job={now} plan={plan.data} fault={plan.error} design={null} />
        )}
      </div>
    </main>
  );
}
