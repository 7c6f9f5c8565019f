import { Check, Select } from "@/entry/Entry";
import { Choice } from "@/parts/Choice";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { PlanFindings } from "@/parts/PlanFindings";
import { SelectField } from "@/parts/SelectField";
import { Costs } from "@/places/bench/Costs";
import { Decals } from "@/places/bench/Decal";
import { Done } from "@/places/bench/Done";
import { Films } from "@/places/bench/FilmRows";
import { Nesting } from "@/places/bench/Nesting";
import { OrderFields } from "@/places/bench/OrderFields";
import { putSeam, TilesFields } from "@/places/bench/TilesFields";
import { Together } from "@/places/bench/Together";
import { useDesigns } from "@/state/design";
import { type JobAnswer, type JobChange, type JobEdit, type Plan, useShelf } from "@/state/job";
import { cuttable } from "@/state/versions";

export interface JobPanelProps {
  job: JobAnswer;
  plan: Plan | undefined;
  change(change: JobChange): Promise<unknown>;
}

type Mark = NonNullable<JobAnswer["job"]["marks"]>;

/** All that is chosen for a job: copies, film, how it is laid, what helps weeding and assembly, and that it was cut. */
export function JobPanel({ job, plan, change }: JobPanelProps) {
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  const now = job.job;
  return (
    <div className="flex flex-col gap-4">
      {plan && (
        <div className="sticky -top-3 z-10 -mx-4 narrow:static border-b border-line bg-paper px-4 pt-3 pb-2">
          <Decals
            plan={plan}
            onSeam={({ film, ...seam }) =>
              change({
                do: "edit",
                edit: (held) => putSeam(held, { ...seam, film: now.tiles.each_film ? film : null }),
              })
            }
          />
          <ToMind plan={plan} />
        </div>
      )}
      <PlanFindings plan={plan} notes onFix={edit} />
      <Designs job={job} change={change} />
      <Choice
        label="How the parts lie"
        value={now.layout}
        options={[
          { value: "register", text: "In register" },
          { value: "whole", text: "Film by film" },
          { value: "nested", text: "Nested" },
        ]}
        onChange={(layout) => edit({ kind: "set-job", layout })}
      />
      {now.layout !== "nested" && (
        <label className="flex items-center gap-2">
          <Check
            className="h-4 w-4"
            checked={now.share}
            onChange={(event) => edit({ kind: "set-job", share: event.target.checked })}
          />
          Films of the same material share a sheet
        </label>
      )}
      {now.layout === "nested" && <Nesting job={job} change={change} />}
      <Films job={job} plan={plan} change={change} />
      <Cutters job={job} change={change} />
      <Weeding job={job} change={change} />
      <Marking job={job} change={change} />
      <TilesFields job={job} plan={plan} change={change} />
      <Together job={job} plan={plan} change={change} />
      <OrderFields job={job} change={change} />
      <Costs job={job} plan={plan} change={change} />
      <Done job={job} plan={plan} change={change} />
    </div>
  );
}

/** How much is to be minded, in sight wherever the panel is scrolled to; it leads there. */
function ToMind({ plan }: { plan: Plan }) {
  const count = plan.findings.filter((found) => found.severity !== "note").length;
  if (count === 0) return null;
  return (
    <button
      type="button"
      className="mt-1 text-sm text-failink underline underline-offset-2"
      onClick={(event) => event.currentTarget.closest(".overflow-y-auto")?.scrollTo({ top: 0 })}
    >
      {count} to look at
    </button>
  );
}

