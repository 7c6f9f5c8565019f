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
  /** The film whose row is open, by its colour. */
  film: string | null;
  picking: boolean;
  goTo(place: Place): void;
  look(lens: Lens): void;
  fade(original: number): void;
  choose(film: string | null): void;
  pick(picking: boolean): void;
}

/** What is looked at; nothing of it is part of the design. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      place: "Art",
      lens: "Finished",
      original: 0,
      film: null,
      picking: false,
      goTo: (place) => set({ place, picking: false }),
      look: (lens) => set({ lens }),
      fade: (original) => set({ original }),
      choose: (film) => set({ film }),
      pick: (picking) => set({ picking }),
    }),
    { name: "gladstack-view", partialize: ({ place, lens }) => ({ place, lens }) },
  ),
);
