import { Choice } from "@/parts/Choice";
import { useEdit, useOpenDesign } from "@/state/design";

/** Whether the design is cut from adhesive or from heat-transfer film. */
export function MethodField() {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  return (
    <section className="mt-4 border-t border-line pt-3">
      <Choice
        label="Kind of film"
        value={recipe.method}
        options={[
          { value: "adhesive", text: "Adhesive" },
          { value: "heat-transfer", text: "Heat-transfer" },
        ]}
        onChange={(method) => edit({ kind: "set-method", method })}
      />
      <p className="mt-1 text-sm text-soft">
        {recipe.method === "heat-transfer"
          ? "Cut from its back: its sheets are mirrored by themselves."
          : "Cut as it is seen, then laid with transfer tape."}
      </p>
    </section>
  );
}
