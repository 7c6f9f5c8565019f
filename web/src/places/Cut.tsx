import { Findings } from "@/parts/Findings";
import { CutPanel } from "@/places/cut/CutPanel";
import { useOpenDesign } from "@/state/design";
import { useOwnJob, usePlan } from "@/state/job";
import { useView } from "@/state/view";

/** A design's own films at the cutter. */
export function Cut() {
  const { id, revision, built } = useOpenDesign();
  const { shown, show } = useView();
  const job = useOwnJob(id);
  const plan = usePlan(job.data, revision);
  if (!built.layers.some((layer) => layer.nodes > 0))
    return <p className="text-soft">Nothing is left to cut: every colour is dropped. Bring one back under Colours.</p>;
  return (
    <div className="flex flex-col gap-4">
      <Findings findings={built.findings} />
      {shown && (
        <button type="button" className="act self-start" onClick={() => show(null)}>
          Back to the film
        </button>
      )}
      {job.data && <CutPanel job={job.data} plan={plan.data} />}
    </div>
  );
}
