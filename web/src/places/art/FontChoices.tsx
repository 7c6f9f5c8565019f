import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, expectData, type FontChoices, type Lettering } from "@/api/client";
import { NumberField } from "@/parts/NumberField";
import { Panel } from "@/parts/Panel";
import { SelectField } from "@/parts/SelectField";
import type { Taken } from "@/state/moves";

const MOST_SHOWN = 24;
const OWN = "own";
type Axes = NonNullable<Lettering["axes"]>;
type Forms = NonNullable<Lettering["forms"]>;
type TakenForms = NonNullable<Taken<Lettering>["forms"]>;

/** What a font lets choose, with its forms for the letters of a text; nothing while it is asked for. */
function useFontChoices(font: string, text: string): FontChoices | undefined {
  const letters = [...new Set([...text].filter((character) => character.trim()))].slice(0, MOST_SHOWN).join("") || "A";
  return useQuery({
    queryKey: ["font-choices", font, letters],
    queryFn: () =>
      expectData(api.GET("/api/fonts/{font}/choices", { params: { path: { font }, query: { text: letters } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  }).data;
}

/** How heavy, wide and so on a font is that can be varied: by the names its maker gave, or axis by axis. */
export function FontAxes({ font, axes, onAxes }: { font: string; axes: Axes; onAxes(axes: Axes): unknown }) {
  const choices = useFontChoices(font, "A");
  if (!choices?.axes.length) return null;
  const at = (tag: string, usual: number) => axes.find((axis) => axis.tag === tag)?.value ?? usual;
  const standsAt = (style: FontChoices["styles"][number]) =>
    choices.axes.every((axis) => {
      const own = style.axes.find((place) => place.tag === axis.tag)?.value ?? axis.usual;
      return Math.abs(own - at(axis.tag, axis.usual)) < 1e-3;
    });
  const now = choices.styles.findIndex(standsAt);
  const move = (tag: string, value: number, least: number, most: number) => {
    const others = axes.filter((axis) => axis.tag !== tag);
    return onAxes([...others, { tag, value: Math.min(most, Math.max(least, value)) }]);
  };
  return (
    <div className="flex flex-col gap-2">
      {choices.styles.length > 0 && (
        <SelectField
          label="Style"
          value={now < 0 ? OWN : String(now)}
          options={[
            ...choices.styles.map((style, k) => ({ value: String(k), text: style.name })),
            ...(now < 0 ? [{ value: OWN, text: "of its own" }] : []),
          ]}
          onChange={(value) => value !== OWN && onAxes(choices.styles[Number(value)]?.axes ?? [])}
        />
      )}
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {choices.axes.map((axis) => (
          <NumberField
            key={axis.tag}
            label={axis.name}
            value={at(axis.tag, axis.usual)}
            step={(axis.most - axis.least) / 100 >= 1 ? 10 : 0.1}
            onCommit={(value) => move(axis.tag, value, axis.least, axis.most)}
          />
        ))}
      </div>
    </div>
  );
}

interface LetterFormsProps {
  font: string;
  text: string;
  forms: Forms;
  onForms(forms: TakenForms): unknown;
}

/** Swashes, small capitals, alternates, figures: the other forms a font has for these letters, each drawn. */
export function LetterForms({ font, text, forms, onForms }: LetterFormsProps) {
  const choices = useFontChoices(font, text);
  if (!choices?.forms.length) return null;
  const set = (tag: string, value: number) =>
    onForms([...forms.filter((form) => form.tag !== tag), ...(value ? [{ tag, value }] : [])]);
  const chosen = choices.forms.filter((form) => forms.some((own) => own.tag === form.tag));
  return (
    <Panel
      label="Other forms of letters"
      side="bottom"
      width="w-80"
      triggerClass="act self-start text-sm"
      trigger={chosen.length ? `Other forms: ${chosen.map((form) => form.name).join(", ")}` : "Other forms…"}
    >
      <p className="mb-2 font-semibold">Other forms of these letters</p>
      <ul className="flex flex-col gap-3">
        {choices.forms.map((form) => {
          const now = forms.find((own) => own.tag === form.tag)?.value ?? 0;
          return (
            <li key={form.tag}>
              <fieldset className="flex flex-wrap gap-1" aria-label={form.name}>
                <legend className="heading mb-0.5">{form.name}</legend>
                {[choices.plain, ...form.shapes].map((shape, k) => (
                  <button
                    // biome-ignore lint/suspicious/noArrayIndexKey: the place is what a form is known by
                    key={k}
                    type="button"
                    aria-pressed={now === k}
                    aria-label={k === 0 ? "as they are" : form.shapes.length > 1 ? `form ${k}` : "this form"}
                    className="min-w-10 max-w-full overflow-hidden rounded border border-line px-1 hover:border-firm aria-pressed:border-chosen aria-pressed:bg-tint"
                    onClick={() => set(form.tag, k)}
                  >
                    <Drawn path={shape} />
                  </button>
                ))}
              </fieldset>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}

/** Letters drawn small, as wide as they are. */
function Drawn({ path }: { path: string }) {
  const numbers = path.match(/-?\d+(?:\.\d+)?/g)?.map(Number) ?? [];
  const xs = numbers.filter((_, k) => k % 2 === 0);
  const right = Math.max(8, ...xs);
  const left = Math.min(0, ...xs);
  return (
    <svg viewBox={`${left - 1} -15 ${right - left + 2} 22`} className="h-8 max-w-full" aria-hidden="true">
      <path d={path} fill="currentColor" fillRule="nonzero" />
    </svg>
  );
}
