import type { JobAnswer, JobChange } from "@/state/job";

interface AgainProps {
  job: JobAnswer;
  change(change: JobChange): Promise<unknown>;
}

/** A job that was cut is cut again: what was added since, or all of it. */
export function Again({ job, change }: AgainProps) {
  return (
    <>
      {job.more > 0 && (
        <button type="button" className="act-main" onClick={() => change({ do: "again", rest: true })}>
          Cut {job.more} more
        </button>
      )}
      <button type="button" className="act" onClick={() => change({ do: "again" })}>
        Cut it again
      </button>
    </>
  );
}
