import { useMemo } from "react";
import { hasRegions } from "@/api/client";
import { scaleOf } from "@/geometry/place";
import type { Point } from "@/geometry/transform";
import { useOpenDesign } from "@/state/design";
import { artPoint, carriedOn } from "@/state/gesture";
import { chosenArts } from "@/state/mode";
import { type Area, areaAt, meantAt, type Owners, ownersOf, useAreas } from "@/state/regions";
import { useView } from "@/state/view";
import { SNAP_PX } from "./grip";
import { colourAt, inHole, topFilm } from "./hits";
import { LENS_OF } from "./lenses";
import type { Look } from "./look";
import { nodeAt } from "./nodeAt";
import { coreSample } from "./scene";
import { edgeAt, snapped } from "./snapping";
import type { Original } from "./useOriginal";
import type { World } from "./world";

const NOBODY: Owners = new Map();
const FINE_PX = 2.5;
const NODE_PX = 9;

/** What the hand meets on the stage of the open design; `pen` tells what lies in a path. */
export function useWorld(
  look: Look,
  originals: ReadonlyMap<string, Original>,
  pen: () => CanvasRenderingContext2D | null,
  scale: number,
): World {
  const { recipe, built } = useOpenDesign();
  const { arts: held, letters, film, mode, slip } = useView();
  const arts = useMemo(() => chosenArts(recipe, held), [recipe, held]);
  const worked = mode.kind === "claiming" || mode.kind === "mending" ? mode.art : null;
  const art = recipe.arts.find((one) => one.id === worked) ?? null;
  const areas = useAreas(art && hasRegions(art) ? art.id : null);
  const own = built.arts.find((one) => one.id === worked);
  const claims = own?.claims;
  const owners = useMemo(() => (claims ? ownersOf(claims) : NOBODY), [claims]);
  const pxPerMm = scale * (art ? scaleOf(art.place) : 1);

  const regionAt = (mm: Point, exactly = false): Area | null => {
    const context = pen();
    if (!context || !areas || !art) return null;
    const at = artPoint(art, mm);
    return exactly ? areaAt(context, areas, at.x, at.y) : meantAt(context, areas, at.x, at.y, pxPerMm);
  };
  return {
    ...{ scene: look.scene, recipe, holes: built.holes, scale, flat: LENS_OF[look.lens].hit },
    ...{ arts, letters, film, slip, areas, owners, width: areas?.width ?? own?.own_width_mm ?? 0 },
    regionAt,
    filmAt(mm, near = false) {
      const context = pen();
      if (!context) return null;
      if (near) return topFilm(context, look.scene, mm, scale);
      return coreSample(context, look.scene, mm.x, mm.y)[0]?.key ?? null;
    },
    colourAt: (mm) => colourAt(look.sources, originals, mm)?.colour ?? null,
    nodeAt: (mm, own) => nodeAt(look.scene, mm, own, NODE_PX / scale),
    edgeAt: (mm, own) => edgeAt(look.scene, mm, own, NODE_PX / scale),
    snapped: (mm, knots, held) => snapped(look.scene, mm, knots, SNAP_PX / scale, held),
    isInHole(hole, mm) {
      const context = pen();
      return context !== null && inHole(context, hole, mm);
    },
    carriedOn: (trail, mm) =>
      art ? carriedOn(trail, artPoint(art, mm), regionAt(mm), FINE_PX / Math.max(1e-6, pxPerMm)) : trail,
  };
}
