import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { FoundPlace } from "@/api/client";

export const PLACES = ["Art", "Colours", "Stack", "Sheets", "Cut"] as const;
export type Place = (typeof PLACES)[number];

export const LENSES = ["Finished", "Cut lines", "Exploded", "Differences"] as const;
export type Lens = (typeof LENSES)[number];

/** Where the original is shown: over the result, under it, or beside it. */
export const REFERENCES = ["over", "under", "beside"] as const;
export type Reference = (typeof REFERENCES)[number];

/** Small pieces below an area, or gaps up to a width, of one film. */
export interface Ringed {
  readonly film: string;
  readonly of: "small" | "gaps";
  readonly limit: number;
  readonly at: number | null;
}

interface ViewState {
  /** The design that all this is about. */
  design: string | null;
  place: Place;
  lens: Lens;
  /** Whether the panel beside the stage is folded away. */
  folded: boolean;
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
  /** Films that are put out of sight, by their keys. */
  hidden: string[];
  /** Where the original is shown against the result. */
  reference: Reference;
  /** Whether a loupe shows original and result round the pointer. */
  loupe: boolean;
  /** Whether the nodes are shown at which the blade turns. */
  nodes: boolean;
  /** Whether only the traced edges are drawn on the original, as while a threshold is set. */
  edges: boolean;
  /** Colours picked from a picture that are to be its whole palette. */
  picks: string[];
  /** The small pieces or gaps of a film that are ringed on the stage, and the one that is looked at. */
  pieces: Ringed | null;
  /** Which of the regions that wait for a film is looked at. */
  waitingAt: number | null;
  /** The place of a finding that is shown, once for every time it is asked for. */
  shown: { place: FoundPlace } | null;
  goTo(place: Place): void;
  look(lens: Lens): void;
  fold(folded: boolean): void;
  fade(original: number): void;
  choose(film: string | null): void;
  pick(picking: boolean): void;
  gather(picks: string[]): void;
  /** Picks a colour, or takes it back if it was picked. */
  pickOne(colour: string): void;
  ring(pieces: Ringed | null): void;
  hole(making: string | null): void;
  stepTo(waitingAt: number | null): void;
  /** Forgets what belonged to the design that was open, if this is another one. */
  enter(design: string): void;
  hide(film: string): void;
  showAll(): void;
  show(place: FoundPlace | null): void;
  refer(reference: Reference): void;
  magnify(loupe: boolean): void;
  showNodes(nodes: boolean): void;
  showEdges(edges: boolean): void;
  chooseArts(arts: string[]): void;
  chooseLetters(letters: number[]): void;
}

/** What is looked at; nothing of it is part of the design. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      design: null,
      place: "Art",
      lens: "Finished",
      folded: false,
      original: 0,
      film: null,
      arts: [],
      letters: [],
      picking: false,
      holing: null,
      hidden: [],
      reference: "over",
      loupe: false,
      nodes: false,
      edges: false,
      picks: [],
      pieces: null,
      waitingAt: null,
      shown: null,
      goTo: (place) => set({ place, picking: false, picks: [], holing: null, pieces: null }),
      look: (lens) => set({ lens }),
      fold: (folded) => set({ folded }),
      fade: (original) => set({ original }),
      choose: (film) => set({ film, holing: null, pieces: null }),
      pick: (picking) => set({ picking, picks: [] }),
      gather: (picks) => set({ picks }),
      pickOne: (colour) =>
        set(({ picks }) => ({
          picks: picks.includes(colour) ? picks.filter((other) => other !== colour) : [...picks, colour],
        })),
      ring: (pieces) => set({ pieces }),
      hole: (holing) => set({ holing }),
      enter: (design) =>
        set((now) =>
          now.design === design
            ? now
            : {
                design,
                picking: false,
                picks: [],
                pieces: null,
                film: null,
                arts: [],
                letters: [],
                holing: null,
                waitingAt: null,
                shown: null,
                hidden: [],
                edges: false,
              },
        ),
      hide: (film) =>
        set((now) => ({
          hidden: now.hidden.includes(film) ? now.hidden.filter((k) => k !== film) : [...now.hidden, film],
        })),
      showAll: () => set({ hidden: [] }),
      // Where it is can only be shown on the decal lying flat.
      show: (found) =>
        set((now) => ({
          shown: found && { place: found },
          place: now.place === "Sheets" ? "Stack" : now.place,
          lens: now.lens === "Exploded" ? "Finished" : now.lens,
        })),
      refer: (reference) => set({ reference }),
      magnify: (loupe) => set({ loupe }),
      showNodes: (nodes) => set({ nodes }),
      showEdges: (edges) => set({ edges }),
      stepTo: (waitingAt) => set({ waitingAt }),
      chooseArts: (arts) => set({ arts, letters: [], waitingAt: null }),
      chooseLetters: (letters) => set({ letters }),
    }),
    { name: "gladstack-view", partialize: ({ place, lens, folded }) => ({ place, lens, folded }) },
  ),
);
