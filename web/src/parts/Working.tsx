import { useEffect, useState } from "react";
import { Standing } from "@/parts/Standing";
import { useWork } from "@/state/work";

const PATIENCE_MS = 400;

/** Says that something is worked out once that takes a moment, and gives it up if asked. */
export function Working({ working, text }: { working: boolean; text: string }) {
  const stop = useWork((work) => work.stop);
  const [long, setLong] = useState(false);
  useEffect(() => {
    setLong(false);
    if (!working) return;
    const wait = window.setTimeout(() => setLong(true), PATIENCE_MS);
    return () => window.clearTimeout(wait);
  }, [working]);
  return (
    <span aria-live="polite" className="flex min-w-20 items-center justify-end gap-2 text-sm text-soft">
      {working && long && <Standing text={text} />}
      {working && long && stop && (
        <button type="button" className="quiet" onClick={stop}>
          Cancel
        </button>
      )}
    </span>
  );
}
