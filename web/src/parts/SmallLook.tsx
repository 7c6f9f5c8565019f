import { useEffect, useState } from "react";

interface SmallLookProps {
  design: string;
  revision: number;
  className: string;
  onState?(state: LookState): void;
}

export type LookState = "coming" | "there" | "none";

const FIRST_MS = 700;
const MOST_MS = 5000;

/** The small picture of a revision. One that is still coming is asked for again, so that none holds a line to the server. */
export function SmallLook({ design, revision, className, onState }: SmallLookProps) {
  const [tried, setTried] = useState(0);
  const [missing, setMissing] = useState(false);
  const source = `/api/designs/${design}/looks/${revision}`;

  useEffect(() => {
    if (!missing) return;
    const asking = new AbortController();
    const timer = setTimeout(
      async () => {
        // An image does not tell why there is none.
        const answer = await fetch(source, { signal: asking.signal }).catch(() => null);
        if (asking.signal.aborted) return;
        if (answer?.status === 202) setTried((count) => count + 1);
        else if (answer?.ok) setMissing(false);
        else onState?.("none");
      },
      Math.min(MOST_MS, FIRST_MS * 1.5 ** tried),
    );
    return () => {
      asking.abort();
      clearTimeout(timer);
    };
  }, [missing, tried, source, onState]);

  return (
    <img
      src={missing ? undefined : source}
      loading="lazy"
      alt=""
      className={className}
      onLoad={() => onState?.("there")}
      onError={() => setMissing(true)}
    />
  );
}
