import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import { Check, Input, Select } from "@/entry/Entry";
import { Amount, Field, Length, Refused } from "@/pages/shelf/Fields";
import { FIRST_PIECE, type NewPiece, PieceFields, pieceOf } from "@/pages/shelf/PieceFields";
import { Pieces } from "@/pages/shelf/Pieces";
import { PressFields } from "@/pages/shelf/PressFields";
import { tell } from "@/state/design";
import { type Material, type Shelf, type Stock, useShelf } from "@/state/job";
import { useBenchUnit } from "@/state/units";

type Kind = Shelf["kinds"][number];

const FINISHES = ["matte", "gloss", "metallic", "glitter", "foil", "flock", "patterned"] as const;

interface FilmFormProps {
  film: Material | null;
  pieces?: Stock[];
  onDone(): void;
  onSaved(): unknown;
}

/** All that is known of a film, changed in one go; and the pieces there are of it. */
export function FilmForm(props: FilmFormProps) {
  const kinds = useShelf().data?.kinds ?? [];
  const usual = kinds[0]?.usual;
  const film = props.film ?? (usual && { ...usual, id: "", name: "" });
  return film ? <Fields {...props} start={film} kinds={kinds} /> : null;
}

function Fields({
  film,
  pieces = [],
  onDone,
  onSaved,
  start,
  kinds,
}: FilmFormProps & { start: Material; kinds: Kind[] }) {
  const [draft, setDraft] = useState<Material>(start);
  const [piece, setPiece] = useState<NewPiece>(FIRST_PIECE);
  const { unit } = useBenchUnit();
  // Two changes may come before it is drawn anew.
  const set = (changes: Partial<Material>) => setDraft((now) => ({ ...now, ...changes }));
  const save = useMutation({
    mutationFn: async (wanted: Material) => {
      const first = film || !kind?.in_pieces ? null : pieceOf(piece, unit);
      const id = film?.id ?? idOf(wanted.name);
      const made = await expectData(
        api.PUT("/api/films/{film}", { params: { path: { film: id } }, body: { ...wanted, id } }),
      );
      if (first) await expectData(api.POST("/api/pieces", { body: { ...first, material: id } }));
      return made;
    },
    onSuccess: () => {
      void onSaved();
      onDone();
    },
  });
  const copy = useMutation({
    mutationFn: (id: string) => expectData(api.POST("/api/films/{film}/copy", { params: { path: { film: id } } })),
    onSuccess: () => {
      void onSaved();
      onDone();
    },
    onError: tell,
  });
  const kind = kinds.find((one) => one.kind === draft.kind);
  const isPen = kind?.method === "drawn";
  // Another kind or unit writes them anew.
  const lengths = { key: `${draft.kind} ${unit}`, unit };
  const press = draft.press ?? kind?.usual.press;
  const over = draft.lies_over ?? kind?.over ?? [];
  const under = draft.lies_under ?? kind?.under ?? [];
  return (
    <form
      aria-label={film ? film.name : "New film"}
      className="mb-4 rounded-lg border border-line bg-paper p-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({ ...draft, press: kind?.method === "heat-transfer" ? (press ?? null) : null });
      }}
    >
      <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-5 gap-y-3">
        <Field label="Name" wide>
          <Input
            required
            maxLength={120}
            className="w-full"
            value={draft.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </Field>
        <Field label="Kind">
          <Select
            className="w-full"
            value={draft.kind}
            onChange={(e) => {
              // A kind brings how its films are cut, pressed and laid.
              const { id, name, colour, retired } = draft;
              const usual = kinds.find((one) => one.kind === e.target.value)?.usual;
              if (usual) set({ ...usual, id, name, colour, retired });
            }}
          >
            {kinds.map(({ kind, says }) => (
              <option key={kind} value={kind}>
                {says}
              </option>
            ))}
          </Select>
        </Field>
        <Field label="Colour">
          <input
            type="color"
            className="h-8 w-full"
            value={draft.colour}
            onChange={(e) => set({ colour: e.target.value })}
          />
        </Field>
        {isPen ? (
          <Length
            label="Width of its line"
            mm={Number(draft.line_mm)}
            unit="mm"
            onChange={(line_mm) => set({ line_mm })}
          />
        ) : (
          <Field label="Finish">
            <Select
              className="w-full"
              value={draft.finish.kind}
              onChange={(e) => set({ finish: { ...draft.finish, kind: e.target.value as (typeof FINISHES)[number] } })}
            >
              {FINISHES.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </Select>
          </Field>
        )}
      </div>
      {!film && kind?.in_pieces && <PieceFields piece={piece} onPiece={setPiece} unit={unit} />}
      {!isPen && (
        <details open={film !== null} className="mt-3">
          <summary className="heading cursor-pointer">How it is cut and laid</summary>
          <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-5 gap-y-3">
            <Field label="Cut from">
              <Select
                className="w-full"
                value={draft.face}
                onChange={(e) => set({ face: e.target.value as Material["face"] })}
              >
                <option value="front">the front, as seen</option>
                <option value="back">the back, mirrored</option>
              </Select>
            </Field>
            <Field label="Turning">
              <Select
                className="w-full"
                value={draft.grain}
                onChange={(e) => set({ grain: e.target.value as Material["grain"] })}
              >
                <option value="free">any way round</option>
                <option value="half">half turns only</option>
                <option value="none">not at all</option>
              </Select>
            </Field>
            <Amount label="Cost per m²" value={draft.cost_m2} onChange={(cost_m2) => set({ cost_m2 })} />
            <Length
              label="Spacing"
              mm={Number(draft.spacing_mm)}
              {...lengths}
              onChange={(spacing_mm) => set({ spacing_mm })}
            />
            <Length
              label="Margin"
              mm={Number(draft.margin_mm)}
              {...lengths}
              onChange={(margin_mm) => set({ margin_mm })}
            />
            <Length
              label="Narrowest part"
              mm={draft.least_part_mm}
              {...lengths}
              onChange={(least_part_mm) => set({ least_part_mm })}
            />
            <Length
              label="Narrowest waste"
              mm={draft.least_waste_mm}
              {...lengths}
              onChange={(least_waste_mm) => set({ least_waste_mm })}
            />
            <Amount
              label="Blade force, g"
              value={draft.blade.force_g}
              onChange={(force_g) => set({ blade: { ...draft.blade, force_g: Math.round(force_g) } })}
            />
            <Amount
              label="Blade speed, mm/s"
              value={draft.blade.speed_mm_s}
              onChange={(speed_mm_s) => set({ blade: { ...draft.blade, speed_mm_s } })}
            />
            <Amount
              label="Passes"
              value={draft.blade.passes}
              onChange={(passes) => set({ blade: { ...draft.blade, passes: Math.max(1, Math.round(passes)) } })}
            />
            <Field label="Blade">
              <Select
                className="w-full"
                value={draft.blade.angle_deg}
                onChange={(e) => set({ blade: { ...draft.blade, angle_deg: Number(e.target.value) as 30 | 45 | 60 } })}
              >
                <option value={30}>30°</option>
                <option value={45}>45°</option>
                <option value={60}>60°</option>
              </Select>
            </Field>
            <Length
              label="Tip trails by"
              mm={draft.blade.offset_mm}
              {...lengths}
              onChange={(offset_mm) => set({ blade: { ...draft.blade, offset_mm } })}
            />
            {press && kind?.method === "heat-transfer" && <PressFields press={press} draft={draft} set={set} />}
          </div>
          <KindsField label="May lie over" kinds={kinds} chosen={over} onChosen={(lies_over) => set({ lies_over })} />
          <KindsField
            label="What may lie on it"
            kinds={kinds}
            chosen={under}
            onChosen={(lies_under) => set({ lies_under })}
          />
          <Amount
            label="Films on one another, itself included"
            value={draft.most_films ?? kind?.most ?? 4}
            onChange={(most) => set({ most_films: Math.max(1, Math.round(most)) })}
          />
        </details>
      )}
      <Refused fault={save.error} />
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <button type="submit" className="act-main" disabled={save.isPending || !draft.name.trim()}>
          {film ? "Save" : "Put it on the shelf"}
        </button>
        <button type="button" className="act" onClick={onDone}>
          Close
        </button>
        {film && (
          <>
            <button type="button" className="act" onClick={() => copy.mutate(film.id)}>
              Copy
            </button>
            <button type="button" className="act" onClick={() => save.mutate({ ...film, retired: !film.retired })}>
              {film.retired ? "Bring back" : "Retire"}
            </button>
          </>
        )}
      </div>
      {film && kind?.in_pieces && <Pieces film={film} pieces={pieces} onSaved={onSaved} />}
    </form>
  );
}

interface KindsFieldProps {
  label: string;
  kinds: Kind[];
  chosen: Kind["kind"][];
  onChosen(kinds: Kind["kind"][]): void;
}

function KindsField({ label, kinds, chosen, onChosen }: KindsFieldProps) {
  return (
    <fieldset className="mt-3">
      <legend className="heading">{label}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {kinds.map(({ kind, says }) => (
          <label key={kind} className="flex items-center gap-1.5 text-sm">
            <Check
              checked={chosen.includes(kind)}
              onChange={(event) =>
                onChosen(event.target.checked ? [...chosen, kind] : chosen.filter((one) => one !== kind))
              }
            />
            {says}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** An id from a name, with a few letters of chance so that no two are the same. */
function idOf(name: string): string {
  const plain =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^[^a-z]+|-+$/g, "")
      .slice(0, 28) || "film";
  return `${plain}-${Math.random().toString(36).slice(2, 7)}`;
}
