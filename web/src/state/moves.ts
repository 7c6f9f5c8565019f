import type { Answer, Art, Box, Edit, Lettering } from "@/api/client";
import { moveInArt } from "@/geometry/place";
import type { MadeEdit } from "@/state/design";

/** An art as an edit takes it: its lengths may be told as they were typed. */
export type Taken<A extends Art> = Extract<Extract<Edit, { kind: "change-arts" }>["arts"][number], { kind: A["kind"] }>;
/** What is changed of an art: single fields, or fields that follow from what the art is when the change is sent. */
export type Changes<A extends Art> = Partial<Taken<A>> | ((art: A) => Partial<Taken<A>>);

/** The edit that changes one art, whatever else of it was changed meanwhile. */
export function artEdit<A extends Art>(id: string, kind: A["kind"], changes: Changes<A>): MadeEdit {
  return ({ recipe }) => {
    const now = recipe.arts.find((candidate): candidate is A => candidate.id === id && candidate.kind === kind);
    if (!now) return null;
    const changed = { ...now, ...(typeof changes === "function" ? changes(now) : changes) };
    return { kind: "change-arts", arts: [changed as unknown as Taken<A>] };
  };
}

/** The edit that moves pieces of art, each by its own mm, from wherever they lie when it is sent. */
export function movedBy(ids: readonly string[], by: readonly { x: number; y: number }[]): MadeEdit {
  return ({ recipe }) => {
    const arts = recipe.arts.flatMap((art) => {
      const at = ids.indexOf(art.id);
      const step = by[at] ?? by[0];
      if (at < 0 || !step) return [];
      return [{ ...art, place: { ...art.place, x_mm: art.place.x_mm + step.x, y_mm: art.place.y_mm + step.y } }];
    });
    return arts.length > 0 ? { kind: "change-arts", arts } : null;
  };
}

/** The edit that moves single letters of a lettering, by so many mm of the stack. */
export function lettersMovedBy(id: string, indices: readonly number[], by: { x: number; y: number }): MadeEdit {
  return artEdit<Lettering>(id, "lettering", ({ letters = [], place }) => {
    const own = moveInArt(place, by);
    const moved = indices.map((index) => {
      const now = letters.find((t) => t.index === index) ?? { index, dx_mm: 0, dy_mm: 0, turn_deg: 0, scale: 1 };
      return { ...now, dx_mm: Number((now.dx_mm + own.x).toFixed(3)), dy_mm: Number((now.dy_mm + own.y).toFixed(3)) };
    });
    return { letters: [...letters.filter((t) => !indices.includes(t.index)), ...moved] };
  });
}

/** The box of an art on the stack, mm, as last built. */
export function boxIn({ built }: Pick<Answer, "built">, id: string): Box {
  return built?.arts.find((art) => art.id === id)?.box ?? { left: 0, top: 0, right: 0, bottom: 0 };
}

/** The left or top edge of the decal without an art, mm: what its place is told from, and stays there while it moves. */
export function edgeOf({ built }: Pick<Answer, "built">, id: string, side: "left" | "top"): number {
  if (!built) return 0;
  const own = boxIn({ built }, id)[side];
  // The art may be what makes the edge: then the next one counts.
  if (own > built.box[side] + 1e-3) return built.box[side];
  const others = built.arts.filter((art) => art.id !== id).map((art) => art.box[side]);
  return others.length > 0 ? Math.min(...others) : built.box[side];
}

/** A made edit as it comes out for a design. */
export function settled(made: MadeEdit, design: Answer): Edit | null {
  return typeof made === "function" ? made(design) : made;
}
