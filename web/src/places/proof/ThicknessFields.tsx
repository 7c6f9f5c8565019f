import { useState } from "react";
import { showArea } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { WhatGetsWorse } from "@/parts/WhatGetsWorse";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { type Proof, useWorse } from "@/state/proof";
import { useTries } from "@/state/tries";
import { useTry } from "@/state/useTry";
import { useView } from "@/state/view";

/** How many films lie on one another, and over how much area. */
export function ThicknessFields({ proof }: { proof: Proof }) {
  const unit = useUnit();
  const { lens, look } = useView();
  const edit = useEdit();
  const attempt = useTry();
  const clear = useTries((tries) => tries.clear);
  const [pointed, point] = useState<Proof["thinner"][number] | null>(null);
  const most = proof.levels.length;
  if (most === 0) return null;
  const on = lens === "Thickness";
  const tryOut = (one: Proof["thinner"][number]) => {
    point(one);
    attempt(one.edit);
  };
  const letGo = () => {
    point(null);
    clear();
  };
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
      <p className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="act px-2 text-sm"
          aria-pressed={on}
          onClick={() => look(on ? "Finished" : "Thickness")}
        >
          Show it on the stage
        </button>
        {proof.thinner.map((one) => (
          <button
            key={one.films}
            type="button"
            className="act px-2 text-sm"
            title="The lowest films end where others begin"
            onPointerEnter={() => tryOut(one)}
            onPointerLeave={letGo}
            onFocus={() => tryOut(one)}
            onBlur={letGo}
            onClick={() => {
              point(null);
              void edit(one.edit);
            }}
          >
            At most {one.films}
          </button>
        ))}
      </p>
      {pointed && <Tried films={pointed.films} edit={pointed.edit} />}
    </Fold>
  );
}

/** Whether so many films are kept to once it is done, and what gets worse by it. */
function Tried({ films, edit }: Proof["thinner"][number]) {
  const { id } = useOpenDesign();
  const tried = useTries((tries) => (tries.tried?.design === id ? tries.tried.built : null));
  const worse = useWorse(edit);
  return (
    <div role="status" className="rounded bg-tint p-2">
      {tried && tried.max_thickness > films && (
        <p className="text-sm">Up to {tried.max_thickness} films still lie on one another then.</p>
      )}
      <WhatGetsWorse
        worse={worse}
        looking="Looking what that makes worse…"
        nothing="Nothing gets worse by it."
        heading="What gets worse by it:"
      />
    </div>
  );
}
