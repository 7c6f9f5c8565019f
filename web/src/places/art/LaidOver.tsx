import { type PointerEvent, useEffect, useState } from "react";
import type { Replacing } from "@/api/sources";
import { ARROWS } from "@/geometry/arrows";
import type { Point } from "@/geometry/transform";

const STEP_MM = { plain: 0.1, wide: 1 };

interface LaidOverProps {
  look: Replacing["look"];
  name: string;
  /** Whether it is being laid anew, so that what is shown is the last. */
  coming: boolean;
  /** It was moved by so many mm. */
  onMove(by: Point): void;
}

/** What replaces a source, under the outlines of that: drawn to its place, or moved by keys. */
export function LaidOver({ look, name, coming, onMove }: LaidOverProps) {
  const [from, setFrom] = useState<Point | null>(null);
  const [by, setBy] = useState<Point | null>(null);
  // What was drawn stays drawn until it is laid there.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new look is what it waits for
  useEffect(() => setBy(null), [look]);
  const mmPerPx = (element: Element) => look.wide_mm / Math.max(1, element.getBoundingClientRect().width);
  const way = (event: PointerEvent<Element>): Point | null =>
    from && { x: event.clientX - from.x, y: event.clientY - from.y };
  return (
    <div
      role="application"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: arrow keys move it
      tabIndex={0}
      aria-label={`${name} under the outlines of what it replaces; arrow keys move it by 0.1 mm`}
      className={`relative max-h-[26rem] w-full cursor-move touch-none overflow-hidden rounded border border-line bg-table ${coming ? "opacity-60" : ""}`}
      style={{ aspectRatio: `${look.wide_mm} / ${look.high_mm}` }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom({ x: event.clientX, y: event.clientY });
      }}
      onPointerMove={(event) => from && setBy(way(event))}
      onPointerUp={(event) => {
        const px = way(event);
        setFrom(null);
        const share = mmPerPx(event.currentTarget);
        if (px && Math.hypot(px.x, px.y) > 2) onMove({ x: px.x * share, y: px.y * share });
        else setBy(null);
      }}
      onPointerCancel={() => {
        setFrom(null);
        setBy(null);
      }}
      onKeyDown={(event) => {
        const arrow = ARROWS[event.key];
        if (!arrow) return;
        event.preventDefault();
        const mm = event.shiftKey ? STEP_MM.wide : STEP_MM.plain;
        onMove({ x: arrow[0] * mm, y: arrow[1] * mm });
      }}
    >
      <img
        src={picture(look.new)}
        alt=""
        draggable={false}
        className="absolute inset-0 h-full w-full"
        style={by ? { transform: `translate(${by.x}px, ${by.y}px)` } : undefined}
      />
      <img src={picture(look.over)} alt="" draggable={false} className="absolute inset-0 h-full w-full" />
    </div>
  );
}

function picture(svg: string): string {
  return `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
}
