import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { FoundPlace } from "@/api/client";
import { atRest, type Claiming, type Mending, type Mode, type Place, type Target } from "@/state/mode";
import type { Slip } from "@/state/proof";

export const LENSES = ["Finished", "Cut lines", "Narrow", "Thickness", "Exploded", "Differences"] as const;
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

/** A step that the decal as it is now is held against, and what it is called. */
export interface Step {
  readonly revision: number;
  readonly label: string;
}

/** What is chosen and put out of sight in one design. */
export interface Looked {
  /** The film whose row is open, by its key. */
  readonly film: string | null;
  /** The art that is chosen, by id. */
  readonly arts: readonly string[];
  /** Letters chosen in the one chosen lettering, by their place in the text. */
  readonly letters: readonly number[];
  /** Films that are put out of sight, by their keys. */
  readonly hidden: readonly string[];
  /** Whether only the traced edges are drawn on the original, as while a threshold is set. */
  readonly edges: boolean;
  /** The small pieces or gaps of a film that are ringed on the stage, and the one that is looked at. */
  readonly pieces: Ringed | null;
  /** Which of the regions that wait for a film is looked at. */
  readonly waitingAt: number | null;
  /** A film that is held off its place. */
  readonly slip: Slip | null;
  /** The place of a finding that is shown, once for every time it is asked for. */
  readonly shown: { readonly place: FoundPlace } | null;
  /** The step that it is held against. */
  readonly since: Step | null;
  /** The width that was asked for, mm, while it is open whether joints and shadows keep their lengths. */
  readonly widthAsked: number | null;
}

const AFRESH: Looked = {
  film: null,
  arts: [],
  letters: [],
  hidden: [],
  edges: false,
  pieces: null,
  waitingAt: null,
  slip: null,
  shown: null,
  since: null,
  widthAsked: null,
};

interface ViewState extends Looked {
  /** The design that is open. */
  design: string | null;
  /** How other designs were left, by their ids. */
  left: Readonly<Record<string, Looked>>;
  /** At which place each design was left, the latest last. */
  places: Readonly<Record<string, Place>>;
  place: Place;
  lens: Lens;
  /** Whether the panel beside the stage is folded away. */
  folded: boolean;
  /** How much of the original lies over the decal, 0 to 1. */
  original: number;
  reference: Reference;
  /** Whether a loupe shows original and result round the pointer. */
  loupe: boolean;
  /** Whether the nodes are shown at which the blade turns. */
  nodes: boolean;
  mode: Mode;
  /** Regions just claimed, shown at once until the answer comes. */
  pending: { readonly art: string; readonly regions: readonly number[]; readonly target: Target } | null;
  goTo(place: Place): void;
  look(lens: Lens): void;
  fold(folded: boolean): void;
  fade(original: number): void;
  refer(reference: Reference): void;
  magnify(loupe: boolean): void;
  showNodes(nodes: boolean): void;
  /** Opens a design: as it was left, or afresh. */
  enter(design: string): void;
  /** Opens a design that was just made, at a place, with art of it chosen. */
  begin(design: string, place: Place, arts: readonly string[]): void;
  choose(film: string | null): void;
  chooseArts(arts: readonly string[]): void;
  chooseLetters(letters: readonly number[]): void;
  hide(film: string): void;
  showAll(): void;
  show(place: FoundPlace | null): void;
  compareWith(since: Step | null): void;
  askWidth(mm: number | null): void;
  showEdges(edges: boolean): void;
  ring(pieces: Ringed | null): void;
  slipTo(slip: Slip | null): void;
  stepTo(waitingAt: number | null): void;
  /** Takes up a mode. */
  take(mode: Mode): void;
  /** Changes what the mode that is taken up does. */
  adjust(changes: Partial<Omit<Claiming, "kind">> | Partial<Omit<Mending, "kind">>): void;
  /** Picks a colour, or takes it back if it was picked. */
  pickOne(colour: string): void;
  putDown(): void;
  /** Begins to write in a lettering, wherever one is. */
  write(art: string, at: { readonly x: number; readonly y: number } | null): void;
  wait(pending: ViewState["pending"]): void;
}

