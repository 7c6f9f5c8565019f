import type { View } from "@/geometry/transform";
import type { FilmChange } from "@/state/compare";
import { CHOSEN, FAIL, strokeCased, TABLE } from "./lines";
import { type Context, inMillimetres } from "./paint";

/** What has come and what is gone since a step, as paths. */
export interface Changes {
  readonly come: readonly Path2D[];
  readonly gone: readonly Path2D[];
}

export function changesOf(films: readonly FilmChange[]): Changes {
  const paths = (of: "come" | "gone") => films.filter((one) => one[of]).map((one) => new Path2D(one[of]));
  return { come: paths("come"), gone: paths("gone") };
}

const DASH_PX = 4;

/** The decal pale, and on it what has come, filled, and what is gone, hollow and dashed. */
export function paintChanges(context: Context, changes: Changes, view: View, ratio: number): void {
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 0.66;
  context.fillStyle = TABLE;
  context.fillRect(0, 0, context.canvas.width, context.canvas.height);
  context.restore();
  const px = 1 / view.scale;
  inMillimetres(context, view, ratio, () => {
    context.lineJoin = "round";
    for (const path of changes.come) {
      context.fillStyle = CHOSEN;
      context.fill(path, "evenodd");
      strokeCased(context, { colour: CHOSEN, width: 1.4, edge: 0.8, px }, path);
    }
    for (const path of changes.gone) {
      context.fillStyle = "rgba(168, 50, 26, 0.25)";
      context.fill(path, "evenodd");
      context.setLineDash([DASH_PX * px, DASH_PX * px]);
      strokeCased(context, { colour: FAIL, width: 1.4, edge: 0.8, px }, path);
      context.setLineDash([]);
    }
  });
}
