import { isRaster } from "@/api/client";
import type { Box, View } from "@/geometry/transform";
import { addressOf } from "@/state/original";
import { paintDifferences } from "./differences";
import { paintGround } from "./ground";
import { type Look, liesUnder, seenOn } from "./look";
import { paintEdges, paintNodes, paintSource } from "./overlay";
import {
  type Context,
  explodedBox,
  paintCutLines,
  paintExploded,
  paintFinished,
  paintFrame,
  paintOriginal,
  paintPens,
} from "./paint";
import { paintNarrow, paintThickness } from "./proved";
import { faded } from "./reference";
import type { Scene } from "./scene";

/** A way of looking at the decal: its extent, how it is painted, and whether films can be pointed at through it. */
export interface LensOf {
  box(scene: Scene): Box;
  paint(context: Context, look: Look, view: View, ratio: number): void;
  readonly hit: boolean;
}

/** All ways of looking; another one is added here and in the list that the maker chooses from. */
export const LENS_OF: Record<Look["lens"], LensOf> = {
  Finished: { box: (scene) => scene.box, paint: paintFlat, hit: true },
  "Cut lines": { box: (scene) => scene.box, paint: paintFlat, hit: true },
  Narrow: { box: (scene) => scene.box, paint: paintNarrowOf, hit: true },
  Thickness: { box: (scene) => scene.box, paint: paintPiled, hit: true },
  Exploded: {
    box: explodedBox,
    paint: (context, look, view, ratio) => paintExploded(context, look.scene, view, ratio, look.film),
    hit: false,
  },
  Differences: { box: (scene) => scene.box, paint: paintAgainst, hit: true },
};

/** The originals, where they lie on the stack. */
export function paintSources(context: Context, look: Look, view: View, ratio: number, alpha: number): void {
  for (const art of look.sources) {
    const image = isRaster(art) ? look.pictures.get(addressOf(art)) : undefined;
    const areas = look.areas.get(art.id);
    if (image && isRaster(art)) paintOriginal(context, art, view, ratio, image, alpha);
    else if (areas) paintSource(context, art, areas, view, ratio, alpha);
  }
}

/** The films as the lens shows them, nothing under or over them. */
export function paintResult(context: Context, look: Look, view: View, ratio: number): void {
  if (look.edges) paintEdges(context, look.scene, view, ratio);
  else if (look.lens === "Cut lines") paintCutLines(context, look.scene, view, ratio, look.film);
  else paintFinished(context, look.scene, view, ratio, look.film, look.pictures, look.slip);
  if (!look.edges) paintPens(context, look.scene, view, ratio);
}

function paintNarrowOf(context: Context, look: Look, view: View, ratio: number): void {
  paintFrame(context, look.scene, view, ratio, seenOn(look));
  paintNarrow(context, look, view, ratio);
}

function paintPiled(context: Context, look: Look, view: View, ratio: number): void {
  paintFrame(context, look.scene, view, ratio, seenOn(look));
  paintThickness(context, look, view, ratio);
}

function paintAgainst(context: Context, look: Look, view: View, ratio: number): void {
  paintFrame(context, look.scene, view, ratio, seenOn(look));
  paintDifferences(context, look, view, ratio, (on) => paintSources(on, look, view, ratio, 1));
}

function paintFlat(context: Context, look: Look, view: View, ratio: number): void {
  const under = liesUnder(look);
  if (look.lens === "Finished" && !under) paintGround(context, look.scene, view, ratio, look.ground);
  paintFrame(context, look.scene, view, ratio, seenOn(look));
  if (under) paintSources(context, look, view, ratio, 1);
  context.globalAlpha = 1;
  if (under && !look.edges) faded(context, 1 - 0.85 * look.original, (on) => paintResult(on, look, view, ratio));
  else paintResult(context, look, view, ratio);
  const over = look.picking ? 1 : look.reference === "over" && !look.edges ? look.original : 0;
  if (over > 0) paintSources(context, look, view, ratio, over);
  if (look.nodes) paintNodes(context, look.scene, view, ratio);
}
