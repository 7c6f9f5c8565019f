import { useEffect, useMemo, useRef, useState } from "react";
import { hasRegions, ProblemError } from "@/api/client";
import { scaleOf } from "@/geometry/place";
import type { Point } from "@/geometry/transform";
import { tell, useEdit, useOpenDesign } from "@/state/design";
import { artPoint, carriedOn, claimEdit, mendOf, type Trail, taken } from "@/state/gesture";
import { type Area, areaAt, meantAt, type Owners, ownersOf, useAreas } from "@/state/regions";
import { useTools } from "@/state/tools";
import { useView } from "@/state/view";
import type { Doing } from "./overlay";

const NO_TRAIL: Trail = { points: [], touched: [] };
const NOBODY: Owners = new Map();
const FINE_PX = 2.5;

/** Why a gesture came to nothing, and what helps. */
function amiss(film: string | null): [string, string] {
  return film
    ? ["This goes round nothing.", "Draw round what is meant."]
    : ["No film lies where you began.", "Begin on a film, or choose one in the panel."];
}

/** What the tool in hand does with the pointer, on the stage of the open design. */
export function useDoing(context: () => CanvasRenderingContext2D | null, pxPerMm: number) {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const { tool, pending, take, wait } = useTools();
  const found = recipe.arts.find((candidate) => candidate.id === tool?.art);
  const art = found && (tool?.kind === "mend" || hasRegions(found)) ? found : null;
  const areas = useAreas(art && hasRegions(art) ? art.id : null);
  const claims = built.arts.find((candidate) => candidate.id === art?.id)?.claims;
  const owners = useMemo(() => (claims ? ownersOf(claims) : NOBODY), [claims]);
  const [trail, showTrail] = useState<Trail | null>(null);
  // The trail is kept beside the state, too: a quick click ends before the page is drawn anew.
  const held = useRef<Trail | null>(null);
  const setTrail = (next: Trail | null) => {
    held.current = next;
    showTrail(next);
  };
  const [hovered, setHovered] = useState<Area | null>(null);

  // A tool is put down when its art has gone, as after undoing, or when other art is chosen.
  const chosen = useView((view) => view.arts);
  const leftAside = tool !== null && (!art || (chosen.length > 0 && !chosen.includes(tool.art)));
  useEffect(() => {
    if (leftAside) take(null);
  }, [leftAside, take]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is built says that the answer has come
  useEffect(() => wait(null), [built, wait]);

  const width = areas?.width ?? built.arts.find((candidate) => candidate.id === art?.id)?.own_width_mm ?? 0;
  const target = tool?.kind === "claim" ? tool.target : null;
  const reachedBy = (way: Trail | null): number[] => {
    if (tool?.kind !== "claim" || !areas) return [];
    const own = way ?? (hovered && { points: [], touched: [hovered.index] });
    return own ? taken(tool, own, areas, owners) : [];
  };
  const reached = reachedBy(trail);
  const shown = pending && art && pending.art === art.id ? pending : null;
  const colourOf = (film: string) =>
    built.layers.find((layer) => layer.film === film)?.colour ?? (film[0] === "#" ? film : null);
  const told = shown?.target ?? target;
  const doing: Doing | null =
    tool && art
      ? {
          art,
          areas,
          tool,
          trail,
          hovered: reached,
          pending: shown?.regions ?? [],
          colour: told?.film ? colourOf(told.film) : null,
        }
      : null;

  const regionAt = (mm: Point, exactly = false): Area | null => {
    const pen = context();
    if (!pen || !areas || !art) return null;
    const at = artPoint(art, mm);
    return exactly ? areaAt(pen, areas, at.x, at.y) : meantAt(pen, areas, at.x, at.y, pxPerMm * scaleOf(art.place));
  };

  const step = FINE_PX / Math.max(1e-6, pxPerMm * (art ? scaleOf(art.place) : 1));
  const moved = (now: Trail, mm: Point): Trail => (art ? carriedOn(now, artPoint(art, mm), regionAt(mm), step) : now);

  return {
    doing,
    hovered:
      hovered && areas && tool?.kind === "claim" && art
        ? { area: hovered, owners, count: reached.length, scale: scaleOf(art.place) }
        : null,
    hover(mm: Point | null) {
      setHovered(mm && tool?.kind === "claim" ? regionAt(mm) : null);
    },
    /** Claims just the region at a point, be it a line thin as a hair. */
    claimExactly(mm: Point) {
      const met = regionAt(mm, true);
      if (tool?.kind !== "claim" || !areas || !met) return;
      void edit(claimEdit(tool, tool.target, areas, taken(tool, { points: [], touched: [met.index] }, areas, owners)));
    },
    press(mm: Point) {
      setTrail(moved(NO_TRAIL, mm));
    },
    drag(mm: Point) {
      if (held.current) setTrail(moved(held.current, mm));
    },
    /** Ends the gesture, and makes what it has drawn; `film` is the one that lies on top where it began. */
    release(film: string | null) {
      const way = held.current;
      setTrail(null);
      if (!tool || !art || !way) return;
      if (tool.kind === "claim") {
        const regions = reachedBy(way);
        if (!areas || regions.length === 0) return;
        wait({ art: art.id, regions, target: tool.target });
        void edit(claimEdit(tool, tool.target, areas, regions)).then((done) => done === null && wait(null));
        return;
      }
      const mend = mendOf(tool, way, width, film);
      if (mend) void edit({ kind: "add-mend", art: art.id, mend });
      else if (way.points.length > 0) tell(new ProblemError("nothing-drawn", ...amiss(tool.film ?? film)));
    },
    leave() {
      setTrail(null);
      setHovered(null);
    },
  };
}
