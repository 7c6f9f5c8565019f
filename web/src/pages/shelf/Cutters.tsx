import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData, ProblemError } from "@/api/client";
import { Check, Input, Select } from "@/entry/Entry";
import { readLength, soldLength } from "@/geometry/lengths";
import { Amount, Field, Length, Refused } from "@/pages/shelf/Fields";
import { useUnit } from "@/state/design";
import { type Shelf, useFormats } from "@/state/job";

type Cutter = Shelf["cutters"][number];

const LENGTHS = [
  ["width_mm", "Widest cut"],
  ["length_mm", "Longest cut"],
  ["side_margin_mm", "Margin at the sides"],
  ["end_margin_mm", "Margin at the ends"],
] as const;
const MARKS = ["crosses", "corners", "squares", "circles"] as const;
type LengthName = (typeof LENGTHS)[number][0];

/** The cutters that jobs can be laid for: each can be changed, and the maker's own added. */
export function Cutters({ cutters, onSaved }: { cutters: Cutter[]; onSaved(): unknown }) {
  const unit = useUnit();
  const [open, setOpen] = useState<string | null>(null);
  const fresh = cutters[0] && { ...cutters[0], id: "", name: "", simulated: false };
  return (
    <section aria-labelledby="cutters" className="mt-8">
      <h2 id="cutters" className="flex items-center gap-3 text-lg font-semibold">
        Cutters
        <button type="button" className="act text-sm font-normal" onClick={() => setOpen("new")}>
          New cutter
        </button>
      </h2>
      {open === "new" && fresh && <CutterForm cutter={fresh} onDone={() => setOpen(null)} onSaved={onSaved} />}
      <ul className="mt-1 border-t border-line">
        {cutters.map((cutter) => (
          <li key={cutter.id} className="border-b border-line py-1.5">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="w-56 font-semibold">
                {cutter.name}
                {cutter.retired && <span className="font-normal text-soft"> (retired)</span>}
              </span>
              <span className="measure grow text-soft">
                cuts {soldLength(Number(cutter.width_mm), unit)} wide and {soldLength(Number(cutter.length_mm), unit)}{" "}
                long{cutter.feed === "mat" && ", on a mat"}, margins {soldLength(Number(cutter.side_margin_mm), unit)}{" "}
                and {soldLength(Number(cutter.end_margin_mm), unit)}, {cutter.speed_mm_s} mm/s, {cutter.force_from_g} to{" "}
                {cutter.force_to_g} g, files up to {cutter.most_nodes.toLocaleString()} nodes
              </span>
              <button
                type="button"
                className="quiet text-sm"
                aria-expanded={open === cutter.id}
                onClick={() => setOpen(open === cutter.id ? null : cutter.id)}
              >
                Change {cutter.name}
              </button>
            </div>
            {open === cutter.id && <CutterForm cutter={cutter} onDone={() => setOpen(null)} onSaved={onSaved} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

interface CutterFormProps {
  cutter: Cutter;
  onDone(): void;
  onSaved(): unknown;
}

function CutterForm({ cutter, onDone, onSaved }: CutterFormProps) {
  const unit = useUnit();
  const [draft, setDraft] = useState(cutter);
  const formats = useFormats().data ?? [];
  const [lengths, setLengths] = useState(
    () =>
      Object.fromEntries(LENGTHS.map(([key]) => [key, soldLength(Number(cutter[key]), unit)])) as Record<
        LengthName,
        string
      >,
  );
  const set = (changes: Partial<Cutter>) => setDraft((now) => ({ ...now, ...changes }));
  const save = useMutation({
    mutationFn: async (changes: Partial<Cutter>) => {
      const read = LENGTHS.map(([key, label]) => {
        const mm = readLength(lengths[key], unit);
        if (mm === null || mm < 0)
          throw new ProblemError(
            "length",
            `“${lengths[key]}” is not a length (${label.toLowerCase()}).`,
            "Write it like 12 in.",
          );
        return [key, mm];
      });
      const id = cutter.id || `cutter-${Math.random().toString(36).slice(2, 10)}`;
      const body = { ...draft, ...Object.fromEntries(read), ...changes, id };
      return expectData(api.PUT("/api/cutters/{cutter}", { params: { path: { cutter: id } }, body }));
    },
    onSuccess: () => {
      void onSaved();
      onDone();
    },
  });
  return (
    <form
      aria-label={cutter.name || "New cutter"}
      className="my-2 rounded-lg border border-line bg-paper p-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({});
      }}
    >
      <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-5 gap-y-3">
        <Field label="Name of the cutter" wide>
          <Input
            required
            maxLength={120}
            className="w-full"
            value={draft.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        {LENGTHS.map(([key, label]) => (
          <Field key={key} label={label}>
            <Input
              className="measure w-full"
              value={lengths[key]}
              onChange={(event) => setLengths({ ...lengths, [key]: event.target.value })}
            />
          </Field>
        ))}
        <Field label="Film goes in">
          <Select
            className="w-full"
            value={draft.feed}
            onChange={(event) => set({ feed: event.target.value as Cutter["feed"] })}
          >
            <option value="roll">by itself, off a roll</option>
            <option value="mat">on a mat</option>
          </Select>
        </Field>
        <Amount label="Speed, mm/s" value={draft.speed_mm_s} onChange={(speed_mm_s) => set({ speed_mm_s })} />
        <Amount
          label="Least force, g"
          value={draft.force_from_g}
          onChange={(force) => set({ force_from_g: Math.round(force) })}
        />
        <Amount
          label="Most force, g"
          value={draft.force_to_g}
          onChange={(force) => set({ force_to_g: Math.round(force) })}
        />
        <Length
          label="Tip trails by"
          mm={draft.blade_offset_mm}
          unit={unit}
          onChange={(blade_offset_mm) => set({ blade_offset_mm })}
        />
        <Length label="Overcut" mm={draft.overcut_mm} unit={unit} onChange={(overcut_mm) => set({ overcut_mm })} />
        <Amount
          label="Most nodes"
          value={draft.most_nodes}
          onChange={(nodes) => set({ most_nodes: Math.round(nodes) })}
        />
      </div>
      <Several
        label="Marks it finds"
        options={MARKS.map((mark) => ({ value: mark, text: mark }))}
        chosen={draft.reads_marks}
        onChosen={(reads_marks) => set({ reads_marks })}
      />
      <Several
        label="Files it takes"
        options={formats.map(({ format, says }) => ({ value: format, text: says }))}
        chosen={draft.takes}
        onChosen={(takes) => set({ takes })}
      />
      <Refused fault={save.error} />
      <div className="mt-4 flex gap-2">
        <button type="submit" className="act-main" disabled={save.isPending || !draft.name.trim()}>
          Save the cutter
        </button>
        <button type="button" className="act" onClick={onDone}>
          Close
        </button>
        {cutter.id && (
          <button type="button" className="act" onClick={() => save.mutate({ retired: !cutter.retired })}>
            {cutter.retired ? "Bring back" : "Retire"}
          </button>
        )}
      </div>
    </form>
  );
}

interface SeveralProps<T extends string> {
  label: string;
  options: { value: T; text: string }[];
  chosen: readonly T[];
  onChosen(chosen: T[]): void;
}

function Several<T extends string>({ label, options, chosen, onChosen }: SeveralProps<T>) {
  return (
    <fieldset className="mt-3">
      <legend className="heading">{label}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {options.map(({ value, text }) => (
          <label key={value} className="flex items-center gap-1.5 text-sm">
            <Check
              checked={chosen.includes(value)}
              onChange={(event) =>
                onChosen(event.target.checked ? [...chosen, value] : chosen.filter((one) => one !== value))
              }
            />
            {text}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
