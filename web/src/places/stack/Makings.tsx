import type { Edit, Layer, Making } from "@/api/client";
import { contrasting } from "@/geometry/contrast";
import { squareMm } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { Panel, PanelItem } from "@/parts/Panel";
import { References } from "@/parts/References";
import { SelectField } from "@/parts/SelectField";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useView } from "@/state/view";

type NewMaking = Extract<Edit, { kind: "add-making" }>["making"];

const KINDS: { text: string; hint: string; colour: string; make(of: string[]): NewMaking }[] = [
  {
    text: "Outline shadow",
    hint: "grown all round, a film below",
    colour: "#1d2b53",
    make: (of) => ({ kind: "outline-shadow", film: "new", of, mm: 2 }),
  },
  {
    text: "Drop shadow",
    hint: "swept along an angle, a film below",
    colour: "#25231e",
    make: (of) => ({ kind: "drop-shadow", film: "new", of, angle_deg: 45, length_mm: 4 }),
  },
  {
    text: "Stitch line",
    hint: "dashes along the edge, a film above",
    colour: "#fff4d6",
    make: (of) => ({ kind: "stitch-line", film: "new", of }),
  },
  {
    text: "Band",
    hint: "a ring between two distances",
    colour: "#f2b632",
    make: (of) => ({ kind: "band", film: "new", of, inner_mm: 1, outer_mm: 2.5 }),
  },
];

/** Shadows, stitches and bands: made of a film, of some, or of the whole decal. */
export function MakeOf({ film, label }: { film: string | null; label: string }) {
  const edit = useEdit();
  const { built } = useOpenDesign();
  const choose = useView((view) => view.choose);
  // A shadow in the colour of what casts it would not be seen.
  const sources = built.layers.filter((layer) => film === null || layer.film === film).map((layer) => layer.colour);
  return (
    <Panel label={label} trigger={label} triggerClass="act text-sm" width="w-72">
      {KINDS.map((kind) => (
        <PanelItem
          key={kind.text}
          onSelect={() =>
            edit({
              kind: "add-making",
              making: kind.make(film ? [film] : []),
              colour: contrasting(kind.colour, sources),
            }).then((design) => {
              const made = design?.recipe.makings?.at(-1);
              if (made) choose(made.film);
            })
          }
        >
          <span>
            <span className="block font-semibold">{kind.text}</span>
            <span className="block text-sm text-soft">{kind.hint}</span>
          </span>
        </PanelItem>
      ))}
    </Panel>
  );
}

/** The measures of whatever makes up a film without being art. */
export function MakingFields({ layer }: { layer: Layer }) {
  const { recipe } = useOpenDesign();
  const own = (recipe.makings ?? []).filter((making) => making.film === layer.film);
  return own.map((making) => <OneMaking key={making.id} making={making} />);
}

