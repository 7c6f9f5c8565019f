import { useEdit, useOpenDesign } from "@/state/design";

/** How many thin places of a film were put right under Proof, and the way back. */
export function RepairsLine({ film }: { film: string }) {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const count = recipe.films?.find((choice) => choice.film === film)?.repairs?.length ?? 0;
  if (count === 0) return null;
  return (
    <p className="mt-2 text-sm text-soft">
      {count === 1 ? "Thin places put right in 1 step. " : `Thin places put right in ${count} steps. `}
      <button type="button" className="quiet" onClick={() => edit({ kind: "let-repairs-go", film })}>
        Leave them as they were
      </button>
    </p>
  );
}