function Designs({ job, change }: Omit<JobPanelProps, "plan">) {
  const designs = useDesigns();
  const own = job.own_of !== null;
  const many = job.job.designs.length > 5;
  const held = new Set(job.job.designs.map((one) => one.design));
  const all = cuttable(designs.data ?? []);
  const others = all.filter((line) => !held.has(line.id));
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  return (
    <section aria-label="Designs">
      <ul tabIndex={many ? 0 : undefined} className={many ? "max-h-56 overflow-y-auto" : ""}>
        {job.job.designs.map((one) => (
          <li key={one.design} className="flex items-end gap-2 border-b border-line py-1.5">
            <span className="min-w-0 grow">
              <span className="block truncate font-semibold">{one.name}</span>
              {job.stale.includes(one.design) && (
                <button
                  type="button"
                  className="quiet text-sm"
                  onClick={() => {
                    const line = all.find((found) => found.id === (one.of ?? one.design));
                    if (line)
                      void edit({ kind: "renew-design", design: one.design, revision: line.revision, name: line.name });
                  }}
                >
                  Changed since: take it as it is now
                </button>
              )}
            </span>
            <NumberField
              label="Copies"
              value={one.copies}
              places={0}
              onCommit={(copies) => edit({ kind: "set-copies", design: one.design, copies: Math.round(copies) })}
            />
            {!own && job.job.designs.length > 1 && (
              <button
                type="button"
                className="quiet text-sm"
                aria-label={`Remove ${one.name} from the job`}
                onClick={() => edit({ kind: "drop-from-job", design: one.design })}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <label className="mt-2 block">
          <span className="sr-only">Cut another design along</span>
          <Select
            className="w-full"
            value=""
            onChange={(event) => {
              const line = others.find((found) => found.id === event.target.value);
              if (!line) return;
              const design = { design: line.id, name: line.name, revision: line.revision, copies: 1 };
              void edit({ kind: "add-to-job", design });
            }}
          >
            <option value="">Cut another design along…</option>
            {others.map((line) => (
              <option key={line.id} value={line.id}>
                {line.name}
              </option>
            ))}
          </Select>
        </label>
      )}
    </section>
  );
}

function Cutters({ job, change }: Omit<JobPanelProps, "plan">) {
  const shelf = useShelf();
  const { cutter, spacing_mm, keep_offcuts_mm } = job.job;
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  return (
    <>
      <SelectField
        label="Cutter"
        value={cutter}
        options={(shelf.data?.cutters ?? [])
          .filter((one) => !one.retired || one.id === cutter)
          .map((one) => ({ value: one.id, text: one.name }))}
        onChange={(chosen) => edit({ kind: "set-job", cutter: chosen })}
      />
      <div className="flex items-end gap-4">
        <LengthField
          label="Between parts"
          mm={Number(spacing_mm ?? 0)}
          none={spacing_mm === null ? "as the film" : undefined}
          onCommit={(between) => edit({ kind: "set-job", spacing_mm: between })}
        />
        <LengthField
          label="Keep offcuts from"
          mm={Number(keep_offcuts_mm)}
          onCommit={(from) => edit({ kind: "set-job", keep_offcuts_mm: from })}
        />
      </div>
    </>
  );
}

function Weeding({ job, change }: Omit<JobPanelProps, "plan">) {
  const { weeding } = job.job;
  const set = (changes: object) =>
    change({
      do: "edit",
      edit: (now) => ({ kind: "set-job", weeding: { ...now.job.weeding, ...changes } }),
    });
  return (
    <Fold title="Weeding" open={weeding.box !== "none" || weeding.lines} figure={weeding.box === "none" ? "" : "boxed"}>
      <SelectField
        label="Weed box"
        value={weeding.box}
        options={[
          { value: "none", text: "None" },
          { value: "sheet", text: "Round all on a sheet" },
          { value: "copy", text: "Round each copy" },
          { value: "word", text: "Round each word" },
          { value: "part", text: "Round each part" },
        ]}
        onChange={(box) => set({ box })}
      />
      <div className="flex items-end gap-4">
        <LengthField
          label="Distance"
          mm={Number(weeding.distance_mm)}
          onCommit={(distance_mm) => set({ distance_mm })}
        />
        <LengthField label="Strips up to" mm={Number(weeding.strip_mm)} onCommit={(strip_mm) => set({ strip_mm })} />
        <LengthField
          label="Clear of parts"
          mm={Number(weeding.clearance_mm)}
          onCommit={(clearance_mm) => set({ clearance_mm })}
        />
      </div>
      <label className="flex items-center gap-2">
        <Check className="h-4 w-4" checked={weeding.lines} onChange={(event) => set({ lines: event.target.checked })} />
        Weed lines that divide the waste
      </label>
    </Fold>
  );
}

function Marking({ job, change }: Omit<JobPanelProps, "plan">) {
  const { marks, slug, test_cut } = job.job;
  const set = (changes: Partial<Mark>) =>
    change({ do: "edit", edit: (now) => ({ kind: "set-job", marks: { ...now.job.marks, ...changes } }) });
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  return (
    <Fold title="Marks and numbers" open={marks.count > 0} figure={marks.count ? `${marks.count} marks` : ""}>
      <SelectField
        label="Marks"
        value={String(marks.count) as "0" | "2" | "3" | "4"}
        options={[
          { value: "0", text: "No registration marks" },
          { value: "2", text: "Two" },
          { value: "3", text: "Three: the free corner shows a flipped film" },
          { value: "4", text: "Four" },
        ]}
        onChange={(count) => set({ count: Number(count) })}
      />
      {marks.count > 0 && (
        <>
          <SelectField
            label="Kind"
            value={marks.kind}
            options={[
              { value: "crosses", text: "Crosses" },
              { value: "corners", text: "Corners" },
              { value: "squares", text: "Squares that nest" },
              { value: "circles", text: "Circles that nest" },
            ]}
            onChange={(kind) => set({ kind })}
          />
          <SelectField
            label="Where"
            value={marks.inside ? "inside" : "outside"}
            options={[
              { value: "outside", text: "Outside the work" },
              { value: "inside", text: "In its corners" },
            ]}
            onChange={(where) => set({ inside: where === "inside" })}
          />
        </>
      )}
      <label className="flex items-center gap-2">
        <Check
          className="h-4 w-4"
          checked={slug}
          onChange={(event) => edit({ kind: "set-job", slug: event.target.checked })}
        />
        Number and name on every sheet
      </label>
      <label className="flex items-center gap-2">
        <Check
          className="h-4 w-4"
          checked={test_cut}
          onChange={(event) => edit({ kind: "set-job", test_cut: event.target.checked })}
        />
        A small test cut where there is room
      </label>
    </Fold>
  );
}
