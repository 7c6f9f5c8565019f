import { useOpenDesign } from "@/state/design";
import { useTold } from "@/state/proof";

/** Says that there is nothing to cut, and why, as far as that was found. */
export function NoFilms({ className = "" }: { className?: string }) {
  const { built } = useOpenDesign();
  const told = useTold().find((found) => found.severity !== "note");
  if (built.layers.some((layer) => layer.nodes > 0)) return null;
  return (
    <div className={className}>
      <p className="font-semibold">Nothing is left to cut.</p>
      <p className="text-soft">
        {told
          ? `${told.text} ${told.helps}`.trim()
          : "Every colour is dropped, left out or drawn with a pen. Bring one back under Colours or Stack."}
      </p>
    </div>
  );
}
