import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import type { JobEdit } from "@/state/job";

type Tiles = NonNullable<Extract<JobEdit, { kind: "set-job" }>["tiles"]>;

/** How what is larger than the film is divided, and where its seams run. */
export function TilesFields({ job, plan, change }: JobPanelProps) {
  const { tiles } = job.job;
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
          { value: "refuse", text: "Say so, divide nothing" },
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
          own[axis].map((at, index) => {
            const film = shared ? null : own.film;
            const placed = tiles.placed.some(
              (one) => one.design === own.design && one.film === film && one.axis === axis && one.index === index,
            );
            const name = plan?.films.find((one) => one.design === own.design && one.film === own.film)?.name;
            const put = (at_mm: string | null) =>
              change({
                do: "edit",
                edit: { kind: "place-seam", design: own.design, film, axis, index, at_mm },
              });
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a seam has no other name than its number
              <div key={`${own.design} ${own.film} ${axis} ${index}`} className="flex items-end gap-3">
                <LengthField
                  label={`Seam ${index + 1} ${axis === "x" ? "from the left" : "from the top"}${shared ? "" : `, ${name}`}`}
                  mm={at}
                  signed
                  onCommit={(text) => put(text)}
                />
                {placed && (
                  <button type="button" className="quiet text-sm" onClick={() => put(null)}>
                    Find its place
                  </button>
                )}
              </div>
            );
          }),
        ),
      )}
    </Fold>
  );
}
