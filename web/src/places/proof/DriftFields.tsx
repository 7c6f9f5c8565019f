import { Hand } from "lucide-react";
import { useState } from "react";
import type { Edit, Finding } from "@/api/client";
import { showArea, showLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { type Proof, useHelping } from "@/state/proof";
import { useView } from "@/state/view";

/** What each film bares if a hand lays it off its place; any of them can be taken in hand on the stage. */
export function DriftFields({ proof }: { proof: Proof }) {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const [open, setOpen] = useState(false);
  const { mode, slip, take, putDown, slipTo } = useView();
  const worst = Math.max(0, ...proof.films.map((film) => film.bares_mm2));
  const found = proof.findings.find((one) => one.code === "drift" && one.fixes.length > 0);
  const layers = built.layers.filter((layer) => proof.films.some((film) => film.film === layer.film)).reverse();
  if (layers.length < 2) return null;
  const held = mode.kind === "slipping" ? mode.film : null;
  return (
    <Fold
      title="A hand that slips"
      figure={worst > 0 ? showArea(worst, unit) : "nothing shows"}
      open={false}
      onOpen={setOpen}
    >
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
      {open && found && <Hiding found={found} />}
    </Fold>
  );
}

/** Hides what a slip bares, if it was tried and helps. */
function Hiding({ found }: { found: Finding }) {
  const edit = useEdit();
  const helping = useHelping(found, true);
  if (helping === null) return <p className="text-sm text-soft">Trying what helps…</p>;
  const fixes = found.fixes.filter((_, k) => helping[k]);
  if (fixes.length === 0) return <p className="text-sm text-soft">{found.helps}</p>;
  return fixes.map((fix) => (
    <button key={fix.label} type="button" className="act self-start text-sm" onClick={() => edit(fix.edit as Edit)}>
      {fix.label}
    </button>
  ));
}
