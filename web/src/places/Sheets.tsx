import { Findings } from "@/parts/Findings";
import { sayUse } from "@/parts/UseChoice";
import { JobPanel } from "@/places/bench/JobPanel";
import { useOpenDesign } from "@/state/design";
import { useJobChange, useOwnJob, usePlan } from "@/state/job";
import { goTo } from "@/state/route";

/** A design's own sheets: a job of one, laid on the shop's film. */
export function Sheets() {
  const { id, revision, recipe, built } = useOpenDesign();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  const change = useJobChange(job.data?.id ?? "");
  return (
    <div className="flex flex-col gap-4">
      <Findings findings={built.findings.filter((finding) => finding.beside === "sheets")} />
      {recipe.use !== "surface" && <p className="text-sm text-soft">{sayUse(recipe.use)}</p>}
      {job.data && <JobPanel job={job.data} plan={plan.data} change={change} />}
      <p className="text-sm text-soft">
        The films come from{" "}
        <button type="button" className="quiet" onClick={() => goTo("/shelf")}>
          the shelf
        </button>
        .
      </p>
    </div>
  );
}
