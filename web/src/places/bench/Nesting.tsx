import { useEffect, useRef, useState } from "react";
import { SelectField } from "@/parts/SelectField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import { useBench } from "@/state/job";

const SECONDS = 6;

/** How nested parts are laid: what keeps together, looking for a shorter layout, and laying the rest again. */
export function Nesting({ job, change }: Omit<JobPanelProps, "plan">) {
  const [since, setSince] = useState<number | null>(null);
  const [, tick] = useState(0);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => {
    if (since === null) return;
    const clock = window.setInterval(() => tick((n) => n + 1), 250);
    return () => window.clearInterval(clock);
  }, [since]);
  // Longer and longer looks, each kept as it comes, so that stopping keeps the best found.
  const closer = async () => {
    stop.current = new AbortController();
    setSince(Date.now());
    for (const seconds of [2, SECONDS]) {
      const { signal } = stop.current;
      if (signal.aborted) break;
      if (!(await change({ do: "closer", seconds, signal }))) break;
    }
    setSince(null);
  };
  const pinned = job.job.laid.filter((part) => part.pinned).length;
  const spent = since === null ? 0 : Math.round((Date.now() - since) / 1000);
  return (
    <section aria-label="Nesting" className="flex flex-col gap-2">
      <SelectField
        label="Together"
        value={job.job.together ?? (job.job.designs.some((one) => one.copies > 1) ? "copy" : "word")}
        options={[
          { value: "word", text: "The letters of each word" },
          { value: "parts", text: "Every part by itself" },
          { value: "within", text: "What lies within a shape" },
          { value: "copy", text: "Each copy as a whole" },
        ]}
        onChange={(together) => change({ do: "edit", edit: { kind: "set-job", together } })}
      />
      <div className="flex flex-wrap items-center gap-2">
        {since === null ? (
          <button type="button" className="act" onClick={closer}>
            Lay closer
          </button>
        ) : (
          <button type="button" className="act" onClick={() => stop.current?.abort()}>
            Stop, keep the best ({spent} s)
          </button>
        )}
        <button type="button" className="act" onClick={() => change({ do: "edit", edit: { kind: "lay-rest" } })}>
          Lay the rest again
        </button>
        <span className="text-sm text-soft">{pinned > 0 && `${pinned} pinned`}</span>
      </div>
      <Kept job={job} change={change} />
      <p className="text-sm text-soft">
        Drag a part. By keys: arrows go from part to part, Enter takes one in hand and arrows move it; R turns it, P or
        a double click pins it. Shift-click or Space chooses parts to keep together.
      </p>
    </section>
  );
}

/** Parts that keep their places to each other: chosen ones, and those that do already. */
function Kept({ job, change }: Omit<JobPanelProps, "plan">) {
  const { chosen, letGo } = useBench();
  const first = chosen[0];
  const keep = async (parts: number[], of: { design: string; film: string }, on: boolean) => {
    const kept = { design: of.design, film: of.film, parts };
    if (await change({ do: "edit", edit: { kind: "keep-together", kept, on } })) letGo();
  };
  return (
    <>
      {first && (
        <p className="flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="act"
            disabled={chosen.length < 2}
            onClick={() =>
              keep(
                chosen.map((one) => one.part),
                first,
                true,
              )
            }
          >
            Keep {chosen.length} parts together
          </button>
          <button type="button" className="quiet text-sm" onClick={letGo}>
            Choose none
          </button>
        </p>
      )}
      {job.job.kept.map((kept) => (
        <p key={`${kept.design} ${kept.film} ${kept.parts.join()}`} className="flex items-baseline gap-2 text-sm">
          {kept.parts.length} parts keep together
          <button type="button" className="quiet" onClick={() => keep(kept.parts, kept, false)}>
            each by itself
          </button>
        </p>
      ))}
    </>
  );
}
