import { type RefObject, useEffect, useRef } from "react";
import { type Box, type Point, toPixel, type View } from "@/geometry/transform";

interface GhostProps {
  /** Where the art was taken from, and how far it is dragged, mm. */
  from: Box;
  by: Point;
  view: View;
  left: number;
  picture: RefObject<HTMLCanvasElement | null>;
}

/** What is dragged, as it was seen when it was taken: it follows the pointer at once, however long the build takes. */
export function Ghost({ from, by, view, left, picture }: GhostProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [a, b] = [toPixel(view, { x: from.left, y: from.top }), toPixel(view, { x: from.right, y: from.bottom })];
  const [width, height] = [Math.ceil(b.x - a.x), Math.ceil(b.y - a.y)];
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is taken once, before anything has moved
  useEffect(() => {
    const [own, source] = [canvas.current, picture.current];
    const pen = own?.getContext("2d");
    if (!own || !pen || !source || source.clientWidth === 0) return;
    const ratio = source.width / source.clientWidth;
    const [w, h] = [Math.min(width, source.clientWidth), Math.min(height, source.clientHeight)];
    if (w < 1 || h < 1) return;
    own.width = Math.round(w * ratio);
    own.height = Math.round(h * ratio);
    pen.drawImage(source, (a.x + left) * ratio, a.y * ratio, own.width, own.height, 0, 0, own.width, own.height);
  }, []);
  return (
    <div
      aria-hidden
      className="pointer-events-none cased absolute border border-chosen"
      style={{ left: left + a.x + by.x * view.scale, top: a.y + by.y * view.scale, width, height }}
    >
      <canvas ref={canvas} className="h-full w-full opacity-45" />
    </div>
  );
}
