import { useEdit, useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

/** What is done with chosen art as a whole. */
export function useArtActs() {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const chooseArts = useView((view) => view.chooseArts);
  return {
    /** Deletes art; the last of a design stays. */
    async remove(ids: readonly string[]) {
      for (const art of ids.slice(0, recipe.arts.length - 1)) {
        if ((await edit({ kind: "remove-art", art })) === null) return;
      }
      chooseArts([]);
    },
    /** Duplicates art, a little to the side, and chooses what is new. */
    async copy(ids: readonly string[]) {
      const made: string[] = [];
      for (const art of ids) {
        const design = await edit({ kind: "copy-art", art, dx_mm: 5, dy_mm: 5 });
        const at = design?.recipe.arts.findIndex((one) => one.id === art) ?? -1;
        const copy = at < 0 ? undefined : design?.recipe.arts[at + 1];
        if (!copy) return;
        made.push(copy.id);
      }
      chooseArts(made);
    },
    all() {
      chooseArts(recipe.arts.map((art) => art.id));
    },
  };
}
