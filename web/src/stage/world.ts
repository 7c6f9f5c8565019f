import type { Built, Recipe } from "@/api/client";
import type { Point } from "@/geometry/transform";
import type { Trail } from "@/state/gesture";
import type { EdgeNode } from "@/state/pen";
import type { Slip } from "@/state/proof";
import type { Area, Areas, Owners } from "@/state/regions";
import type { Scene } from "./scene";
import type { Snapped } from "./snapping";

/** What a hand meets on the stage. */
export interface World {
  readonly scene: Scene;
  readonly recipe: Recipe;
  readonly holes: Built["holes"];
  /** Pixels per mm. */
  readonly scale: number;
  /** Whether the decal lies flat, so that what is pointed at can be told. */
  readonly flat: boolean;
  /** The art, the letters of it and the film that are chosen. */
  readonly arts: readonly string[];
  readonly letters: readonly number[];
  readonly film: string | null;
  /** A film that is held off its place. */
  readonly slip: Slip | null;
  /** The regions of the art that is worked at, what they are now, and the art's own width, mm. */
  readonly areas: Areas | null;
  readonly owners: Owners;
  readonly width: number;
  /** The film on top at a point (mm), or with `near` at the nearest film within a few pixels. */
  filmAt(mm: Point, near?: boolean): string | null;
  /** The region meant at a point, or exactly the one there, be it thin as a hair. */
  regionAt(mm: Point, exactly?: boolean): Area | null;
  colourAt(mm: Point): string | null;
  /** The node of an edge within a few pixels of a point, of the film on top or of a chosen one. */
  nodeAt(mm: Point, film: string | null): EdgeNode | null;
  /** The point of an edge within a few pixels of a point, between two nodes. */
  edgeAt(mm: Point, film: string | null): EdgeNode | null;
  /** A point drawn to what lies near it, or level with points put down before; not to a node that is `held`. */
  snapped(mm: Point, knots: readonly Point[], held?: EdgeNode): Snapped;
  isInHole(hole: Built["holes"][number], mm: Point): boolean;
  /** A trail carried on to a point of the stack. */
  carriedOn(trail: Trail, mm: Point): Trail;
}
