import { ColourInput } from "@/parts/ColourInput";
import { Panel } from "@/parts/Panel";
import { useEdit, useOpenDesign } from "@/state/design";
import { GROUNDS } from "@/state/grounds";

/** What the decal is shown on. */
export function GroundField() {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const ground = recipe.ground ?? { kind: "table" as const, colour: "#fbfaf7" };
  const named = GROUNDS.find((g) => g.kind === ground.kind)?.text ?? ground.kind;
  return (
    <Panel label={`Ground: ${named}`} trigger={named} triggerClass="act text-sm">
      <p className="mb-2 font-semibold">What is decorated</p>
      <div className="grid grid-cols-2 gap-1">
        {GROUNDS.map(({ kind, text, colour }) => (
          <button
            key={kind}
            type="button"
            aria-pressed={ground.kind === kind}
            className="rounded border border-transparent px-2 py-1 text-left hover:bg-bench aria-pressed:border-chosen aria-pressed:bg-tint"
            onClick={() => edit({ kind: "set-ground", ground: { kind, colour } })}
          >
            {text}
          </button>
        ))}
      </div>
      {ground.kind !== "table" && (
        <div className="mt-2 flex items-center gap-2 border-t border-line pt-2">
          <ColourInput
            label="Colour of the ground"
            colour={ground.colour}
            onColour={(colour) => edit({ kind: "set-ground", ground: { kind: ground.kind, colour } })}
          />
          Its colour
        </div>
      )}
    </Panel>
  );
}
