import { useEffect, useRef } from "react";
import { create } from "zustand";
import type { Lettering } from "@/api/client";
import { useEdit, useOpenDesign } from "@/state/design";
import { artEdit } from "@/state/moves";
import { useTry } from "@/state/useTry";

const REST_MS = 900;

interface Drafts {
  /** Words that are typed and not kept yet, by design and art: they outlive the field they were typed in. */
  readonly texts: Readonly<Record<string, string>>;
  put(key: string, text: string): void;
  drop(key: string): void;
}

export const useDrafts = create<Drafts>()((set) => ({
  texts: {},
  put: (key, text) => set(({ texts }) => ({ texts: { ...texts, [key]: text } })),
  drop: (key) =>
    set(({ texts }) => {
      const { [key]: _, ...others } = texts;
      return { texts: others };
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
  const draft = useDrafts((drafts) => drafts.texts[key]);
  const rest = useRef<number | undefined>(undefined);
  const change = (text: string) => artEdit<Lettering>(art.id, "lettering", { text });

  /** Keeps what is typed now; nothing but blanks is no lettering, and what was there comes back. */
  const keep = () => {
    window.clearTimeout(rest.current);
    const { texts, drop } = useDrafts.getState();
    const text = texts[key];
    if (text === undefined) return;
    if (!text.trim() || text === art.text) return drop(key);
    void edit(change(text)).then((kept) => {
      // Typed on meanwhile, it is not yet kept.
      if (kept && useDrafts.getState().texts[key] === text) drop(key);
    });
  };
  // Words that are still being typed are kept when their place is left.
  const leaving = useRef(keep);
  leaving.current = keep;
  useEffect(() => () => leaving.current(), []);

  return {
    text: draft ?? art.text,
    keep,
    type(text: string) {
      useDrafts.getState().put(key, text);
      window.clearTimeout(rest.current);
      if (!text.trim()) return;
      attempt(change(text));
      rest.current = window.setTimeout(() => leaving.current(), REST_MS);
    },
  };
}