function OneMaking({ making }: { making: Making }) {
  const edit = useEdit();
  const { built } = useOpenDesign();
  const change = (changes: object) =>
    edit(({ recipe: { makings = [] } }) => {
      const now = makings.find((candidate) => candidate.id === making.id);
      return now ? { kind: "change-making", making: { ...now, ...changes } as never } : null;
    });
  const films = built.layers.filter((layer) => layer.film !== making.film);
  return (
    <div className="mt-1 flex flex-col gap-2 border-b border-line pb-2">
      <div className="grid grid-cols-[64px_1fr] items-center gap-2">
        <span className="heading">Made of</span>
        <References
          label="Made of"
          none="the whole decal"
          refs={making.of}
          options={[
            ...films.map((layer) => ({ key: layer.film, text: layer.name, colour: layer.colour })),
            ...built.arts.map((art) => ({ key: art.id, text: art.name })),
          ]}
          onRefs={(of) => change({ of })}
        />
      </div>
      {making.kind === "outline-shadow" && <OutlineFields making={making} change={change} />}
      {making.kind === "drop-shadow" && (
        <>
          <div className="flex justify-between">
            <NumberField
              label="Direction"
              value={making.angle_deg}
              suffix="°"
              step={5}
              onCommit={(angle_deg) => change({ angle_deg })}
            />
            <LengthField label="Length" mm={making.length_mm} onCommit={(length_mm) => change({ length_mm })} />
            <LengthField label="Thicker by" signed mm={making.grow_mm} onCommit={(grow_mm) => change({ grow_mm })} />
          </div>
          <SelectField
            over
            label="Drawn as"
            value={making.style}
            options={[
              { value: "block", text: "a block, swept all the way" },
              { value: "copy", text: "a copy at the end of the way" },
            ]}
            onChange={(style) => change({ style })}
          />
        </>
      )}
      {making.kind === "stitch-line" && (
        <>
          <div className="flex justify-between">
            <LengthField label="From the edge" signed mm={making.mm} onCommit={(mm) => change({ mm })} />
            <LengthField label="Dash" mm={making.dash_mm} onCommit={(dash_mm) => change({ dash_mm })} />
            <LengthField label="Gap" mm={making.gap_mm} onCommit={(gap_mm) => change({ gap_mm })} />
          </div>
          <div className="flex items-end justify-between">
            <LengthField label="Width" mm={making.width_mm} onCommit={(width_mm) => change({ width_mm })} />
            <SelectField
              over
              label="Ends"
              value={making.ends}
              options={[
                { value: "round", text: "round" },
                { value: "square", text: "square" },
              ]}
              onChange={(ends) => change({ ends })}
            />
          </div>
          <p className="text-sm text-soft">Inside is negative. Dashes are fitted so that the last meets the first.</p>
        </>
      )}
      {making.kind === "band" && (
        <div className="flex justify-between">
          <LengthField label="From" signed mm={making.inner_mm} onCommit={(inner_mm) => change({ inner_mm })} />
          <LengthField label="To" signed mm={making.outer_mm} onCommit={(outer_mm) => change({ outer_mm })} />
          <CornersField value={making.corners} onChange={(corners) => change({ corners })} />
        </div>
      )}
      <button
        type="button"
        className="quiet self-start text-sm"
        onClick={() => edit({ kind: "remove-making", making: making.id })}
      >
        Delete it
      </button>
    </div>
  );
}

type Outline = Extract<Making, { kind: "outline-shadow" }>;
type Corners = Outline["corners"];

function OutlineFields({ making, change }: { making: Outline; change(changes: object): Promise<unknown> }) {
  const unit = useUnit();
  const { mode, take, putDown } = useView();
  const holing = mode.kind === "holing" && mode.making === making.id;
  return (
    <>
      <div className="flex items-end justify-between">
        <LengthField label="Distance" mm={making.mm} onCommit={(mm) => change({ mm })} />
        <CornersField value={making.corners} onChange={(corners) => change({ corners })} />
      </div>
      <div className="flex items-end justify-between">
        <SelectField
          over
          label="Holes"
          value={making.holes}
          options={[
            { value: "keep", text: "stay open" },
            { value: "fill", text: "filled" },
            { value: "fill-small", text: "filled if small" },
            { value: "fill-chosen", text: "filled where clicked" },
          ]}
          onChange={(holes) => change({ holes })}
        />
        {making.holes === "fill-small" && (
          <NumberField
            label="Smaller than"
            value={Number((making.small_mm2 / squareMm(unit)).toFixed(4))}
            suffix={` ${unit}²`}
            onCommit={(small) => change({ small_mm2: small * squareMm(unit) })}
          />
        )}
        {making.holes === "fill-chosen" && (
          <button
            type="button"
            className="act text-sm"
            aria-pressed={holing}
            onClick={() => (holing ? putDown() : take({ kind: "holing", making: making.id }))}
          >
            {holing ? "Done clicking" : `Click holes (${making.chosen.length})`}
          </button>
        )}
      </div>
    </>
  );
}

function CornersField({ value, onChange }: { value: Corners; onChange(value: Corners): unknown }) {
  return (
    <SelectField
      over
      label="Corners"
      value={value}
      options={[
        { value: "round", text: "round" },
        { value: "mitre", text: "mitred" },
        { value: "bevel", text: "bevelled" },
      ]}
      onChange={onChange}
    />
  );
}
