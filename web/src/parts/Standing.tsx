import { standingText, useWaiting } from "@/api/waiting";

/** What is being done, or the place in the queue of what waits for its turn. */
export function useStanding(text: string): string {
  return standingText(
    useWaiting((waiting) => waiting.standing),
    text,
  );
}

export function Standing({ text }: { text: string }) {
  return useStanding(text);
}
