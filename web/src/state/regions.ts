import { type QueryClient, useQueries, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type Built, type Claim, expectData, type Region, type Regions } from "@/api/client";
import { useOpenDesign, useStoredDesign } from "@/state/design";
import type { Reach } from "@/state/mode";

/** A region ready to be pointed at and drawn, in its art's own millimetres. */
export interface Area extends Region {
  readonly index: number;
  readonly shape: Path2D;
  readonly left: number;
  readonly top: number;
  /** The corners of its outline: x, y, x, y... */
  readonly outline: readonly number[];
}

export interface Areas {
  readonly key: string;
  readonly width: number;
  readonly all: readonly Area[];
}

function query(design: string, art: string, revision: number, key: string) {
  const params = { path: { design, art }, query: { revision } };
  return {
    queryKey: ["regions", design, art, key],
    queryFn: () => expectData(api.GET("/api/designs/{design}/arts/{art}/regions", { params })).then(areasOf),
    enabled: key !== "",
    staleTime: Number.POSITIVE_INFINITY,
  };
}

/** Asks for the regions of an art at a revision, unless they are known. */
export function askForAreas(
  client: QueryClient,
  design: string,
  art: string,
  revision: number,
  key: string,
): Promise<Areas> {
  return client.fetchQuery(query(design, art, revision, key));
}

/**
 * The keys of an art's regions as they are stored; none while other ones are tried, as with a threshold that is held:
 * then nothing may be pointed at.
 */
function useStoredKeys(): { revision: number; keyOf(art: string | null): string } {
  const { id, built: shown } = useOpenDesign();
  const stored = useStoredDesign(id);
  const key = (built: Built | null | undefined, art: string | null) =>
    built?.arts.find((candidate) => candidate.id === art)?.regions_key ?? "";
  return {
    revision: stored?.revision ?? 0,
    keyOf: (art) => (key(stored?.built, art) === key(shown, art) ? key(stored?.built, art) : ""),
  };
}

/** The regions of an art; null until they are known. */
export function useAreas(art: string | null): Areas | null {
  const { id } = useOpenDesign();
  const { revision, keyOf } = useStoredKeys();
  const key = keyOf(art);
  const found = useQuery(query(id, art ?? "", revision, key));
  return found.data && found.data.key === key ? found.data : null;
}

/** The regions of several pieces of art, by the art's id. */
export function useManyAreas(arts: readonly string[]): ReadonlyMap<string, Areas> {
  const { id } = useOpenDesign();
  const { revision, keyOf } = useStoredKeys();
  const found = useQueries({ queries: arts.map((art) => query(id, art, revision, keyOf(art))) });
  const known = found.map((answer) => answer.data?.key ?? "").join(" ");
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was found changes only with its keys
  return useMemo(
    () => new Map(arts.flatMap((art, k) => (found[k]?.data ? [[art, found[k].data] as const] : []))),
    [arts.join(" "), known],
  );
}

export function areasOf(regions: Regions): Areas {
  return {
    key: regions.key,
    width: regions.width_mm,
    all: regions.regions.map((region, index) => {
      const numbers = region.path.match(/-?\d+(?:\.\d+)?/g)?.map(Number) ?? [];
      let [left, top] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
      for (let k = 0; k + 1 < numbers.length; k += 2) {
        left = Math.min(left, numbers[k] ?? left);
        top = Math.min(top, numbers[k + 1] ?? top);
      }
      return { ...region, index, shape: new Path2D(region.path), left, top, outline: numbers };
    }),
  };
}

/** The region at a point of the art (mm). */
export function areaAt(context: CanvasRenderingContext2D, areas: Areas, x: number, y: number): Area | null {
  const near = areas.all.filter(
    (area) => x >= area.left && y >= area.top && x <= area.left + area.width_mm && y <= area.top + area.height_mm,
  );
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  const met = near.find((area) => context.isPointInPath(area.shape, x, y, "evenodd"));
  context.restore();
  return met ?? null;
}

/** A region and those like it: of its colour and state, of nearly its size, beside it in one outline, or as deep. */
export function alike(areas: Areas, area: Pick<Area, "index">, reach: Reach, owners: Owners, near: number): number[] {
  const own = areas.all[area.index];
  if (!own) return [];
  const same: Record<Reach, (other: Area) => boolean> = {
    one: (other) => other.index === own.index,
    colour: (other) => other.colour === own.colour && ownerOf(owners, other) === ownerOf(owners, own),
    size: (other) =>
      other.colour === own.colour && Math.abs(Math.log(other.area_mm2 / own.area_mm2)) <= Math.log1p(near),
    outline: (other) => other.parent === own.parent && (other.colour === null) === (own.colour === null),
    depth: (other) => other.depth === own.depth,
  };
  return areas.all.filter(same[reach]).map((other) => other.index);
}

export type Owners = ReadonlyMap<number, Claim>;

export function ownersOf(claims: readonly Claim[]): Owners {
  return new Map(claims.map((claim) => [claim.region, claim]));
}

/** What a region is now: the key of its film, or what became of it. */
export function ownerOf(owners: Owners, area: Area): string {
  const claim = owners.get(area.index);
  if (claim) return claim.film ?? claim.becomes;
  return area.film ?? (area.waits ? "waits" : "open");
}

const FINE_RINGS_PX = [3, 6];
const FINE_WAYS = 12;
const FINE_SHARE = 0.4;
const SMALL_PX = 14;

/**
 * The region that a click at a point (art mm) is meant for: where a thin line was hit, as by a slip of the hand, the
 * region beside it. Small regions, which are as thin, are meant when they are hit.
 */
export function meantAt(
  context: CanvasRenderingContext2D,
  areas: Areas,
  x: number,
  y: number,
  pxPerMm: number,
): Area | null {
  const hit = areaAt(context, areas, x, y);
  if (hit && Math.max(hit.width_mm, hit.height_mm) * pxPerMm < SMALL_PX) return hit;
  const votes = new Map<Area, number>();
  let own = 0;
  for (const reach of FINE_RINGS_PX) {
    for (let k = 0; k < FINE_WAYS; k += 1) {
      const turn = (2 * Math.PI * k) / FINE_WAYS;
      const way = reach / pxPerMm;
      const met = areaAt(context, areas, x + way * Math.cos(turn), y + way * Math.sin(turn));
      if (met === hit) own += 1;
      else if (met) votes.set(met, (votes.get(met) ?? 0) + 1);
    }
  }
  const all = FINE_RINGS_PX.length * FINE_WAYS;
  const [best] = [...votes].sort((a, b) => b[1] - a[1]);
  if (!best || own >= FINE_SHARE * all) return hit;
  return hit === null && own > 0 ? hit : best[0];
}

type Spot = { readonly x: number; readonly y: number };

/** Whether a region lies within a lasso for the most part, by the corners of its outline. */
export function goneRound(lasso: readonly Spot[], area: Pick<Area, "outline">): boolean {
  let inside = 0;
  for (let k = 0; k + 1 < area.outline.length; k += 2) {
    if (within(lasso, area.outline[k] ?? 0, area.outline[k + 1] ?? 0)) inside += 1;
  }
  return 4 * inside > area.outline.length;
}

/** Whether a point lies within a lasso. */
function within(lasso: readonly Spot[], x: number, y: number): boolean {
  let inside = false;
  lasso.forEach((a, k) => {
    const b = lasso[(k + 1) % lasso.length] ?? a;
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  });
  return inside;
}
