import { UseChoice } from "@/parts/UseChoice";
import { useEdit, useOpenDesign } from "@/state/design";

/** What the decal is for: its films are mirrored, offered and put together by that. */
export function UseField() {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  return (
    <section className="mt-4 border-t border-line pt-3">
      <UseChoice value={recipe.use} onChange={(use) => edit({ kind: "set-use", use })} hint />
    </section>
  );
}
