import { CutPanel } from "@/places/cut/CutPanel";
import { NoFilms } from "@/stage/NoFilms";
import { useOpenDesign } from "@/state/design";
import { useOwnJob, usePlan } from "@/state/job";
import { useTold } from "@/state/proof";

/** A design's own films at the cutter. */
export function Cut() {
  const { id, revision, built } = useOpenDesign();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  const fails = useTold().filter((found) => found.severity === "stop");
  if (!built.layers.some((layer) => layer.nodes > 0)) return <NoFilms />;
  return (
    <div className="flex flex-col gap-4">{job.data && <CutPanel job={job.data} plan={plan.data} fails={fails} />}</div>
  );
}
