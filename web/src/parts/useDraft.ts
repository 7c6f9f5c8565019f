import { type SyntheticEvent, useEffect, useId, useLayoutEffect, useRef, useState } from "react";
import { forgetTold, lastTold, takeTold } from "@/state/design";

/**
 * What is being typed into a field that shows `shown`: it stays until it is answered, whatever else is answered meanwhile.
 * What was refused stays to be mended, and what was sent once is not sent again. `beside` says that the field shows why.
 */
export function useDraft(shown: string, beside = true) {
  const [typed, setTyped] = useState<string | null>(null);
  const why = useId();
  const [refused, setRefused] = useState<string | null>(null);
  const [pending, setPending] = useState(false);
  const newest = useRef<string | null>(null);
  const sent = useRef<string | null>(null);
  const there = useRef(false);
  useEffect(() => {
    there.current = true;
    return () => {
      there.current = false;
    };
  }, []);
  const draft = typed ?? shown;
  const box = useRef<HTMLInputElement>(null);
  const wholeChosen = useRef(false);
  // Another text that comes in while all of a field is chosen, to be typed over, would be added to.
  useLayoutEffect(() => {
    if (wholeChosen.current && draft !== newest.current && box.current === document.activeElement)
      box.current?.select();
  }, [draft]);
  const type = (text: string | null) => {
    if (text !== null) wholeChosen.current = false;
    newest.current = text;
    setRefused(null);
    setTyped(text);
  };
  return {
    draft,
    /** Why what was typed was refused, as long as it stands; and what its field says of itself then. */
    refused,
    field: {
      ref: box,
      onSelect: ({ currentTarget: at }: SyntheticEvent<HTMLInputElement>) => {
        wholeChosen.current = at.value !== "" && at.selectionStart === 0 && at.selectionEnd === at.value.length;
      },
      "aria-invalid": refused !== null || undefined,
      "aria-describedby": refused === null ? undefined : why,
      "aria-busy": pending || undefined,
    },
    why,
    /** Whether this was sent and is not answered yet. */
    isSent: (text: string) => text === sent.current,
    type,
    /** Sends what was typed, once; a failure leaves it as it is. */
    commit(text: string, send: (text: string) => unknown) {
      if (text === sent.current) return;
      sent.current = text;
      type(text);
      forgetTold();
      setPending(true);
      void Promise.resolve(send(text)).then((done) => {
        if (sent.current !== text) return;
        sent.current = null;
        setPending(false);
        if (done === null && newest.current === text)
          // A field whose place was left meanwhile shows nothing any more.
          setRefused((beside && there.current ? takeTold() : lastTold()) ?? "This cannot be taken.");
        // What holds is shown as soon as it has been drawn, unless something else was typed since.
        if (done !== null) window.setTimeout(() => newest.current === text && type(null));
      });
    },
    /** Shows again what holds. */
    reset() {
      sent.current = null;
      setPending(false);
      type(null);
    },
  };
}
