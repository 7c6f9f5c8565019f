import { Select } from "@/entry/Entry";
import { Amount, Field } from "@/pages/shelf/Fields";
import type { Material } from "@/state/job";

type Press = NonNullable<Material["press"]>;

interface PressFieldsProps {
  press: Press;
  draft: Material;
  set(changes: Partial<Material>): void;
}

/** How a film is pressed, what it bears, and what it loses by it. */
export function PressFields({ press, draft, set }: PressFieldsProps) {
  const change = (changes: Partial<Press>) => set({ press: { ...press, ...changes } });
  return (
    <>
      <Amount
        label="Press, °C"
        value={press.celsius}
        onChange={(celsius) => change({ celsius: Math.round(celsius) })}
      />
      <Amount label="Seconds to tack" value={press.tack_s} onChange={(tack_s) => change({ tack_s })} />
      <Amount label="Seconds in full" value={press.full_s} onChange={(full_s) => change({ full_s })} />
      <Amount
        label="Hottest it bears, °C"
        value={press.bears_celsius ?? press.celsius + 10}
        onChange={(celsius) => change({ bears_celsius: Math.round(celsius) })}
      />
      <Amount
        label="Seconds it bears in all"
        value={press.bears_s ?? 2 * press.full_s}
        onChange={(bears_s) => change({ bears_s })}
      />
      <Amount label="Seconds from behind" value={press.behind_s} onChange={(behind_s) => change({ behind_s })} />
      <Field label="Peel">
        <Select
          className="w-full"
          value={press.peel}
          onChange={(event) => change({ peel: event.target.value as Press["peel"] })}
        >
          <option>hot</option>
          <option>warm</option>
          <option>cold</option>
        </Select>
      </Field>
      <Amount
        label="Shrink along, %"
        value={draft.shrink_along * 100}
        onChange={(share) => set({ shrink_along: share / 100 })}
      />
      <Amount
        label="Shrink across, %"
        value={draft.shrink_across * 100}
        onChange={(share) => set({ shrink_across: share / 100 })}
      />
    </>
  );
}
