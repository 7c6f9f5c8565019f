import { ArrowDown, ArrowUp } from "lucide-react";
import type { Joint, Layer } from "@/api/client";
import { Fold } from "@/parts/Fold";
import { JointControl, type Rule } from "@/parts/JointControl";
import { FilmLook, finishText } from "@/places/stack/FilmLook";
import { MakeOf, MakingFields } from "@/places/stack/Makings";
import { PiecesFields } from "@/places/stack/PiecesFields";
import { RepairsLine } from "@/places/stack/RepairsLine";
import { ThickenField } from "@/places/stack/ThickenField";
import { smallOf } from "@/stage/pieces";
import { useEdit, useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

/** What stands for films in the picture of a joint that is none of two films alone. */
export const FALLBACK = { lower: "#b9b2a1", upper: "#8f897b" };
const SOURCES: Record<Joint["source"], string> = { pair: "", film: "by the film", design: "", made: "it lies on top" };

/** A film opened: its joint with all that lies on it, and with each film it meets. */
export function FilmDetails({ layer, index, onMove }: { layer: Layer; index: number; onMove(by: number): void }) {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const own = recipe.films?.find((film) => film.film === layer.film)?.joint ?? null;
  const shown = own ?? recipe.joint;
  const small = smallOf(layer.shape, recipe.small_mm2).length;
  const ringed = useView((view) => view.pieces?.film === layer.film);
  const above = built.joints.filter((joint) => joint.lower === index);
  const below = built.joints.filter((joint) => joint.upper === index);
  const set = (rule: Rule | null) => edit({ kind: "set-film-joint", film: layer.film, rule });
  return (
    <div className="mb-1 border-x border-b border-chosen bg-tint/50 px-3 py-2">
      <MakingFields layer={layer} />
      <div className="flex items-center justify-between">
        <span className="text-sm">Under all that lies on it</span>
        <JointControl
          label={`Joint of ${layer.name} under all that lies on it`}
          kind={shown.kind}
          mm={shown.mm}
          lower={layer.colour}
          upper={FALLBACK.upper}
          own={own !== null}
          onSet={set}
          onClear={() => set(null)}
        />
      </div>
      {shown.kind !== "full" && above.length > 0 && (
        <button
          type="button"
          className="act mt-1 text-sm"
          onClick={() => set({ kind: "full", mm: Number(shown.mm) || 0.4 })}
        >
          Keep it solid under them
        </button>
      )}
      <div className="mt-1">
        <MakeOf film={layer.film} label="Make a shadow or line of it" />
      </div>
      <div className="mt-2 border-t border-line pt-2">
        <ThickenField layer={layer} />
      </div>
      <RepairsLine film={layer.film} />
      <div className="mt-2 flex flex-col gap-2">
        <Fold
          title="Small pieces and gaps"
          figure={small > 0 ? `${small} small` : "none small"}
          open={ringed || small > 0}
        >
          <PiecesFields layer={layer} />
        </Fold>
        <Fold title="Colour, film and finish" figure={finishText(layer.finish.kind)} open={false}>
          <FilmLook layer={layer} />
        </Fold>
        {above.length + below.length > 0 && (
          <Fold title="Joints with single films" figure={above.length + below.length} open={false}>
            <Meeting title="Above it" joints={above} other="upper" />
            <Meeting title="Below it" joints={below} other="lower" />
          </Fold>
        )}
      </div>
      <p className="mt-2 flex flex-wrap gap-1">
        <button
          type="button"
          className="act px-2 text-sm"
          title="Not cut: a pen draws it on the film below"
          disabled={built.layers.length < 2}
          onClick={() =>
            edit({
              kind: "draw-film",
              film: layer.film,
              drawn: "outlines",
              on: built.layers[index === 0 ? 1 : index - 1]?.film,
            })
          }
        >
          Draw with a pen
        </button>
        <button
          type="button"
          className="act order-last ml-auto px-2 text-sm"
          title="Not cut, but what is made of it stays"
          onClick={() => edit({ kind: "leave-out", film: layer.film, left_out: true })}
        >
          Leave it out
        </button>
        <button
          type="button"
          className="act px-2 text-sm"
          aria-label="Up one"
          title="Up one"
          disabled={index === built.layers.length - 1}
          onClick={() => onMove(1)}
        >
          <ArrowUp aria-hidden size={17} />
        </button>
        <button
          type="button"
          className="act px-2 text-sm"
          aria-label="Down one"
          title="Down one"
          disabled={index === 0}
          onClick={() => onMove(-1)}
        >
          <ArrowDown aria-hidden size={17} />
        </button>
      </p>
    </div>
  );
}

function Meeting({ title, joints, other }: { title: string; joints: Joint[]; other: "upper" | "lower" }) {
  const { built } = useOpenDesign();
  if (joints.length === 0) return null;
  return (
    <>
      <p className="heading">{title}</p>
      <ul aria-label={title}>
        {joints.map((joint) => {
          const low = built.layers[joint.lower];
          const high = built.layers[joint.upper];
          const met = built.layers[joint[other]];
          if (!low || !high || !met) return null;
          return (
            <li key={`${joint.lower}-${joint.upper}`} className="flex items-center justify-between gap-2">
              <span className="truncate text-sm">{met.name}</span>
              <PairControl joint={joint} low={low} high={high} label={`Joint of ${low.name} and ${high.name}`} />
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** The joint of two films. */
export function PairControl({ joint, low, high, label }: { joint: Joint; low: Layer; high: Layer; label: string }) {
  const edit = useEdit();
  const set = (rule: Rule | null) => edit({ kind: "set-pair-joint", a: low.film, b: high.film, rule });
  return (
    <JointControl
      label={label}
      kind={joint.kind}
      mm={joint.mm}
      lower={low.colour}
      upper={high.colour}
      source={SOURCES[joint.source]}
      own={joint.source === "pair"}
      onSet={set}
      onClear={() => set(null)}
    />
  );
}
