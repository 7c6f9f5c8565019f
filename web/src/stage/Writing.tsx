import { type PointerEvent, useEffect, useRef, useState } from "react";
import type { Lettering } from "@/api/client";
import { type Box, type Point, toMm, toPixel, type View } from "@/geometry/transform";
import { useOpenDesign } from "@/state/design";
import { useWords } from "@/state/words";
import { caretAt, charactersOf, positionAt, unitsOf } from "./caret";
import { within } from "./useViewport";

interface WritingProps {
  art: Lettering;
  box: Box;
  /** Where the caret comes first, mm; null behind the last character. */
  at: Point | null;
  view: View;
  left: number;
  onEnd(): void;
}

const AROUND_PX = 12;

/** Words written where they lie: a field without a face over the lettering, and a caret between its letters. */
export function Writing({ art, box, at, view, left, onEnd }: WritingProps) {
  const { built } = useOpenDesign();
  const { text, type, keep } = useWords(art);
  const field = useRef<HTMLTextAreaElement>(null);
  const [selected, setSelected] = useState({ from: 0, to: 0 });
  const from = useRef<number | null>(null);
  const letters = built.arts.find((one) => one.id === art.id)?.letters ?? [];

  const select = (a: number, b: number) => {
    const [low, high] = [Math.min(a, b), Math.max(a, b)];
    field.current?.setSelectionRange(unitsOf(text, low), unitsOf(text, high), a > b ? "backward" : "forward");
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the caret comes to where it was asked for once
  useEffect(() => {
    field.current?.focus({ preventScroll: true });
    const begin = at ? positionAt(letters, text, at) : [...text].length;
    select(begin, begin);
  }, [at]);

  const placeOf = (event: PointerEvent<HTMLTextAreaElement>): number => {
    const table = event.currentTarget.closest("section");
    const spot = table ? within(table, event) : { x: 0, y: 0 };
    return positionAt(letters, text, toMm(view, { x: spot.x - left, y: spot.y }));
  };
  const onScreen = (b: Box) => {
    const [a, z] = [toPixel(view, { x: b.left, y: b.top }), toPixel(view, { x: b.right, y: b.bottom })];
    return { left: left + a.x, top: a.y, width: z.x - a.x, height: z.y - a.y };
  };
  const around = onScreen(box);
  const caret = selected.from === selected.to ? caretAt(letters, text, selected.to) : null;
  const bar = caret && onScreen({ left: caret.x, right: caret.x, top: caret.top, bottom: caret.bottom });
  return (
    <>
      <div aria-hidden className="pointer-events-none cased absolute border border-chosen" style={around} />
      {letters
        .filter(({ index }) => index >= selected.from && index < selected.to)
        .map((letter) => (
          <div
            key={letter.index}
            aria-hidden
            className="pointer-events-none absolute bg-chosen/30"
            style={onScreen(letter.box)}
          />
        ))}
      {bar && (
        <div
          aria-hidden
          className="caret pointer-events-none absolute w-1 border-x border-white bg-chosen"
          style={{ left: bar.left - 2, top: bar.top - 3, height: bar.height + 6 }}
        />
      )}
      <textarea
        ref={field}
        aria-label={`Words of ${text}`}
        value={text}
        maxLength={2000}
        dir="auto"
        wrap="off"
        className="absolute resize-none overflow-hidden opacity-0"
        style={{
          left: around.left - AROUND_PX,
          top: around.top - AROUND_PX,
          width: around.width + 2 * AROUND_PX,
          height: around.height + 2 * AROUND_PX,
        }}
        onChange={(event) => type(event.target.value)}
        onSelect={({ currentTarget: { value, selectionStart, selectionEnd } }) =>
          setSelected({ from: charactersOf(value, selectionStart), to: charactersOf(value, selectionEnd) })
        }
        onPointerDown={(event) => {
          event.preventDefault();
          event.currentTarget.focus({ preventScroll: true });
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = placeOf(event);
          select(from.current, from.current);
        }}
        onPointerMove={(event) => from.current !== null && select(from.current, placeOf(event))}
        onPointerUp={() => {
          from.current = null;
        }}
        onMouseDown={(event) => event.preventDefault()}
        onDoubleClick={() => select(0, [...text].length)}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.preventDefault();
          event.currentTarget.closest("section")?.querySelector<HTMLElement>("canvas[tabindex]")?.focus();
        }}
        onBlur={() => {
          keep();
          onEnd();
        }}
      />
    </>
  );
}
