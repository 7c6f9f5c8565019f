import { showLength } from "@/lengths";
import { Choice } from "@/parts/Choice";
import { LengthField } from "@/parts/LengthField";
import { Notices } from "@/parts/Notices";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useView } from "@/state/view";

/** What was brought in, how large it becomes, and what it is made of. */
export function Art() {
  const { id, recipe, built } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const goTo = useView((view) => view.goTo);
  return (
    <div className="flex flex-col gap-5">
      <Notices notices={built.notices.filter((notice) => notice.code === "not-flat")} />
      <figure className="flex items-center gap-4">
        <img
          src={`/api/designs/${id}/picture`}
          alt="As it was brought in"
          className="h-28 w-28 rounded border border-line bg-table object-contain p-1"
        />
        <figcaption className="min-w-0">
          <span className="block font-semibold break-words">{recipe.art.filename || "Pasted picture"}</span>
          <span className="block text-soft">
            {built.flat
              ? built.lossy
                ? "Flat colours, softened by JPEG"
                : "Flat colours"
              : "Not made of flat colours"}
          </span>
        </figcaption>
      </figure>
      <div className="flex items-start gap-6">
        <LengthField
          label="Finished width"
          mm={recipe.art.width_mm as number}
          large
          onCommit={(width_mm) => edit({ kind: "resize", width_mm })}
        />
        <p>
          <span className="heading block">Height</span>
          <span className="measure block py-1 text-2xl">{showLength(built.height_mm, unit)}</span>
        </p>
      </div>
      <Choice
        label="Film"
        value={recipe.method}
        options={[
          { value: "adhesive", text: "Adhesive" },
          { value: "heat-transfer", text: "Heat-transfer" },
        ]}
        onChange={(method) => edit({ kind: "set-method", method })}
      />
      <p className="text-soft">
        {recipe.method === "heat-transfer"
          ? "Heat-transfer film is cut from its back, so its sheets are mirrored by themselves."
          : "Adhesive film is cut as it is seen, then gathered on transfer tape."}
      </p>
      <button type="button" className="act self-start" onClick={() => goTo("Colours")}>
        {built.colours.length} colours found: look at them
      </button>
    </div>
  );
}
