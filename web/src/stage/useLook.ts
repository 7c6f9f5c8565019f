import { useMemo } from "react";
import { hasRegions, isRaster } from "@/api/client";
import { useOpenDesign } from "@/state/design";
import { isTakenUp } from "@/state/mode";
import { useProof, useWidths } from "@/state/proof";
import { useManyAreas } from "@/state/regions";
import { useView } from "@/state/view";
import { addressesOf, type Look } from "./look";
import { sceneOf } from "./scene";
import { useOriginals } from "./useOriginal";

const NO_LEVELS: Look["levels"] = [];

/** What is on the table, as long as nothing of it changes one and the same object. */
export function useLook() {
  const { built, recipe } = useOpenDesign();
  const {
    place,
    lens: chosenLens,
    original,
    film: chosen,
    mode,
    hidden,
    reference,
    loupe,
    nodes: marked,
    edges: tracing,
    slip,
  } = useView();
  const picking = mode.kind === "picking";
  const colouring = place === "Colours" && !picking;
  // What is taken up needs the decal lying flat.
  const lens: Look["lens"] = isTakenUp(mode) && chosenLens === "Exploded" ? "Finished" : chosenLens;
  const scene = useMemo(() => sceneOf(built, hidden), [built, hidden]);
  const sources = useMemo(() => recipe.arts.filter(hasRegions), [recipe.arts]);
  const referring = original > 0 || loupe || reference === "beside";
  const areas = useManyAreas(
    useMemo(
      () => (referring ? sources.filter((art) => !isRaster(art)).map((art) => art.id) : []),
      [sources, referring],
    ),
  );
  const originals = useOriginals(useMemo(() => addressesOf(recipe), [recipe]));
  const pictures = useMemo(() => new Map([...originals].map(([address, o]) => [address, o.picture])), [originals]);
  const behind = useMemo(
    () => new Map(built.arts.flatMap((art) => (art.behind ? [[art.id, art.behind] as const] : []))),
    [built.arts],
  );
  const flat = lens === "Finished" || lens === "Cut lines";
  const beside = flat && reference === "beside" && original > 0 && !picking && sources.length > 0;
  const film = place === "Art" && flat ? null : chosen;
  const widths = useWidths(lens === "Narrow");
  const levels = useProof().data?.levels ?? NO_LEVELS;
  const { ground } = recipe;
  // A node that is to be taken hold of must be seen.
  const nodes = marked || (mode.kind === "mending" && mode.step === "nodes");
  const edges = tracing && colouring;
  const look: Look = useMemo(
    () => ({
      ...{ scene, lens, ground, film, sources, pictures, behind, areas },
      ...{ original, reference, beside, picking, slip, widths, levels, nodes, edges },
    }),
    [
      scene,
      lens,
      ground,
      film,
      sources,
      pictures,
      behind,
      areas,
      original,
      reference,
      beside,
      picking,
      slip,
      widths,
      levels,
      nodes,
      edges,
    ],
  );
  return { look, originals };
}
