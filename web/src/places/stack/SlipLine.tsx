import { showLength } from "@/geometry/lengths";
import { useOpenDesign, useUnit } from "@/state/design";
import { countsOf, useProof, useTold } from "@/state/proof";

/** What the joint of all films makes of a hand that slips. */
export function SlipLine() {
  const { recipe, built } = useOpenDesign();
  const unit = useUnit();
  const slip = useProof().data?.slip_mm ?? 0;
  if (recipe.joint.kind !== "lap" || slip === 0 || built.layers.length < 2) return null;
  const said = showLength(slip, unit);
  return (
    <p className="-mt-2 text-sm text-soft">
      {Number(recipe.joint.mm) >= slip - 1e-9
        ? `A hand slips by up to ${said}: under laps as long as that nothing shows through.`
        : `A hand slips by up to ${said}, which is more than these laps hide.`}
    </p>
  );
}

/** How many kinds of trouble are told of a film. */
export function TroubleOf({ film }: { film: string }) {
  const { stop, mind } = countsOf(useTold().filter((found) => found.about === film));
  if (stop + mind === 0) return null;
  return <span className="block text-fail">{stop > 0 ? `${stop} will fail` : `${mind} may fail`}</span>;
}