/** What is looked at and held in the hand; nothing of it is part of the design. */
export const useView = create<ViewState>()(
  persist(
    (set) => ({
      ...AFRESH,
      design: null,
      left: {},
      places: {},
      place: "Art",
      lens: "Finished",
      folded: false,
      original: 0,
      reference: "over",
      loupe: false,
      nodes: false,
      mode: atRest("Art"),
      pending: null,
      goTo: (place) =>
        set((now) =>
          now.place === place
            ? now
            : { place, places: leftAt(now, place), mode: atRest(place), pieces: null, pending: null, slip: null },
        ),
      look: (lens) => set({ lens }),
      fold: (folded) => set({ folded }),
      fade: (original) => set({ original }),
      refer: (reference) => set({ reference }),
      magnify: (loupe) => set({ loupe }),
      showNodes: (nodes) => set({ nodes }),
      enter: (design) => set((now) => (now.design === design ? now : entered(now, design))),
      begin: (design, place, arts) =>
        set((now) => ({
          ...entered(now, design),
          ...AFRESH,
          ...{ arts, place, places: leftAt({ ...now, design }, place), mode: atRest(place) },
          ...PLAIN,
        })),
      choose: (film) => set((now) => ({ film, pieces: null, ...(now.mode.kind === "holing" && rested(now)) })),
      chooseArts: (arts) => set({ arts, letters: [], waitingAt: null }),
      chooseLetters: (letters) => set({ letters }),
      askWidth: (widthAsked) => set({ widthAsked }),
      hide: (film) => set(({ hidden }) => ({ hidden: toggled(hidden, film) })),
      showAll: () => set({ hidden: [] }),
      // Where it is can only be shown on the decal lying flat.
      show: (found) =>
        set((now) => ({
          shown: found && { place: found },
          ...onTheTable(now),
        })),
      compareWith: (since) => set((now) => ({ since, ...(since && onTheTable(now)) })),
      showEdges: (edges) => set({ edges }),
      ring: (pieces) => set({ pieces }),
      slipTo: (slip) => set({ slip }),
      stepTo: (waitingAt) => set({ waitingAt }),
      take: (mode) => set({ mode, pending: null, slip: null }),
      adjust: (changes) =>
        set(({ mode }) =>
          mode.kind === "claiming" || mode.kind === "mending" ? { mode: { ...mode, ...changes } as Mode } : {},
        ),
      pickOne: (colour) =>
        set(({ mode }) => (mode.kind === "picking" ? { mode: { ...mode, picks: toggled(mode.picks, colour) } } : {})),
      putDown: () => set(rested),
      write: (art, at) =>
        set({
          place: "Art",
          arts: [art],
          letters: [],
          pieces: null,
          pending: null,
          mode: { kind: "writing", art, at },
        }),
      wait: (pending) => set({ pending }),
    }),
    {
      name: "gladstack-view",
      partialize: ({ place, places, lens, folded }) => ({ place, places, lens, folded }),
      merge,
    },
  ),
);

/** How a design that was just made is first looked at. */
const PLAIN = { lens: "Finished", original: 0 } as const;

const MOST_LEFT = 200;

/** What lies flat on the light table, from wherever it is asked for. */
function onTheTable({ lens, place }: Pick<ViewState, "lens" | "place">): Partial<ViewState> {
  return {
    lens: lens === "Exploded" ? "Finished" : lens,
    ...((place === "Sheets" || place === "Cut") && { place: "Proof", mode: atRest("Proof") }),
  };
}

function leftAt({ design, places }: Pick<ViewState, "design" | "places">, place: Place) {
  if (design === null) return places;
  const others = Object.entries(places).filter(([id]) => id !== design);
  return Object.fromEntries([...others.slice(1 - MOST_LEFT), [design, place]]);
}

function rested({ place }: Pick<ViewState, "place">): Pick<ViewState, "mode" | "pending" | "slip"> {
  return { mode: atRest(place), pending: null, slip: null };
}

function toggled(all: readonly string[], one: string): readonly string[] {
  return all.includes(one) ? all.filter((other) => other !== one) : [...all, one];
}

function entered(now: ViewState, design: string) {
  const { film, arts, letters, hidden, edges, widthAsked } = now;
  const own: Looked = { ...AFRESH, film, arts, letters, hidden, edges, widthAsked };
  const left = now.design === null ? now.left : { ...now.left, [now.design]: own };
  const place = now.places[design] ?? now.place;
  return { ...(left[design] ?? AFRESH), design, left, place, ...rested({ place }) };
}

/** What was stored, with the mode that belongs to its place. */
function merge(stored: unknown, now: ViewState): ViewState {
  const all = { ...now, ...(stored as Partial<ViewState>) };
  return { ...all, mode: atRest(all.place) };
}
