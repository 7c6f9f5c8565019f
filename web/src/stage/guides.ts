import type { Box } from "@/geometry/transform";
import type { Guide } from "./handling";
import { CHOSEN, strokeCased } from "./lines";
import type { Context } from "./paint";

const FAR = 10;

/** Lines that something lies along while it is moved or drawn; `px` is a pixel in mm, in which the context is drawn. */
export function paintGuides(context: Context, guides: readonly Guide[], box: Box, px: number): void {
  const far = FAR * Math.max(box.right - box.left, box.bottom - box.top, 1);
  context.setLineDash([6 * px, 3 * px]);
  for (const guide of guides) {
    context.beginPath();
    if (guide.axis === "x") {
      context.moveTo(guide.at, box.top - far);
      context.lineTo(guide.at, box.bottom + far);
    } else {
      context.moveTo(box.left - far, guide.at);
      context.lineTo(box.right + far, guide.at);
    }
    strokeCased(context, { colour: CHOSEN, width: 1.2, px });
  }
  context.setLineDash([]);
}
