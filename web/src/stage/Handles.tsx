import { type PointerEvent, useRef, useState } from "react";
import type { Art } from "@/api/client";
import { showLength } from "@/geometry/lengths";
import { type Box, type Point, toMm, toPixel, type View } from "@/geometry/transform";
import { type MadeEdit, useEdit, useUnit } from "@/state/design";
import { useTry } from "@/state/useTry";
import { GRIPS, type Grip, gripped, type Handled, spotOf } from "./handles";
import type { Pane } from "./look";
import { within } from "./useViewport";

interface HandlesProps {
  art: Art;
  box: Box;
  view: View;
  pane: Pane;
}

const TURN_AWAY_PX = 26;
const TALL_PX = 90;
const FIGURE_PX = 32;

/** Handles round the chosen art: corners scale it, sides stretch it, the one above turns it; each shows its figure. */
export function Handles({ art, box, view, pane }: HandlesProps) {
  const edit = useEdit();
  const attempt = useTry();
  const unit = useUnit();
  const [now, setNow] = useState<Handled | null>(null);
  const start = useRef<{ grip: Grip; box: Box; from: Point } | null>(null);
  const upright = art.place.turn_deg % 360 === 0;
  const shown = now?.box ?? box;
  const [a, b] = [toPixel(view, { x: shown.left, y: shown.top }), toPixel(view, { x: shown.right, y: shown.bottom })];
  if (b.x - a.x < 24 && b.y - a.y < 24) return null;

  const mmAt = (event: PointerEvent<Element>): Point | null => {
    const table = event.currentTarget.closest("section");
    if (!table) return null;
    const at = within(table, event);
    return toMm(view, { x: at.x - pane.left, y: at.y });
  };
  const made = (handled: Handled): MadeEdit => gripped(art.id, handled);
  const handlers = (grip: Grip) => ({
    onPointerDown(event: PointerEvent<Element>) {
      if (event.button !== 0) return;
      event.preventDefault();
      event.currentTarget.setPointerCapture(event.pointerId);
      const from = mmAt(event);
      if (from) start.current = { grip, box, from };
    },
    onPointerMove(event: PointerEvent<Element>) {
      const at = mmAt(event);
      if (!start.current || !at) return;
      const handled = spotOf(start.current, at, { steady: event.shiftKey, middle: event.altKey });
      setNow(handled);
      attempt(made(handled));
    },
    onPointerUp() {
      start.current = null;
      if (now) void edit(made(now));
      setNow(null);
    },
    onPointerCancel() {
      start.current = null;
      setNow(null);
    },
  });
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const spots: Record<Grip, Point> = {
    nw: a,
    ne: { x: b.x, y: a.y },
    se: b,
    sw: { x: a.x, y: b.y },
    n: { x: middle.x, y: a.y },
    e: { x: b.x, y: middle.y },
    s: { x: middle.x, y: b.y },
    w: { x: a.x, y: middle.y },
    // Within the box, where it never leaves the table; over it where there is no room.
    turn: { x: middle.x, y: b.y - a.y > TALL_PX ? a.y + TURN_AWAY_PX : a.y - TURN_AWAY_PX },
  };
  const figure = now
    ? now.grip === "turn"
      ? `${now.turn.toFixed(1)}°`
      : `${showLength(now.box.right - now.box.left, unit)} × ${showLength(now.box.bottom - now.box.top, unit)}`
    : null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-y-0 right-0" style={{ left: pane.left }}>
      <div
        className="cased absolute border border-chosen"
        style={{
          left: a.x,
          top: a.y,
          width: b.x - a.x,
          height: b.y - a.y,
          transform: now?.grip === "turn" ? `rotate(${now.turn}deg)` : undefined,
        }}
      />
      {GRIPS.filter(({ grip, side }) => (upright || !side) && (grip !== "n" || b.x - a.x > 60)).map(
        ({ grip, cursor }) => (
          <span
            key={grip}
            data-grip={grip}
            className={`pointer-events-auto absolute grid h-6 w-6 touch-none place-items-center ${cursor}`}
            style={{ left: spots[grip].x - 12, top: spots[grip].y - 12 }}
            {...handlers(grip)}
          >
            <span
              className={`border-2 border-chosen bg-table ${grip === "turn" ? "h-3.5 w-3.5 rounded-full" : "h-2.5 w-2.5"}`}
            />
          </span>
        ),
      )}
      {figure && (
        <p
          className="measure absolute -translate-x-1/2 rounded bg-ink px-2 py-0.5 text-sm whitespace-nowrap text-white"
          style={{ left: middle.x, top: Math.min(b.y + 12, pane.height - FIGURE_PX) }}
        >
          {figure}
        </p>
      )}
    </div>
  );
}
