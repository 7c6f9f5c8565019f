import { create } from "zustand";
import type { Becomes, MendKind, Under } from "@/api/client";

/** Which other regions are taken along with the one that is pointed at. */
export const REACHES = ["one", "colour", "size", "outline", "depth"] as const;
export type Reach = (typeof REACHES)[number];
/** How regions, or an area, are taken: touched, or gone round by a box or a lasso. */
export type Gesture = "touch" | "box" | "lasso";
/** What a region is to be: a film's, or something without one. */
export type Target = { film: string } | { film: null; becomes: Exclude<Becomes, "film"> };

export interface ClaimTool {
  readonly kind: "claim";
  readonly art: string;
  readonly target: Target;
  readonly reach: Reach;
  readonly by: Gesture;
  readonly under: Under;
  /** How near in size regions of the same size are: a share of the one pointed at. */
  readonly near: number;
}

export type DrawnMend = Exclude<MendKind, "let-go">;

export interface MendTool {
  readonly kind: "mend";
  readonly art: string;
  readonly step: DrawnMend;
  /** The film that is mended; null for all, or for the one that is pointed at. */
  readonly film: string | null;
  readonly by: "box" | "lasso";
  /** Width of the brush or bridge, reach of the smoothing, or how far an edge is pushed; null for the proposed one. */
  readonly mm: number | null;
  readonly mode: "add" | "take";
  readonly follow: boolean;
  /** Which neighbour takes over; null for all of them together. */
  readonly into: string | null;
}

export type Tool = ClaimTool | MendTool;

interface ToolState {
  /** What a pointer on the stage does instead of moving art or the table. */
  tool: Tool | null;
  /** Regions just claimed, shown at once until the answer comes. */
  pending: { art: string; regions: readonly number[]; target: Target } | null;
  take(tool: Tool | null): void;
  change(changes: Partial<ClaimTool> | Partial<MendTool>): void;
  wait(pending: ToolState["pending"]): void;
}

export const useTools = create<ToolState>()((set) => ({
  tool: null,
  pending: null,
  take: (tool) => set({ tool }),
  change: (changes) => set((now) => ({ tool: now.tool && ({ ...now.tool, ...changes } as Tool) })),
  wait: (pending) => set({ pending }),
}));
