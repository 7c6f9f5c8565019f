import { type RefObject, useEffect, useRef } from "react";
import type { View } from "@/geometry/transform";
import { paintHand, paintPicture } from "./layers";
import type { Hand, Look, Pane } from "./look";
import type { Context } from "./paint";

/** How long the view has to rest before the picture is drawn anew at its new size. */
const REST_MS = 90;
/** A picture that is drawn within its frame, and holds up no other, needs no stand-in. */
const SWIFT_MS = 40;

/** What was drawn last; `image` is a copy of it once one was needed. */
interface Shot {
  readonly look: Look;
  readonly view: View;
  readonly pane: Pane;
  image: HTMLCanvasElement | null;
}

/**
 * Draws the two canvases. The picture is drawn when what it is made of changes; while only the view moves, what was drawn
 * last is moved and scaled, and drawn anew once the view rests. The hand's canvas alone follows the pointer.
 */
export function useCanvases(
  picture: RefObject<HTMLCanvasElement | null>,
  hand: RefObject<HTMLCanvasElement | null>,
  look: Look,
  over: Hand,
  view: View | null,
  pane: Pane,
): void {
  const shot = useRef<Shot | null>(null);
  const spare = useRef<HTMLCanvasElement | undefined>(undefined);
  const spent = useRef(0);
  useEffect(() => {
    const context = sized(picture.current, pane);
    if (!context || !view) return;
    const ratio = window.devicePixelRatio || 1;
    const draw = () => {
      const begin = performance.now();
      paintPicture(context, look, view, pane, ratio);
      // What is asked of a canvas is drawn later: only the next frame tells what it really took.
      requestAnimationFrame(() =>
        requestAnimationFrame(() => {
          spent.current = performance.now() - begin;
        }),
      );
      // To copy it now would wait for all of it to be drawn.
      shot.current = { look, view, pane, image: null };
    };
    const last = shot.current;
    // A canvas of another size is empty, and has nothing to copy.
    const sameSize =
      last?.pane.left === pane.left && last.pane.width === pane.width && last.pane.height === pane.height;
    const moves = last?.look === look && sameSize;
    if (!moves || spent.current < SWIFT_MS) {
      const frame = requestAnimationFrame(draw);
      return () => cancelAnimationFrame(frame);
    }
    const frame = requestAnimationFrame(() => {
      spare.current = last.image ??= copyOf(context.canvas, spare.current);
      standIn(context, last.image, last.view, view, ratio);
    });
    const rest = window.setTimeout(draw, REST_MS);
    return () => {
      cancelAnimationFrame(frame);
      window.clearTimeout(rest);
    };
  }, [picture, look, view, pane]);

  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      const context = sized(hand.current, pane);
      if (context && view) paintHand(context, look, over, view, pane, window.devicePixelRatio || 1);
    });
    return () => cancelAnimationFrame(frame);
  }, [hand, look, over, view, pane]);
}

/** What was drawn last, moved and scaled to another view. */
function standIn(context: Context, image: HTMLCanvasElement, was: View, view: View, ratio: number): void {
  const { canvas } = context;
  const k = view.scale / was.scale;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 1;
  context.fillStyle = "#fbfaf7";
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.setTransform(k, 0, 0, k, (view.x - was.x * k) * ratio, (view.y - was.y * k) * ratio);
  context.drawImage(image, 0, 0);
  context.setTransform(1, 0, 0, 1, 0, 0);
}

function copyOf(canvas: HTMLCanvasElement, into: HTMLCanvasElement | undefined): HTMLCanvasElement {
  const copy = into ?? document.createElement("canvas");
  if (copy.width !== canvas.width || copy.height !== canvas.height) {
    copy.width = canvas.width;
    copy.height = canvas.height;
  }
  copy.getContext("2d")?.drawImage(canvas, 0, 0);
  return copy;
}

/** A canvas's context, the canvas as large as the table. */
function sized(canvas: HTMLCanvasElement | null, pane: Pane): Context | null {
  const context = canvas?.getContext("2d") ?? null;
  if (!canvas || !context || pane.width === 0) return null;
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [Math.round((pane.left + pane.width) * ratio), Math.round(pane.height * ratio)];
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  return context;
}
