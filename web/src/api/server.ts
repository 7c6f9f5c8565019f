import { create } from "zustand";

interface ServerState {
  /** Whether the app's own server has left the last request unanswered. */
  away: boolean;
  /** Whether it asks for its token before it shows anything. */
  locked: boolean;
  heard(away: boolean): void;
  lock(locked: boolean): void;
}

/** What is known of the server: told by every answer, or by there being none. */
export const useServer = create<ServerState>()((set) => ({
  away: false,
  locked: false,
  heard: (away) => set((now) => (now.away === away ? now : { away })),
  lock: (locked) => set({ locked }),
}));
