import type { Art, Edit } from "@/api/client";
import { useEdit, useOpenDesign } from "@/state/design";
import { useTry } from "@/state/tries";

/** Changing one art: for good, or only shown while a control is handled. */
export function useArtChange<A extends Art>(art: A) {
  const edit = useEdit();
  const attempt = useTry();
  const changed = (changes: Partial<A>): Edit => ({ kind: "change-arts", arts: [{ ...art, ...changes }] });
  return {
    change: (changes: Partial<A>) => edit(changed(changes)),
    show: (changes: Partial<A>) => attempt(changed(changes)),
  };
}

/** The box of an art on the stack, mm. */
export function useArtBox(id: string) {
  const { built } = useOpenDesign();
  return built.arts.find((art) => art.id === id)?.box ?? { left: 0, top: 0, right: 0, bottom: 0 };
}
