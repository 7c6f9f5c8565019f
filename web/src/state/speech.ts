import { create } from "zustand";
import type { AnyFinding } from "@/state/proof";

/** Progress is said at most so often: every step would talk over the maker. */
const PROGRESS_MS = 5000;

/** What was last said to who hears the screen in place of seeing it. */
export const useSpeech = create<{ readonly said: string }>()(() => ({ said: "" }));

/** Says something once. A screen reader keeps silent at what stands there already, so the same words come a little different. */
export function say(text: string): void {
  if (!text) return;
  useSpeech.setState(({ said }) => ({ said: said === text ? `${text}\u00a0` : text }));
}

let progressAt = Number.NEGATIVE_INFINITY;

/** Says how far a work is, but for what was said of one a moment ago. */
export function sayProgress(text: string, now = performance.now()): void {
  if (now - progressAt < PROGRESS_MS) return;
  progressAt = now;
  say(text);
}

/** What is told now and was not before, in one sentence; null where there is nothing to say. Notes are left to the eye. */
export function newsOf(before: readonly AnyFinding[], after: readonly AnyFinding[]): string | null {
  const grave = (all: readonly AnyFinding[]) => all.filter((one) => one.severity !== "note");
  const left = new Map<string, number>();
  // A place moves with what is about it: of each kind only how many there are tells what is new.
  for (const one of grave(before)) left.set(kindOf(one), (left.get(kindOf(one)) ?? 0) + 1);
  const fresh = grave(after).filter((one) => {
    const known = left.get(kindOf(one)) ?? 0;
    left.set(kindOf(one), known - 1);
    return known <= 0;
  });
  const [first] = fresh;
  if (first) return fresh.length === 1 ? `New: ${first.text}` : `${fresh.length} new problems. ${first.text}`;
  return grave(before).length > 0 && grave(after).length === 0 ? "No problems are left." : null;
}

function kindOf(found: AnyFinding): string {
  return `${found.code} ${found.about ?? ""}`;
}
