import { useRef, useState } from "react";

/**
 * What is being typed into a field that shows `shown`. An answer takes its place only where nothing was typed since; what
 * was refused stays to be mended, and what was sent once is not sent again.
 */
export function useDraft(shown: string) {
  const [draft, setDraft] = useState(shown);
  const [seen, setSeen] = useState(shown);
  const sent = useRef<string | null>(null);
  if (seen !== shown) {
    if (draft === seen || draft === sent.current) setDraft(shown);
    sent.current = null;
    setSeen(shown);
  }
  return {
    draft,
    /** Whether this was sent and is not answered yet. */
    isSent: (text: string) => text === sent.current,
    type: setDraft,
    /** Sends what was typed, once; a failure leaves it as it is. */
    commit(text: string, send: (text: string) => unknown) {
      if (text === sent.current) return;
      sent.current = text;
      setDraft(text);
      void Promise.resolve(send(text)).then((done) => {
        if (done === null && sent.current === text) sent.current = null;
      });
    },
    /** Shows again what holds. */
    reset() {
      sent.current = null;
      setDraft(shown);
    },
  };
}
