import { Check } from "@/entry/Entry";
import { readLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import { unread, useUnit } from "@/state/design";
import type { JobEdit } from "@/state/job";

/** How the films go onto their ground: what the job sheet tells of it follows from this. */
export function Together({ job, plan, change }: JobPanelProps) {
  const unit = useUnit();
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  const { laying_down, hinge, place_mm } = job.job;
  const taped = plan?.sheets.some((sheet) => !sheet.material.press) ?? true;
  return (
    <Fold
      title="Onto the ground"
      figure={taped ? `${laying_down}${hinge ? ", with a hinge" : ""}` : "pressed"}
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
