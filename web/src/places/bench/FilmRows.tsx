import { Check, Select } from "@/entry/Entry";
import { showLength } from "@/geometry/lengths";
import { Panel } from "@/parts/Panel";
import { useGrowing } from "@/parts/useGrowing";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import { useUnit } from "@/state/design";
import { useFilmsIHave } from "@/state/films";
import { type JobAnswer, type JobChange, type PlannedFilm, type Stock, useBench, useShelf } from "@/state/job";

/** Each row offers all materials of the shelf. */
const ROWS_AT_ONCE = 3;

/** The films of a job, the top one first: what each is cut from, and how it lies. */
export function Films({ job, plan, change }: JobPanelProps) {
  const shelf = useShelf();
  const pens = new Set(shelf.data?.kinds.filter((one) => !one.in_pieces).map((one) => one.kind));
  const films = (shelf.data?.films ?? []).filter((one) => !pens.has(one.material.kind));
  const many = job.job.designs.length > 1;
  const shown = useGrowing(plan?.films.length ?? 0, ROWS_AT_ONCE);
  return (
    <section aria-label="Films" className="border-t border-line">
      {plan?.films
        .slice()
        .reverse()
        .slice(0, shown)
        .map((film) => (
          <FilmRow
            key={`${film.design} ${film.film}`}
            film={film}
            of={many ? job.job.designs.find((one) => one.design === film.design)?.name : undefined}
            job={job}
            change={change}
            all={films.map((one) => one.material)}
            pieces={shelf.data?.films.find((one) => one.material.id === film.material)?.pieces ?? []}
          />
        ))}
    </section>
  );
}

interface FilmRowProps {
  film: PlannedFilm;
  of: string | undefined;
  job: JobAnswer;
  change(change: JobChange): Promise<unknown>;
  all: { id: string; name: string; retired: boolean }[];
  pieces: Stock[];
}

function FilmRow({ film, of, job, change, all, pieces }: FilmRowProps) {
  const point = useBench((bench) => bench.point);
  const chosen = job.job.films.find((one) => one.design === film.design && one.film === film.film);
  const near = new Set(film.nearest.map((one) => one.material));
  const had = new Set(useFilmsIHave(film.use).map((one) => one.id));
  const rest = all
    .filter((one) => !near.has(one.id) && (!one.retired || one.id === film.material))
    .map((one) => ({ ...one, offered: had.has(one.id) }));
  const choose = (changes: { material?: string | null; layout?: PlannedFilm["layout"] | null }) => {
    const before = chosen ?? { design: film.design, film: film.film };
    return change({ do: "edit", edit: { kind: "set-job-film", film: { ...before, ...changes } } });
  };
  return (
    <div
      className="grid grid-cols-[22px_1fr_auto] items-center gap-2 border-b border-line py-1.5"
      onPointerLeave={() => point(null)}
    >
      <span className="h-5 w-5 rounded-sm border border-firm" style={{ background: film.colour }} />
      <div className="min-w-0">
        <span className="block truncate text-sm">
          <span className="font-semibold">{film.name}</span>
          {of && <span className="text-soft"> of {of}</span>}
          <span className="text-soft">
            {film.to_get && ", to buy"}
            {film.near !== null && (film.near < 1 ? ", exact match" : `, ${film.near.toFixed(0)} off in colour`)}
          </span>
        </span>
        <Select
          aria-label={`Cut ${film.name}${of ? ` of ${of}` : ""} from`}
          className="mt-0.5 w-full py-0.5"
          value={film.near === null ? "any" : film.material}
          onChange={(event) => choose({ material: event.target.value })}
        >
          {film.nearest.map((one) => (
            <option key={one.material} value={one.material}>
              {one.name} ({one.delta_e < 1 ? "same colour" : `${one.delta_e.toFixed(0)} off`})
            </option>
          ))}
          <option value="any">Any film of this colour</option>
          <Others label="Others for this use" films={rest.filter((one) => one.offered)} />
          <Others label="Films for other uses" films={rest.filter((one) => !one.offered)} />
        </Select>
      </div>
      <div className="flex flex-col items-end gap-0.5">
        <More film={film} job={job} change={change} pieces={pieces} />
        <Select
          aria-label={`How ${film.name}${of ? ` of ${of}` : ""} lies`}
          className="py-0.5 text-sm"
          value={chosen?.layout ?? ""}
          onChange={(event) => choose({ layout: (event.target.value || null) as PlannedFilm["layout"] | null })}
        >
          <option value="">as the job</option>
          <option value="register">register</option>
          <option value="whole">by itself</option>
          <option value="nested">nested</option>
        </Select>
      </div>
    </div>
  );
}

function Others({ label, films }: { label: string; films: { id: string; name: string }[] }) {
  if (films.length === 0) return null;
  return (
    <optgroup label={label}>
      {films.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </optgroup>
  );
}

/** What is seldom chosen for a film: the piece it is cut from, whether it bears marks, which side is weeded. */
function More({ film, job, change, pieces }: Omit<FilmRowProps, "of" | "all">) {
  const unit = useUnit();
  const own = job.job.films.find((one) => one.design === film.design && one.film === film.film);
  const piece = job.job.pieces.find((one) => one.material === film.material)?.piece ?? "";
  const set = (changes: { marks?: boolean; reverse_weed?: boolean }) =>
    change({
      do: "edit",
      edit: (now) => {
        const before = now.job.films.find((one) => one.design === film.design && one.film === film.film);
        return {
          kind: "set-job-film",
          film: { ...(before ?? { design: film.design, film: film.film }), ...changes },
        };
      },
    });
  return (
    <Panel label={`More for ${film.name}`} trigger="more" triggerClass="quiet text-sm" side="bottom">
      <p className="mb-2 font-semibold">{film.name}</p>
      <label className="block">
        <span className="heading">Piece it is cut from</span>
        <Select
          className="w-full"
          value={piece}
          onChange={(event) =>
            change({
              do: "edit",
              edit: { kind: "choose-piece", material: film.material, piece: event.target.value || null },
            })
          }
        >
          <option value="">smallest offcut, sheet, roll</option>
          {pieces.map((one) => (
            <option key={one.id} value={one.id}>
              {one.kind} {showLength(one.width_mm, unit)} ×{" "}
              {showLength(one.kind === "roll" ? one.left : one.length_mm, unit)}
            </option>
          ))}
        </Select>
      </label>
      <label className="mt-3 flex items-center gap-2">
        <Check checked={own?.marks ?? true} onChange={(event) => set({ marks: event.target.checked })} />
        Registration marks on it
      </label>
      <label className="mt-1 flex items-center gap-2">
        <Check checked={own?.reverse_weed ?? false} onChange={(event) => set({ reverse_weed: event.target.checked })} />
        The parts come off, the waste stays
      </label>
    </Panel>
  );
}
