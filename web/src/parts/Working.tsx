import { useIsLong, useSpokenWork } from "@/parts/Spoken";
import { Standing, useStanding } from "@/parts/Standing";
import { useWork } from "@/state/work";

interface WorkingProps {
  working: boolean;
  text: string;
  /** What is said of it to who hears the screen, and once it has ended. */
  spoken?: string;
  ended: string;
}

/** Says that something is worked out once that takes a moment, and gives it up if asked. */
export function Working({ working, text, spoken = text, ended }: WorkingProps) {
  const stop = useWork((work) => work.stop);
  const long = useIsLong(working);
  useSpokenWork(long, useStanding(spoken), ended);
  return (
    <span className="flex min-w-20 items-center justify-end gap-2 text-sm text-soft">
      {working && long && <Standing text={text} />}
      {working && long && stop && (
        <button type="button" className="quiet" onClick={stop}>
          Cancel
        </button>
      )}
    </span>
  );
}
