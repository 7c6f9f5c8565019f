import { useRef, useState } from "react";

/**
 * What a control shows while what was asked of it is under way: the newest thing asked for, at once, until it is settled.
 * Then it is what holds again, be that what was asked for or, where it was refused, what held before.
 */
export function useAsked<T>(holds: T) {
  const [asked, setAsked] = useState<{ value: T } | null>(null);
  const newest = useRef(0);
  return {
    value: asked ? asked.value : holds,
    pending: asked !== null,
    /** Asks for a value by `send`, which tells by a promise when it is settled. */
    ask(value: T, send: () => unknown) {
      const settling = send();
      if (!(settling instanceof Promise)) return;
      const turn = ++newest.current;
      setAsked({ value });
      // What holds is shown as soon as it has been drawn, unless something else was asked for since.
      const settle = () => window.setTimeout(() => newest.current === turn && setAsked(null));
      settling.then(settle, settle);
    },
  };
}
