import { BenchStage } from "@/places/bench/BenchStage";
import { useOpenDesign } from "@/state/design";
import { useJobChange, useJobWorking, useOwnJob, usePlan } from "@/state/job";

/** The bench of the open design's own sheets. */
export function DesignBench() {
  const { id, revision } = useOpenDesign();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  const change = useJobChange(job.data?.id ?? "");
  const working = useJobWorking(job.data?.id ?? "") || plan.isFetching;
  if (!job.data) return <p className="mt-16 text-center text-soft">{job.error?.message ?? "Laying the films…"}</p>;
  return <BenchStage job={job.data} laid={plan} working={working} change={change} />;
}
