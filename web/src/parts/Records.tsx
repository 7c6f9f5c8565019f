import { showLength } from "@/geometry/lengths";
import { useUnit } from "@/state/design";
import { type JobAnswer, type JobChange, useRecords } from "@/state/job";

interface RecordsProps {
  job: JobAnswer;
  change(change: JobChange): Promise<unknown>;
}

/** What was cut of a job, time after time; each can be cut once more as it was. */
export function Records({ job, change }: RecordsProps) {
  const unit = useUnit();
  const records = useRecords(job).data ?? [];
  if (records.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-sm underline underline-offset-2">
        {records.length === 1 ? "What was cut" : `What was cut, ${records.length} times`}
      </summary>
      <ul aria-label="What was cut" className="mt-1">
        {records.map((record) => (
          <li key={record.id} className="border-b border-line py-1.5 text-sm">
            <span className="block font-semibold">
              {new Date(record.ended).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
              {!record.whole && ", ended early"}
            </span>
            <span className="block">{record.copies.map((one) => `${one.copies} × ${one.name}`).join(", ")}</span>
            <span className="measure block text-soft">
              {record.films
                .map(({ material, rolls_mm, pieces }) =>
                  [material, rolls_mm > 0 && showLength(rolls_mm, unit), pieces > 0 && `${pieces} pieces`]
                    .filter(Boolean)
                    .join(" "),
                )
                .join(", ")}
            </span>
            <button
              type="button"
              className="quiet"
              disabled={job.at_cutter}
              onClick={() => change({ do: "again", record: record.id })}
            >
              Cut this once more
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
