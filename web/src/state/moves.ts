import type { Answer, Art, Box, Edit } from "@/api/client";
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

/** The box of an art on the stack, mm, as last built. */
export function boxIn({ built }: Pick<Answer, "built">, id: string): Box {
  return built?.arts.find((art) => art.id === id)?.box ?? { left: 0, top: 0, right: 0, bottom: 0 };
}

/** A made edit as it comes out for a design. */
export function settled(made: MadeEdit, design: Answer): Edit | null {
  return typeof made === "function" ? made(design) : made;
}
