import type { Built } from "@/api/client";
import { Select } from "@/entry/Entry";
import { useEdit, useOpenDesign } from "@/state/design";
import { usePensIHave } from "@/state/films";

type Drawn = Built["pens"][number];

/** A film that a pen draws on another: how, with which pen, on which film, and the way back to cutting it. */
export function PenRow({ pen }: { pen: Drawn }) {
  const { built } = useOpenDesign();
  const pens = usePensIHave();
  const edit = useEdit();
  const set = (changes: Partial<Pick<Drawn, "how" | "on" | "pen" | "line_mm">>) => {
    const { how, on, pen: chosen, line_mm } = { ...pen, ...changes };
    edit({ kind: "draw-film", film: pen.film, drawn: how, on, pen: chosen, line_mm });
  };
  const own = pens.find((one) => one.id === pen.pen);
  const width = own && Number(own.line_mm);
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line py-1.5 text-sm">
      <span className="h-4 w-4 shrink-0 rounded-full border border-firm" style={{ background: pen.colour }} />
      <Select
        aria-label={`How ${pen.name} is drawn`}
        className="py-0.5"
        value={pen.how}
        onChange={(event) => set({ how: event.target.value as Drawn["how"] })}
      >
        <option value="outlines">outlines</option>
        <option value="filled">filled in</option>
      </Select>
      <span>on</span>
      <Select
        aria-label={`Film that ${pen.name} is drawn on`}
        className="min-w-24 grow py-0.5"
        value={pen.on}
        onChange={(event) => set({ on: event.target.value })}
      >
        {built.layers.map((layer) => (
          <option key={layer.film} value={layer.film}>
            {layer.name}
          </option>
        ))}
      </Select>
      <span>with</span>
      <Select
        aria-label={`Pen that draws ${pen.name}`}
        className="min-w-24 grow py-0.5"
        value={own?.id ?? ""}
        onChange={(event) => {
          const taken = pens.find((one) => one.id === event.target.value);
          set(taken ? { pen: taken.id, line_mm: Number(taken.line_mm) } : { pen: null });
        }}
      >
        <option value="">a pen of its colour, {pen.line_mm} mm</option>
        {pens.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}, {one.line_mm} mm
          </option>
        ))}
      </Select>
      <button
        type="button"
        className="quiet"
        onClick={() => edit({ kind: "draw-film", film: pen.film, drawn: "no", on: null })}
      >
        Cut it
      </button>
      {width !== undefined && width !== pen.line_mm && pen.how === "filled" && (
        <button type="button" className="quiet" onClick={() => set({ line_mm: width })}>
          It is filled in for {pen.line_mm} mm: fill it in for {width} mm
        </button>
      )}
    </div>
  );
}
