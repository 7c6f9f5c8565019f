import { create } from "zustand";

interface WorkState {
  /** Gives up what is being worked out for a change; null where nothing is. */
  stop: (() => void) | null;
}

/** What the maker waits for. */
export const useWork = create<WorkState>()(() => ({ stop: null }));

/** Does something that can be given up from the screen as long as it lasts. */
export async function stoppable<T>(work: (signal: AbortSignal) => Promise<T>): Promise<T> {
  const control = new AbortController();
  const stop = () => control.abort();
  useWork.setState({ stop });
  try {
    return await work(control.signal);
  } finally {
    if (useWork.getState().stop === stop) useWork.setState({ stop: null });
  }
}

/** Whether something ended because it was given up. */
export function wasStopped(fault: unknown): boolean {
  return fault instanceof DOMException && fault.name === "AbortError";
}
