import { useState } from "react";
import { type Point, toMm, type View } from "@/geometry/transform";
import type { HandEvent } from "./grip";

const STEP_PX = { plain: 8, wide: 40 };

interface Aim {
  readonly view: View | null;
  readonly pane: { readonly width: number; readonly height: number };
  /** Whether a trail is drawn: Enter begins it, and ends it. */
  readonly draws: boolean;
  readonly send: (event: HandEvent) => void;
  readonly hover: (mm: Point | null) => void;
}

/** A crosshair on the table, so that all that is pointed at can be pointed at by keys. */
export function useCrosshair({ view, pane, draws, send, hover }: Aim) {
  const [at, setAt] = useState<Point | null>(null);
  const [pressed, setPressed] = useState(false);
  const put = (point: Point | null) => {
    if (pressed) send({ on: "abandon" });
    setPressed(false);
    setAt(point);
    hover(point && view ? toMm(view, point) : null);
  };
  return {
    /** Where it is, pixels of the pane; null while it is put away. */
    at,
    /** What a key does to it; whether it was meant for it. */
    key(key: string, arrow: readonly [number, number] | undefined, wide: boolean): boolean {
      if (key.toLowerCase() === "x") {
        put(at ? null : { x: pane.width / 2, y: pane.height / 2 });
        return true;
      }
      if (!at || !view) return false;
      if (key === "Escape") {
        put(null);
        return true;
      }
      const spot = (px: Point) => ({ px, mm: toMm(view, px) });
      if (arrow) {
        const step = wide ? STEP_PX.wide : STEP_PX.plain;
        const next = {
          x: Math.min(pane.width, Math.max(0, at.x + arrow[0] * step)),
          y: Math.min(pane.height, Math.max(0, at.y + arrow[1] * step)),
        };
        setAt(next);
        hover(toMm(view, next));
        if (pressed) send({ on: "move", at: spot(next), shift: false, time: performance.now() });
        return true;
      }
      if (key !== "Enter" && key !== " ") return false;
      if (!pressed) send({ on: "press", at: spot(at), shift: false, table: !draws });
      if (pressed || !draws) send({ on: "lift", at: spot(at), more: wide });
      setPressed(draws && !pressed);
      return true;
    },
  };
}
