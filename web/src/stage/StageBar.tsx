import { Slider } from "radix-ui";
import { LENSES, REFERENCES, useView } from "@/state/view";

/** How the decal is looked at: the lens, the original against it, a loupe, and the nodes. */
export function StageBar({ still }: { still: boolean }) {
  const { lens, look, original, fade, reference, refer, loupe, magnify, nodes, showNodes } = useView();
  return (
    <div className="pointer-events-auto flex items-center gap-4 rounded-full border border-line bg-paper/95 px-3 py-1.5">
      <fieldset className="flex gap-0.5" aria-label="Lens">
        {LENSES.map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={lens === name}
            onClick={() => look(name)}
            className="rounded-full px-2.5 py-0.5 text-soft aria-pressed:bg-ink aria-pressed:text-white"
          >
            {name}
          </button>
        ))}
      </fieldset>
      <div className="flex items-center gap-2 text-soft">
        <span id="fade">Original</span>
        <select
          aria-label="Where the original is shown"
          className="rounded border border-firm bg-table px-1 py-0.5 text-sm"
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
        </select>
        <Slider.Root
          aria-labelledby="fade"
          className="relative flex h-5 w-20 touch-none items-center data-[disabled]:opacity-40"
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
  disabled: boolean;
  onToggle(): void;
  children: string;
}

function Toggle({ on, disabled, onToggle, children }: ToggleProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled}
      onClick={onToggle}
      className="text-soft underline decoration-transparent underline-offset-4 disabled:opacity-40 aria-pressed:font-semibold aria-pressed:text-chosen aria-pressed:decoration-chosen"
    >
      {children}
    </button>
  );
}
