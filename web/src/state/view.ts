import { create } from "zustand";
import { persist } from "zustand/middleware";

export const PLACES = ["Art", "Colours", "Stack", "Sheets", "Cut"] as const;
export type Place = (typeof PLACES)[number];

export const LENSES = ["Finished", "Cut lines", "Exploded"] as const;
export type Lens = (typeof LENSES)[number];

interface ViewState {
  place: Place;
  lens: Lens;
  /** How much of the original lies over the decal, 0 to 1. */
  original: number;
  /** The film whose row is open, by its key. */
  film: string | null;
  /** The art that is chosen, by id. */
  arts: string[];
  /** Letters chosen in the one chosen lettering, by their place in the text. */
  letters: number[];
  picking: boolean;
  /** The outline shadow whose holes are filled by clicking, by id. */
  holing: string | null;
  /** The vector art whose regions are claimed by clicking, and the film they go to (null: they stay open). */
  claiming: { art: string; film: string | null } | null;
  /** Which of the regions that wait for a film is looked at. */
  waitingAt: number | null;
  goTo(place: Place): void;
  look(lens: Lens): void;
  fade(original: number): void;
  choose(film: string | null): void;
  pick(picking: boolean): void;
  hole(making: string | null): void;
  stepTo(waitingAt: number | null): void;
  claim(claiming: { art: string; film: string | null } | null): void;
  chooseArts(arts: string[]): void;
  chooseLetters(letters: number[]): void;
}

/** What is looked at; nothing of it is part of the design. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      place: "Art",
      lens: "Finished",
      original: 0,
      film: null,
      arts: [],
      letters: [],
      picking: false,
      holing: null,
      claiming: null,
      waitingAt: null,
      goTo: (place) => set({ place, picking: false, holing: null, claiming: null }),
      look: (lens) => set({ lens }),
      fade: (original) => set({ original }),
      choose: (film) => set({ film, holing: null }),
      pick: (picking) => set({ picking }),
      hole: (holing) => set({ holing }),
      claim: (claiming) => set({ claiming, waitingAt: null }),
      stepTo: (waitingAt) => set({ waitingAt }),
      chooseArts: (arts) => set({ arts, letters: [], claiming: null, waitingAt: null }),
      chooseLetters: (letters) => set({ letters }),
    }),
    { name: "gladstack-view", partialize: ({ place, lens }) => ({ place, lens }) },
  ),
);
