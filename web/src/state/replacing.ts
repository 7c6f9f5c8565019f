import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { type Laid, lookAtReplacing, type Replacing } from "@/api/sources";

interface ReplacingStore {
  /** The art that is to be made of another file, and that file. */
  asked: { design: string; art: string; file: File } | null;
  ask(design: string, art: string, file: File): void;
  end(): void;
}

export const useReplacing = create<ReplacingStore>((set) => ({
  asked: null,
  ask: (design, art, file) => set({ asked: { design, art, file } }),
  end: () => set({ asked: null }),
}));

/** What an art would be from another file, as it lies best or as it was laid by hand. */
export function useLookAtReplacing(design: string, revision: number, art: string, file: File, laid: Laid | null) {
  return useQuery({
    queryKey: ["replacing", design, revision, art, file.name, file.size, file.lastModified, laid],
    queryFn: ({ signal }) => lookAtReplacing(design, art, revision, file, laid, signal),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });
}

/** Where the middle of a file's page comes to lie, as far down as it is wide; in mm of the art it replaces. */
export function middleOf(look: Replacing, laid: Laid): { x: number; y: number } {
  const half = look.edit.new_width_mm / 2;
  const turn = (laid.turn_deg * Math.PI) / 180;
  const [cos, sin] = [laid.scale * Math.cos(turn), laid.scale * Math.sin(turn)];
  return { x: (cos - sin) * half + laid.x_mm, y: (sin + cos) * half + laid.y_mm };
}

/** How a file lies once it is made larger and turned about its own middle, then moved. */
export function relaid(look: Replacing, by: { scale?: number; turn_deg?: number; x_mm?: number; y_mm?: number }): Laid {
  const { laid } = look.edit;
  const next = { ...laid, scale: by.scale ?? laid.scale, turn_deg: by.turn_deg ?? laid.turn_deg };
  const [before, after] = [middleOf(look, laid), middleOf(look, next)];
  return {
    ...next,
    x_mm: laid.x_mm + before.x - after.x + (by.x_mm ?? 0),
    y_mm: laid.y_mm + before.y - after.y + (by.y_mm ?? 0),
  };
}
