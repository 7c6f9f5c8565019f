import { useState } from "react";
import type { Point, View } from "@/geometry/transform";
import { toMm } from "@/geometry/transform";

const STEP_PX = { plain: 8, wide: 40 };

interface Aim {
  readonly view: View | null;
  readonly pane: { readonly width: number; readonly height: number };
  /** A tool that draws: Enter begins its gesture, and ends it. */
  readonly tool: { down(mm: Point): void; move(mm: Point): void; up(from: Point): void } | null;
  readonly click: (mm: Point, more: boolean) => void;
  readonly hover: (mm: Point | null) => void;
}

/** A crosshair on the table, so that all that is pointed at can be pointed at by keys. */
export function useCrosshair({ view, pane, tool, click, hover }: Aim) {
  const [at, setAt] = useState<Point | null>(null);
  const [from, setFrom] = useState<Point | null>(null);
  const put = (point: Point | null) => {
    setAt(point);
    setFrom(null);
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
      if (arrow) {
        const step = wide ? STEP_PX.wide : STEP_PX.plain;
        const next = {
          x: Math.min(pane.width, Math.max(0, at.x + arrow[0] * step)),
          y: Math.min(pane.height, Math.max(0, at.y + arrow[1] * step)),
        };
        setAt(next);
        hover(toMm(view, next));
        if (from) tool?.move(toMm(view, next));
        return true;
      }
      if (key !== "Enter" && key !== " ") return false;
      const mm = toMm(view, at);
      if (!tool) click(mm, wide);
      else if (from) {
        setFrom(null);
        tool.up(from);
      } else {
        setFrom(mm);
        tool.down(mm);
      }
      return true;
    },
  };
}
