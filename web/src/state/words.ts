import { useEffect, useRef } from "react";
import { create } from "zustand";
import type { Lettering } from "@/api/client";
import { useServer } from "@/api/server";
import { useEdit, useOpenDesign } from "@/state/design";
import { artEdit } from "@/state/moves";
import { useTry } from "@/state/useTry";

const REST_MS = 900;
const DRAWN_MS = 60;

interface Draft {
  readonly text: string;
  /** Whether it is on its way to be kept. */
  readonly sent: boolean;
}

interface Drafts {
  /** Words that are typed and not kept yet, by design and art: they outlive the field they were typed in. */
  readonly drafts: Readonly<Record<string, Draft>>;
  put(key: string, draft: Draft): void;
  drop(key: string): void;
}

export const useDrafts = create<Drafts>()((set) => ({
  drafts: {},
  put: (key, draft) => set(({ drafts }) => ({ drafts: { ...drafts, [key]: draft } })),
  drop: (key) =>
    set(({ drafts }) => {
      const { [key]: _, ...others } = drafts;
      return { drafts: others };
    }),
}));

/**
 * The words of a lettering as they are typed: shown on the stage with every stroke, kept when typing rests. What could not
 * be kept stays typed.
 */
export function useWords(art: Lettering) {
  const { id } = useOpenDesign();
  const edit = useEdit();
  const attempt = useTry();
  const key = `${id} ${art.id}`;
  const draft = useDrafts(({ drafts }) => drafts[key]?.text);
  const rest = useRef<number | undefined>(undefined);
  const change = (text: string) => artEdit<Lettering>(art.id, "lettering", { text });

  /** Keeps what is typed now; nothing but blanks is no lettering, and what was there comes back. */
  const keep = () => {
    window.clearTimeout(rest.current);
    const { drafts, put, drop } = useDrafts.getState();
    const own = drafts[key];
    if (!own || own.sent) return;
    const { text } = own;
    if (!text.trim() || text === art.text) return drop(key);
    put(key, { text, sent: true });
    void edit(change(text)).then((kept) => {
      // Typed on meanwhile, it is not yet kept.
      if (useDrafts.getState().drafts[key]?.text !== text) return;
      if (!kept) return put(key, { text, sent: false });
      // The design is drawn anew a moment after it has come: until then the field must not show the words before.
      window.setTimeout(() => useDrafts.getState().drafts[key]?.text === text && drop(key), DRAWN_MS);
    });
  };
  // Words that are still being typed are kept when their place is left.
  const leaving = useRef(keep);
  leaving.current = keep;
  useEffect(() => () => leaving.current(), []);
  // What could not be kept while the server was away is kept when it is back.
  const away = useServer((server) => server.away);
  useEffect(() => {
    if (!away) leaving.current();
  }, [away]);

  return {
    text: draft ?? art.text,
    keep,
    type(text: string) {
      useDrafts.getState().put(key, { text, sent: false });
      window.clearTimeout(rest.current);
      if (!text.trim()) return;
      attempt(change(text));
      rest.current = window.setTimeout(() => leaving.current(), REST_MS);
    },
  };
}
