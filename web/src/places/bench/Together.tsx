import { Check } from "@/entry/Entry";
import { readLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { SelectField } from "@/parts/SelectField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import { unread, useUnit } from "@/state/design";
import type { JobAnswer, JobEdit } from "@/state/job";

type Pressing = JobAnswer["job"]["pressing"];
const AS_FILMS_SAY: Pressing = { finish: "front", tack_s: null, full_s: null, behind_s: null };
const ORDERS: { value: Pressing["finish"]; text: string }[] = [
  { value: "front", text: "Tack each, the last one in full" },
  { value: "each", text: "Each in full, one after another" },
  { value: "behind", text: "Tack each, all in full from behind" },
];

/** How the films go onto their ground: what the job sheet tells of it follows from this. */
export function Together({ job, plan, change }: JobPanelProps) {
  const unit = useUnit();
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  const { laying_down, hinge, place_mm, pressing } = job.job;
  const press = plan?.sheets.find((sheet) => sheet.material.press)?.material.press;
  const own = (changes: Partial<Pressing>) =>
    change({ do: "edit", edit: (now) => ({ kind: "set-job", pressing: { ...now.job.pressing, ...changes } }) });
  const taped = plan?.films.some((film) => film.use === "surface" || film.use === "glass") ?? true;
  return (
    <Fold
      title="Onto the ground"
      figure={taped ? `${laying_down}${hinge ? ", with a hinge" : ""}` : press ? "pressed" : ""}
      open={false}
    >
      {taped && (
        <>
          <SelectField
            label="Laid down"
            value={laying_down}
            options={[
              { value: "dry", text: "Dry" },
              { value: "wet", text: "Wet, with soap and water" },
            ]}
            onChange={(way) => edit({ kind: "set-job", laying_down: way })}
          />
          <label className="flex items-center gap-2">
            <Check
              className="h-4 w-4"
              checked={hinge}
              onChange={(event) => edit({ kind: "set-job", hinge: event.target.checked })}
            />
            With a hinge of masking tape
          </label>
        </>
      )}
      {press && (
        <SelectField
          label="Order of pressing"
          value={pressing.finish}
          options={ORDERS}
          onChange={(finish) => own({ finish })}
        />
      )}
      {press && (
        <div className="flex items-end gap-3">
          <NumberField
            label="Tack, s"
            value={pressing.tack_s ?? press.tack_s}
            places={0}
            onCommit={(tack_s) => own({ tack_s })}
          />
          <NumberField
            label="In full, s"
            value={pressing.full_s ?? press.full_s}
            places={0}
            onCommit={(full_s) => own({ full_s })}
          />
          {pressing.finish !== "behind" && (
            <NumberField
              label="From behind, s"
              value={pressing.behind_s ?? press.behind_s}
              places={0}
              onCommit={(behind_s) => own({ behind_s })}
            />
          )}
        </div>
      )}
      {press && JSON.stringify(pressing) !== JSON.stringify({ ...pressing, ...AS_FILMS_SAY }) && (
        <button
          type="button"
          className="quiet self-start text-sm"
          onClick={() => edit({ kind: "set-job", pressing: AS_FILMS_SAY })}
        >
          Press as the films say
        </button>
      )}
      <LengthField
        label="From collar, handle or edge"
        mm={place_mm ?? 0}
        none={place_mm === null ? "usual" : undefined}
        onCommit={async (text) => {
          const mm = readLength(text, unit);
          return mm === null ? unread(text) : edit({ kind: "set-job", place_mm: mm });
        }}
      />
      <p className="text-sm text-soft">
        {place_mm === null ? "Usual for the ground, until you say otherwise. " : ""}The job sheet tells it, step by
        step.
      </p>
    </Fold>
  );
}
