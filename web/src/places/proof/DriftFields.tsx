import { Hand } from "lucide-react";
import type { Edit } from "@/api/client";
import { showArea, showLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { Proposals } from "@/places/proof/Proposals";
import { useOpenDesign, useUnit } from "@/state/design";
import type { Proof } from "@/state/proof";
import { useView } from "@/state/view";

/** What each film bares if a hand lays it off its place; any of them can be taken in hand on the stage. */
export function DriftFields({ proof }: { proof: Proof }) {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const { mode, slip, take, putDown, slipTo } = useView();
  const worst = Math.max(0, ...proof.films.map((film) => film.bares_mm2));
  const fix = proof.findings.find((found) => found.code === "drift")?.fixes[0];
  const layers = built.layers.filter((layer) => proof.films.some((film) => film.film === layer.film)).reverse();
  if (layers.length < 2) return null;
  const held = mode.kind === "slipping" ? mode.film : null;
  return (
    <Fold title="A hand that slips" figure={worst > 0 ? showArea(worst, unit) : "nothing shows"} open={false}>
      <p className="text-sm text-soft">
        How much shows through at worst if one film is laid {showLength(proof.slip_mm, unit, unit === "mm" ? 2 : 3)} off
        its place. Take one in hand and slide it on the stage, or with the arrow keys there.
      </p>
      <ul aria-label="What a slip of each film bares" className="flex flex-col">
        {layers.map((layer) => {
          const film = proof.films.find((one) => one.film === layer.film);
          const own = held === layer.film;
          return (
            <li key={layer.film} className="flex items-center gap-2 border-t border-line py-1">
              <span aria-hidden className="h-4 w-6 shrink-0 border border-firm" style={{ background: layer.colour }} />
              <span className="min-w-0 grow truncate">{layer.name}</span>
              <span className="measure text-sm text-soft">
                {film && film.bares_mm2 > 0 ? showArea(film.bares_mm2, unit) : "nothing"}
              </span>
              {film && film.bares_mm2 > 0 && (
                <button
                  type="button"
                  className="act px-2 text-sm"
                  title="Lays it the way that bares most"
                  onClick={() => {
                    take({ kind: "slipping", film: layer.film });
                    slipTo({ film: layer.film, x: film.slip_x_mm, y: film.slip_y_mm });
                  }}
                >
                  Worst
                </button>
              )}
              <button
                type="button"
                className="act flex items-center gap-1 px-2 text-sm"
                aria-pressed={own}
                aria-label={`Take ${layer.name} in hand`}
                onClick={() => (own ? putDown() : take({ kind: "slipping", film: layer.film }))}
              >
                <Hand aria-hidden size={14} />
              </button>
            </li>
          );
        })}
      </ul>
      {slip && (
        <p className="measure text-sm" role="status">
          {built.layers.find((layer) => layer.film === slip.film)?.name}:{" "}
          {showLength(Math.hypot(slip.x, slip.y), unit, 2)} off its place.{" "}
          <button type="button" className="quiet" onClick={putDown}>
            Lay it back
          </button>
        </p>
      )}
      {fix && <Proposals proposals={[{ label: fix.label, edit: fix.edit as Edit }]} />}
    </Fold>
  );
}
