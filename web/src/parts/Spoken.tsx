import { useEffect, useRef, useState } from "react";
import { useOpenDesign } from "@/state/design";
import { type AnyFinding, useProof, useTold } from "@/state/proof";
import { newsOf, say, sayProgress, useSpeech } from "@/state/speech";

/** The one line that is read out: news, and now and then how far a work is. */
export function Spoken() {
  const said = useSpeech((speech) => speech.said);
  return (
    <p role="status" className="sr-only">
      {said}
    </p>
  );
}

/** Says how far a work is while it lasts, if it lasts, and how it ended. */
export function useSpokenWork(long: boolean, how: string, ended: string): void {
  const was = useRef(false);
  useEffect(() => {
    if (long) sayProgress(how);
    else if (was.current) say(ended);
    was.current = long;
  }, [long, how, ended]);
}

/** Says what is new of what is told of the open design, once that has been proved. */
export function useSpokenFindings(): void {
  const { id } = useOpenDesign();
  const told = useTold();
  const { settled } = useProof();
  const was = useRef<{ id: string; told: readonly AnyFinding[] } | null>(null);
  useEffect(() => {
    if (!settled) return;
    const news = was.current?.id === id ? newsOf(was.current.told, told) : null;
    was.current = { id, told };
    if (news) say(news);
  }, [id, told, settled]);
}

const PATIENCE_MS = 400;

/** Whether something has gone on for more than a moment. */
export function useIsLong(working: boolean): boolean {
  const [long, setLong] = useState(false);
  useEffect(() => {
    setLong(false);
    if (!working) return;
    const wait = window.setTimeout(() => setLong(true), PATIENCE_MS);
    return () => window.clearTimeout(wait);
  }, [working]);
  return long;
}
