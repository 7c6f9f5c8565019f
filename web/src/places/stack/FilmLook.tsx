import { useRef } from "react";
import { addPattern, type Finish, type Layer } from "@/api/client";
import { Select } from "@/entry/Entry";
import { readLength } from "@/geometry/lengths";
import { ColourInput } from "@/parts/ColourInput";
import { FilePicker, PICTURES } from "@/parts/FilePicker";
import { LengthField } from "@/parts/LengthField";
import { Panel, PanelItem } from "@/parts/Panel";
import { ShelfColours } from "@/parts/ShelfColours";
import { unread, useChange, useEdit, useOpenDesign, useUnit } from "@/state/design";

const FINISHES: { kind: Finish["kind"]; text: string }[] = [
  { kind: "matte", text: "Matte" },
  { kind: "gloss", text: "Gloss" },
  { kind: "metallic", text: "Metallic" },
  { kind: "glitter", text: "Glitter" },
  { kind: "foil", text: "Foil" },
  { kind: "flock", text: "Flock" },
  { kind: "patterned", text: "Patterned" },
];

export function finishText(kind: Finish["kind"]): string {
  return FINISHES.find((one) => one.kind === kind)?.text.toLowerCase() ?? kind;
}

/** How a film looks, and what it is cut from. */
export function FilmLook({ layer }: { layer: Layer }) {
  const { recipe } = useOpenDesign();
  const edit = useEdit();
  const own = recipe.films?.find((film) => film.film === layer.film);
  const { film, finish } = layer;
  const look = (changes: Partial<Finish>) =>
    edit(({ recipe: { films = [] } }) => {
      const now = films.find((choice) => choice.film === film)?.finish ?? finish;
      return { kind: "set-finish", film, finish: { ...now, ...changes } };
    });
  return (
    <div className="flex items-end justify-between gap-2">
      <div className="inline-flex flex-col">
        <span className="heading">Colour</span>
        <ColourInput
          label={`Colour of ${layer.name}`}
          colour={layer.colour}
          onColour={(colour) => edit({ kind: "set-film-colour", film, colour })}
        />
      </div>
      <div>
        <span className="heading block">Cut from</span>
        <Panel
          label={`Film that ${layer.name} is cut from`}
          trigger={own?.material ? (own.material === "any" ? "any" : "chosen") : "nearest"}
          triggerClass="act text-sm"
        >
          <p className="font-semibold">Cut {layer.name} from</p>
          <ShelfColours
            use={recipe.use}
            chosen={own?.material}
            onFilm={({ id, name, colour, finish }) =>
              edit({ kind: "take-material", film, material: id, name, colour, finish })
            }
          />
          <div className="mt-2 flex flex-col gap-1 border-t border-line pt-2">
            <PanelItem current={!own?.material} onSelect={() => edit({ kind: "take-material", film, material: null })}>
              The nearest of the shelf
            </PanelItem>
            <PanelItem
              current={own?.material === "any"}
              onSelect={() => edit({ kind: "take-material", film, material: "any" })}
            >
              Any film of this colour
            </PanelItem>
          </div>
        </Panel>
      </div>
      <div>
        <span className="heading block">Finish</span>
        <Panel
          label={`Finish of ${layer.name}: ${finish.kind}`}
          trigger={FINISHES.find((f) => f.kind === finish.kind)?.text}
          triggerClass="act text-sm"
        >
          <p className="mb-2 font-semibold">How the film looks</p>
          <div className="grid grid-cols-2 gap-1">
            {FINISHES.map(({ kind, text }) => (
              <button
                key={kind}
                type="button"
                aria-pressed={finish.kind === kind}
                className="rounded border border-transparent px-2 py-1 text-left hover:bg-bench aria-pressed:border-chosen aria-pressed:bg-tint"
                onClick={() => look({ kind })}
              >
                {text}
              </button>
            ))}
          </div>
          {finish.kind === "patterned" && <Pattern film={film} finish={finish} look={look} />}
          <p className="mt-2 text-sm text-soft">The look never changes a cut.</p>
        </Panel>
      </div>
    </div>
  );
}

interface PatternProps {
  film: string;
  finish: Finish;
  look(changes: Partial<Finish>): Promise<unknown>;
}

function Pattern({ film, finish, look }: PatternProps) {
  const { id } = useOpenDesign();
  const change = useChange(id);
  const unit = useUnit();
  const input = useRef<HTMLInputElement>(null);
  const measured = (field: "scale_mm" | "shift_x_mm" | "shift_y_mm") => async (text: string) => {
    const mm = readLength(text, unit);
    return mm === null ? unread(text) : look({ [field]: mm });
  };
  const upload = (file: File) => change({ do: "send", send: (base) => addPattern(id, base, film, file) });
  return (
    <div className="mt-3 flex flex-col gap-2 border-t border-line pt-2">
      <div className="flex items-end justify-between">
        <label className="inline-flex flex-col">
          <span className="heading">Repeats</span>
          <Select
            value={finish.pattern}
            onChange={(event) => {
              const pattern = event.target.value as Finish["pattern"];
              if (pattern === "picture" && !finish.picture) input.current?.click();
              else void look({ pattern });
            }}
          >
            <option value="stripes">stripes</option>
            <option value="dots">dots</option>
            <option value="checks">checks</option>
            <option value="picture">a picture…</option>
          </Select>
        </label>
        <div className="inline-flex flex-col">
          <span className="heading">Second colour</span>
          <ColourInput label="Second colour" colour={finish.second} onColour={(second) => look({ second })} />
        </div>
      </div>
      <FilePicker
        label="Picture of the pattern"
        accept={PICTURES}
        className={finish.pattern === "picture" ? "act self-start text-sm" : "sr-only"}
        field={input}
        onFile={upload}
      >
        Another picture
      </FilePicker>
      <div className="flex justify-between">
        <LengthField label="Size" mm={finish.scale_mm} onCommit={measured("scale_mm")} />
        <LengthField label="Right by" signed mm={finish.shift_x_mm} onCommit={measured("shift_x_mm")} />
        <LengthField label="Down by" signed mm={finish.shift_y_mm} onCommit={measured("shift_y_mm")} />
      </div>
    </div>
  );
}
