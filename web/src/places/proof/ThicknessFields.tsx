import { showArea } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { Proposals } from "@/places/proof/Proposals";
import { useUnit } from "@/state/design";
import type { Proof } from "@/state/proof";
import { useView } from "@/state/view";

/** How many films lie on one another, and over how much area. */
export function ThicknessFields({ proof }: { proof: Proof }) {
  const unit = useUnit();
  const { lens, look } = useView();
  const most = proof.levels.length;
  if (most === 0) return null;
  const on = lens === "Thickness";
  return (
    <Fold title="Thickness" figure={most === 1 ? "1 film" : `up to ${most} films`} open={false}>
      <table className="measure w-full text-sm">
        <thead className="sr-only">
          <tr>
            <th>Films on one another</th>
            <th>Area</th>
          </tr>
        </thead>
        <tbody>
          {proof.levels.map(({ films, area_mm2 }) => (
            <tr key={films} className={films > proof.bears ? "text-fail" : ""}>
              <td className="border-t border-line py-1">{films === 1 ? "1 film" : `${films} films`}</td>
              <td className="border-t border-line py-1 text-right">{showArea(area_mm2, unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-soft">
        {proof.bears === 1 ? "No film may lie on another here." : `Its materials bear ${proof.bears} on one another.`}
      </p>
      <button
        type="button"
        className="act self-start px-2 text-sm"
        aria-pressed={on}
        onClick={() => look(on ? "Finished" : "Thickness")}
      >
        Show it on the stage
      </button>
      <Proposals
        proposals={proof.thinner.map(({ films, edit }) => ({
          label: `At most ${films}`,
          title: "The lowest films end where others begin",
          edit,
          lacks: (tried) =>
            tried.max_thickness > films ? `Up to ${tried.max_thickness} films still lie on one another then.` : null,
        }))}
      />
    </Fold>
  );
}
