import type { Art, Box } from "@/api/client";
import { useEdit, useOpenDesign } from "@/state/design";
import { artEdit, boxIn, type Changes } from "@/state/moves";
import { useTry } from "@/state/useTry";

/** Changing one art: for good, or only shown while a control is handled. */
export function useArtChange<A extends Art>(art: A) {
  const edit = useEdit();
  const attempt = useTry();
  return {
    change: (changes: Changes<A>) => edit(artEdit<A>(art.id, art.kind, changes)),
    show: (changes: Changes<A>) => attempt(artEdit<A>(art.id, art.kind, changes)),
  };
}

export function useArtBox(id: string): Box {
  return boxIn(useOpenDesign(), id);
}
