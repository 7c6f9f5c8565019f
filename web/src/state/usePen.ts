import { hasRegions, ProblemError } from "@/api/client";
import { tell, useEdit, useOpenDesign } from "@/state/design";
import { penEdit, whyNot } from "@/state/pen";
import { useAreas } from "@/state/regions";
import { useView } from "@/state/view";

/** Ends what the pen draws, or takes its last point back; null where it is not in the hand. */
export function usePen() {
  const { recipe, built } = useOpenDesign();
  const { mode, adjust } = useView();
  const edit = useEdit();
  const tool = mode.kind === "mending" && mode.step === "draw-area" ? mode : null;
  const art = recipe.arts.find((one) => one.id === tool?.art);
  const areas = useAreas(art && hasRegions(art) ? art.id : null);
  if (!tool || !art) return null;
  const width = areas?.width ?? built.arts.find((one) => one.id === art.id)?.own_width_mm ?? 0;
  return {
    tool,
    /** Ends it as an area, or open as a line. */
    finish(closed: boolean) {
      const made = penEdit(tool, art, width, areas, closed);
      if (!made) {
        const { detail, remedy } = whyNot(tool, closed);
        return tell(new ProblemError("nothing-drawn", detail, remedy));
      }
      adjust({ knots: [] });
      void edit(made);
    },
    takeBack: () => adjust({ knots: tool.knots.slice(0, -1) }),
    clear: () => adjust({ knots: [] }),
  };
}
