import { Check } from "@/entry/Entry";
import { showLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { useOpenDesign, useUnit } from "@/state/design";
import type { JobAnswer, JobEdit } from "@/state/job";
import type { Proof, ProvedFilm } from "@/state/proof";

interface ShrinkFieldsProps {
  proof: Proof;
  job: JobAnswer | undefined;
  onChange(edit: (job: JobAnswer) => JobEdit | null): unknown;
}

/** What the press takes off each film, and whether it is cut larger for that. */
export function ShrinkFields({ proof, job, onChange }: ShrinkFieldsProps) {
  const { id } = useOpenDesign();
  const films = proof.films.filter((film) => film.shrink !== null);
  if (films.length === 0) return null;
  const open = films.some((film) => !film.shrink?.made_up);
  return (
    <Fold title="Shrink in the press" figure={open ? "not made up for" : "made up for"} open={open}>
      <ul aria-label="What the press takes off each film" className="flex flex-col">
        {films.map((film) => (
          <Shrunk
            key={film.film}
            film={film}
            disabled={!job}
            onMakeUp={(make_up) =>
              onChange(({ job: now }) => {
                const own = now.films?.find((one) => one.design === id && one.film === film.film);
                return { kind: "set-job-film", film: { design: id, film: film.film, ...own, make_up } as never };
              })
            }
          />
        ))}
      </ul>
    </Fold>
  );
}

interface ShrunkProps {
  film: ProvedFilm;
  disabled: boolean;
  onMakeUp(on: boolean): unknown;
}

function Shrunk({ film, disabled, onMakeUp }: ShrunkProps) {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const { shrink } = film;
  if (!shrink) return null;
  const name = built.layers.find((layer) => layer.film === film.film)?.name ?? film.film;
  const fine = unit === "mm" ? 2 : 3;
  return (
    <li className="border-t border-line py-1 text-sm">
      <p className="text-base font-semibold">{name}</p>
      <p className="measure text-soft">
        Loses {showLength(shrink.across_mm, unit, fine)} across and {showLength(shrink.down_mm, unit, fine)} down in{" "}
        {shrink.presses === 1 ? "1 press" : `${shrink.presses} presses`}.
      </p>
      <label className="flex items-center gap-1.5">
        <Check checked={shrink.made_up} disabled={disabled} onChange={(event) => onMakeUp(event.target.checked)} />
        Cut it larger for that
      </label>
    </li>
  );
}
