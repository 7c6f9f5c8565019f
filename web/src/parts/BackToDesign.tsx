import { goToDesign } from "@/state/route";
import { useView } from "@/state/view";

/** The way back to the design that was open before, where there was one. */
export function BackToDesign() {
  const design = useView((view) => view.design);
  if (!design) return null;
  return (
    <button type="button" className="act" onClick={() => goToDesign(design)}>
      Back to the design
    </button>
  );
}
