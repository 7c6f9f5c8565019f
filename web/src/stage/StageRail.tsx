import { Slider } from "radix-ui";
import { useMemo } from "react";
import { Select } from "@/entry/Entry";
import { showLength, showTime } from "@/geometry/lengths";
import { useOpenDesign, useUnit } from "@/state/design";
import { LENSES, REFERENCES, useView } from "@/state/view";
import { figuresOf } from "./look";

interface StageRailProps {
  /** Whether there is no original to look at, or none through this lens. */
  still: boolean;
  scale: number | null;
  zoom(steps: number): void;
  fit(): void;
}

/** Beside the light table, so that nothing lies on the decal: how it is looked at, its figures, and how large it is shown. */
export function StageRail({ still, ...zooming }: StageRailProps) {
  return (
    <aside
      aria-label="How the decal is looked at"
      className="flex min-h-0 flex-col gap-5 overflow-y-auto border-l border-line bg-paper px-2 pt-3 pb-2 text-sm narrow:flex-row narrow:items-center narrow:gap-3 narrow:overflow-x-auto narrow:overflow-y-hidden narrow:border-t narrow:border-l-0 narrow:py-1 narrow:whitespace-nowrap"
    >
      <Lenses />
      <Original still={still} />
      <Closer still={still} />
      <Figures />
      <Hidden />
      <Zoom {...zooming} />
    </aside>
  );
}

function Lenses() {
  const { lens, look } = useView();
  return (
    <fieldset className="flex flex-col narrow:flex-row" aria-label="Lens">
      {LENSES.map((name) => (
        <Toggle key={name} on={lens === name} onToggle={() => look(name)}>
          {name}
        </Toggle>
      ))}
    </fieldset>
  );
}

/** The picture or file that was brought in, held against the decal. */
function Original({ still }: { still: boolean }) {
  const { original, fade, reference, refer } = useView();
  return (
    <div className="flex flex-col gap-1.5 px-1 text-soft narrow:flex-row narrow:items-center narrow:[&>:last-child]:w-24">
      <span id="fade">Original</span>
      <Select
        aria-label="Where the original is shown"
        className="py-0.5 disabled:opacity-40"
        value={reference}
        disabled={still}
        onChange={(event) => {
          refer(event.target.value as typeof reference);
          if (original === 0) fade(event.target.value === "over" ? 0.5 : 1);
        }}
      >
        {REFERENCES.map((where) => (
          <option key={where}>{where}</option>
        ))}
      </Select>
      <Slider.Root
        aria-labelledby="fade"
        className="relative flex h-6 touch-none items-center data-[disabled]:opacity-40"
        value={[Math.round(original * 100)]}
        disabled={still}
        onValueChange={([value]) => fade((value ?? 0) / 100)}
      >
        <Slider.Track className="relative h-0.5 flex-1 bg-firm">
          <Slider.Range className="absolute h-full bg-chosen" />
        </Slider.Track>
        <Slider.Thumb
          aria-labelledby="fade"
          className="block h-3.5 w-3.5 rounded-full border-2 border-chosen bg-white"
        />
      </Slider.Root>
    </div>
  );
}

function Closer({ still }: { still: boolean }) {
  const { lens, loupe, magnify, nodes, showNodes } = useView();
  return (
    <div className="flex flex-col narrow:flex-row">
      <Toggle on={loupe} disabled={still} onToggle={() => magnify(!loupe)}>
        Loupe
      </Toggle>
      <Toggle on={nodes} disabled={lens === "Exploded"} onToggle={() => showNodes(!nodes)}>
        Nodes
      </Toggle>
    </div>
  );
}

interface ToggleProps {
  on: boolean;
  disabled?: boolean;
  onToggle(): void;
  children: string;
}

function Toggle({ on, disabled = false, onToggle, children }: ToggleProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled}
      onClick={onToggle}
      className="border-l-4 border-transparent py-1 pl-1.5 narrow:pr-1 text-left text-soft hover:text-ink disabled:opacity-40 aria-pressed:border-chosen aria-pressed:font-semibold aria-pressed:text-ink"
    >
      {children}
    </button>
  );
}

/** The figures of the whole decal. */
function Figures() {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const { length, nodes, seconds } = useMemo(() => figuresOf(built), [built]);
  if (built.layers.length === 0) return <p className="mt-auto px-1 text-soft narrow:mt-0">no films</p>;
  return (
    <ul
      aria-label="Figures of the decal"
      className="measure mt-auto flex flex-col gap-1.5 px-1 leading-tight text-soft narrow:mt-0 narrow:flex-row narrow:gap-3"
    >
      <li>{built.layers.length === 1 ? "1 film" : `${built.layers.length} films`}</li>
      <li>{built.max_thickness === 1 ? "1 film thick" : `up to ${built.max_thickness} films thick`}</li>
      <li>{showLength(length, unit)} to cut</li>
      <li>{nodes} nodes</li>
      <li title="At 80 mm a second, slower in turns">about {showTime(seconds)}</li>
    </ul>
  );
}

/** Says that films are hidden, wherever the decal is looked at, and brings them back. */
function Hidden() {
  const { built } = useOpenDesign();
  const { hidden, showAll } = useView();
  const away = built.layers.filter((layer) => hidden.includes(layer.film));
  const names = away.map((layer) => layer.name).join(", ");
  return (
    <div role="status">
      {away.length > 0 && (
        <div className="flex flex-col gap-1.5 border-l-4 border-fail pl-1.5">
          <span title={names} className="line-clamp-3 break-words">
            {away.length === 1 ? `${names} is hidden` : `${away.length} films are hidden`}
          </span>
          <button type="button" className="act self-start px-2" onClick={showAll}>
            Show all
          </button>
        </div>
      )}
    </div>
  );
}

const PX_PER_MM = 96 / 25.4;

/** How large the decal is shown, and ways to change it. */
function Zoom({ scale, zoom, fit }: Omit<StageRailProps, "still">) {
  const { built } = useOpenDesign();
  return (
    <div className="-mx-1 flex items-center justify-between text-soft narrow:order-first narrow:mx-0 narrow:shrink-0">
      <button type="button" aria-label="Smaller" className="h-6 w-6 shrink-0" onClick={() => zoom(-1)}>
        −
      </button>
      <button
        type="button"
        className="measure h-6 flex-1 text-center narrow:min-w-12"
        title="Fit the decal"
        onClick={fit}
      >
        {scale && built.layers.length > 0 ? `${Math.round((scale / PX_PER_MM) * 100)} %` : ""}
      </button>
      <button type="button" aria-label="Larger" className="h-6 w-6 shrink-0" onClick={() => zoom(1)}>
        +
      </button>
    </div>
  );
}
