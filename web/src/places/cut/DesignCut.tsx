import { CutStage } from "@/places/cut/CutStage";
import { useOpenDesign } from "@/state/design";
import { useOwnJob, usePlan } from "@/state/job";

/** The open design's own films under the blade. */
export function DesignCut() {
  const { id, revision } = useOpenDesign();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  if (!job.data) return <p className="mt-16 text-center text-soft">{job.error?.message ?? "Laying the films…"}</p>;
  return <CutStage job={job.data} plan={plan.data} fault={plan.error} design={revision} />;
}
