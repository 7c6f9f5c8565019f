import { isRaster } from "@/api/client";
import type { View } from "@/geometry/transform";
import { addressOf } from "@/state/original";
import type { Look } from "./look";
import { type Context, enterArt, inMillimetres } from "./paint";
import { faded } from "./reference";

/**
 * The films held against the pictures they came from: white where both are alike, the darker the more they differ.
 *
 * What was dropped as background counts as it was in the picture, for nothing of it is missed.
 */
export function paintDifferences(
  context: Context,
  look: Look,
  view: View,
  ratio: number,
  wanted: (on: Context) => void,
): void {
  faded(context, 1, (on) => {
    wanted(on);
    on.globalCompositeOperation = "difference";
    faded(on, 1, (got) => paintGot(got, look, view, ratio));
    // Turned round, so that what is alike is as light as paper.
    faded(on, 1, (page) => onPages(page, look, view, ratio, () => "#ffffff"));
    on.globalCompositeOperation = "destination-in";
    faded(on, 1, (page) => onPages(page, look, view, ratio, () => "#ffffff"));
  });
}

function paintGot(context: Context, look: Look, view: View, ratio: number): void {
  onPages(context, look, view, ratio, (art) => look.behind.get(art) ?? null);
  inMillimetres(context, view, ratio, () => {
    for (const film of look.scene.films) {
      context.fillStyle = film.colour;
      context.fill(film.path, "evenodd");
    }
  });
}

/** Fills the page of every picture. */
function onPages(
  context: Context,
  look: Look,
  view: View,
  ratio: number,
  colour: (art: string) => string | null,
): void {
  for (const art of look.sources) {
    if (!isRaster(art)) continue;
    const image = look.pictures.get(addressOf(art));
    const fill = colour(art.id);
    if (!image || !fill) continue;
    inMillimetres(context, view, ratio, () => {
      enterArt(context, art.place);
      context.fillStyle = fill;
      context.fillRect(0, 0, art.width_mm, (art.width_mm * image.height) / image.width);
    });
  }
}
