import type { Built } from "@/api/client";
import { Select } from "@/entry/Entry";
import { useEdit, useOpenDesign } from "@/state/design";

/** A film that a pen draws on another: how, on which, and the way back to cutting it. */
export function PenRow({ pen }: { pen: Built["pens"][number] }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const set = (drawn: "no" | "outlines" | "filled", on: string) =>
    edit({ kind: "draw-film", film: pen.film, drawn, on });
  return (
    <div className="flex items-center gap-2 border-b border-line py-1.5 text-sm">
      <span className="h-4 w-4 shrink-0 rounded-full border border-firm" style={{ background: pen.colour }} />
      <Select
        aria-label={`How ${pen.name} is drawn`}
        className="py-0.5"
        value={pen.how}
        onChange={(event) => set(event.target.value as "outlines" | "filled", pen.on)}
      >
        <option value="outlines">outlines</option>
        <option value="filled">filled in</option>
      </Select>
      <span>on</span>
      <Select
        aria-label={`Film that ${pen.name} is drawn on`}
        className="grow py-0.5"
        value={pen.on}
        onChange={(event) => set(pen.how, event.target.value)}
      >
        {built.layers.map((layer) => (
          <option key={layer.film} value={layer.film}>
            {layer.name}
          </option>
        ))}
      </Select>
      <button type="button" className="quiet" onClick={() => set("no", pen.on)}>
        Cut it
      </button>
    </div>
  );
}
