import { create } from "zustand";

/** A request that waits: how many are done before it, and how many of its steps are done, if it has any. */
export interface Standing {
  before: number;
  done: number;
  of: number;
}

interface WaitingState {
  /** How the request stands that was sent last of those that take long; null where none does. */
  standing: Standing | null;
}

const PATIENCE_MS = 1000;
const ASK_MS = 700;

export const useWaiting = create<WaitingState>()(() => ({ standing: null }));

const followed = new Map<string, number>();
let shown: string | null = null;

/** A name for a request, by which it can be asked after. */
export function newTicket(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Asks after a request from time to time, as soon as it takes long. */
export function follow(ticket: string): void {
  followed.set(
    ticket,
    window.setTimeout(() => ask(ticket), PATIENCE_MS),
  );
}

/** Says that a request has its answer, or is given up. */
export function unfollow(ticket: string): void {
  window.clearTimeout(followed.get(ticket));
  followed.delete(ticket);
  if (shown !== ticket) return;
  shown = null;
  useWaiting.setState({ standing: null });
}

async function ask(ticket: string): Promise<void> {
  const standing = await fetch(`/api/waiting/${ticket}`)
    .then((answer) => (answer.ok ? (answer.json() as Promise<Standing | null>) : null))
    .catch(() => null);
  if (!followed.has(ticket)) return;
  if (standing) {
    shown = ticket;
    useWaiting.setState({ standing });
  }
  followed.set(
    ticket,
    window.setTimeout(() => ask(ticket), ASK_MS),
  );
}

/** How a request stands in words; without anything to tell, the words given. */
export function standingText(standing: Standing | null, plain: string): string {
  if (standing && standing.of > 0) return `${plain} ${standing.done} of ${standing.of} built`;
  if (standing && standing.before > 0) return `Waiting for its turn, ${standing.before} before it`;
  return plain;
}
