import { Again } from "@/parts/Again";
import { Records } from "@/parts/Records";
import type { JobPanelProps } from "@/places/bench/JobPanel";

/** That a job was cut, and how it is cut again. */
export function Done({ job, plan, change }: JobPanelProps) {
  const short = plan?.findings.some((found) => found.severity === "stop");
  return (
    <section aria-label="Cutting" className="flex flex-col gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap gap-2">
        <a className="act" href={`/api/jobs/${job.id}/sheets.zip`} download>
          Download sheets
        </a>
        {job.cut ? (
          <>
            <Again job={job} change={change} />
            <button type="button" className="act" onClick={() => change({ do: "uncut" })}>
              Undo “cut”
            </button>
          </>
        ) : (
          <button
            type="button"
            className="act"
            disabled={!plan || short || job.at_cutter}
            onClick={() => change({ do: "cut" })}
          >
            Mark as cut
          </button>
        )}
      </div>
      <p className="text-sm text-soft">
        {job.cut
          ? `Cut on ${new Date(job.cut).toLocaleString()}. What it took is off the shelf; offcuts are on it.`
          : job.at_cutter
            ? "It is at the cutter, and stays as it is until that is done or ended."
            : short
              ? "It cannot be cut as it is: see what is told above."
              : "Counts the shelf down, and puts what stays on it as offcuts."}
      </p>
      <Records job={job} change={change} />
    </section>
  );
}
