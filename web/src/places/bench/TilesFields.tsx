import { readLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import { unread, useUnit } from "@/state/design";
import type { JobAnswer, JobEdit } from "@/state/job";

type Tiles = NonNullable<Extract<JobEdit, { kind: "set-job" }>["tiles"]>;

/** How what is larger than the film is divided, and where its seams run. */
export function TilesFields({ job, plan, change }: JobPanelProps) {
  const { tiles } = job.job;
  const unit = useUnit();
  const seams = plan?.seams ?? [];
  const count = seams.reduce((most, own) => Math.max(most, (own.x.length + 1) * (own.y.length + 1)), 1);
  const set = (changes: Partial<Tiles>) =>
    change({ do: "edit", edit: (now) => ({ kind: "set-job", tiles: { ...now.job.tiles, ...changes } }) });
  const shared = !tiles.each_film;
  const shown = shared ? seams.filter((own, k) => seams.findIndex((one) => one.design === own.design) === k) : seams;
  return (
    <Fold title="Tiles" open={seams.length > 0} figure={count > 1 ? `${count} tiles` : "not needed"}>
      <SelectField
        label="Too large"
        value={tiles.divide ? "divide" : "refuse"}
        options={[
          { value: "divide", text: "Divide it into tiles" },
          { value: "refuse", text: "Only warn me" },
        ]}
        onChange={(how) => set({ divide: how === "divide" })}
      />
      <SelectField
        label="Seams"
        value={shared ? "same" : "each"}
        options={[
          { value: "same", text: "The same for all films" },
          { value: "each", text: "Each film its own, apart from those below" },
        ]}
        onChange={(how) => set({ each_film: how === "each" })}
      />
      <div className="flex items-end gap-4">
        <LengthField
          label="Overlap"
          mm={Number(tiles.overlap_mm ?? 4)}
          onCommit={(overlap_mm) => set({ overlap_mm })}
        />
        <LengthField label="Seams move up to" mm={Number(tiles.reach_mm)} onCommit={(reach_mm) => set({ reach_mm })} />
      </div>
      {shown.flatMap((own) =>
        (["x", "y"] as const).flatMap((axis) =>
          own[axis].map((seam, index) => {
            const film = shared ? null : own.film;
            const placed = placedSeam(tiles, own.design, film, axis, index);
            const name = plan?.films.find((one) => one.design === own.design && one.film === own.film)?.name;
            const side = axis === "x" ? "from the left" : "from the top";
            const label = `Seam ${index + 1} ${side}${shared ? "" : `, ${name}`}`;
            const of = { x: own.x.length, y: own.y.length };
            const put = (changes: Partial<SeamChange>) =>
              change({
                do: "edit",
                edit: (held) => putSeam(held, { design: own.design, film, axis, index, of, ...changes }),
              });
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a seam has no other name than its number
              <div key={`${own.design} ${own.film} ${axis} ${index}`} className="flex items-end gap-3">
                <LengthField
                  label={label}
                  mm={seam.from_edge}
                  signed
                  onCommit={async (text) => {
                    const mm = readLength(text, unit);
                    return mm === null ? unread(text) : put({ at_mm: mm - seam.from_edge + seam.at });
                  }}
                />
                <LengthField
                  label="Overlap"
                  mm={seam.overlap}
                  signed
                  onCommit={async (text) => {
                    const mm = readLength(text, unit);
                    return mm === null ? unread(text) : put({ overlap_mm: mm });
                  }}
                />
                {placed && (
                  <button
                    type="button"
                    className="quiet text-sm"
                    aria-label={`${label}: find its place`}
                    onClick={() =>
                      change({ do: "edit", edit: { kind: "place-seam", design: own.design, film, axis, index } })
                    }
                  >
                    Find its place
                  </button>
                )}
              </div>
            );
          }),
        ),
      )}
      {shown.length > 0 && <p className="text-sm text-soft">An overlap below zero is a gap between the tiles.</p>}
      {[...new Set(tiles.placed.map((one) => one.design))].map((design) => (
        <button
          key={design}
          type="button"
          className="act self-start text-sm"
          onClick={() => change({ do: "edit", edit: { kind: "free-seams", design } })}
        >
          Let all seams find their places
        </button>
      ))}
    </Fold>
  );
}

type SeamChange = Omit<Extract<JobEdit, { kind: "place-seam" }>, "kind">;

/** A seam put by hand, or with an overlap of its own; what was put of it before stays. */
export function putSeam(job: JobAnswer, seam: SeamChange): JobEdit {
  const before = placedSeam(job.job.tiles, seam.design, seam.film ?? null, seam.axis, seam.index);
  const kept = before && { at_mm: before.at_mm, overlap_mm: before.overlap_mm };
  return { kind: "place-seam", ...kept, ...seam };
}

function placedSeam(tiles: Tiles, design: string, film: string | null, axis: "x" | "y", index: number) {
  return tiles.placed?.find(
    (one) => one.design === design && one.film === film && one.axis === axis && one.index === index,
  );
}
