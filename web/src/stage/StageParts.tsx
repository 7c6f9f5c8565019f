import type { ReactNode } from "react";
import { type Box, type Point, toPixel, type View } from "@/geometry/transform";

/** The box that is drawn round what is to be chosen. */
export function Gathered({ box, view, left }: { box: Box; view: View; left: number }) {
  const [a, b] = [toPixel(view, { x: box.left, y: box.top }), toPixel(view, { x: box.right, y: box.bottom })];
  return (
    <div
      aria-hidden
      className="pointer-events-none cased absolute border border-dashed border-chosen bg-chosen/10"
      style={{ left: left + a.x, top: a.y, width: b.x - a.x, height: b.y - a.y }}
    />
  );
}

export function Crosshair({ at, left }: { at: Point; left: number }) {
  return (
    <svg
      aria-hidden="true"
      viewBox="-20 -20 40 40"
      className="pointer-events-none absolute h-10 w-10"
      style={{ left: left + at.x - 20, top: at.y - 20 }}
    >
      <path d="M-19 0H-4M4 0H19M0 -19V-4M0 4V19" stroke="white" strokeWidth="4" />
      <path d="M-19 0H-4M4 0H19M0 -19V-4M0 4V19" stroke="#6d3468" strokeWidth="2" />
    </svg>
  );
}

/** What the pointer does now, in one sentence over the foot of the table; out of its way where it comes near. */
export function Hint({ children, aside }: { children: ReactNode; aside: boolean }) {
  return (
    <p
      role="status"
      className={`pointer-events-none absolute bottom-3 left-1/2 w-max max-w-[94%] -translate-x-1/2 rounded-full bg-ink px-4 py-1.5 text-center text-white ${aside ? "opacity-0" : ""}`}
    >
      {children}
    </p>
  );
}
