import { type Built, type FoundPlace, isRaster, type Recipe, type RegionArt } from "@/api/client";
import type { Unit } from "@/geometry/lengths";
import type { Point, View } from "@/geometry/transform";
import { addressOf } from "@/state/original";
import type { AnyFinding, Proof, Slip, Slipped, Widths } from "@/state/proof";
import type { Areas } from "@/state/regions";
import type { Lens, Reference } from "@/state/view";
import type { Changes } from "./changes";
import type { Doing } from "./doing";
import type { Drawing } from "./drawing";
import type { Guide } from "./handling";
import type { Pictures } from "./paint";
import type { Rings } from "./pieces";
import type { Scene } from "./scene";

/** What the picture on the table is made of; as long as it is the same object, so is the picture. */
export interface Look {
  readonly scene: Scene;
  readonly lens: Lens;
  readonly ground: Recipe["ground"];
  /** The film that stands out, by its key. */
  readonly film: string | null;
  readonly sources: readonly RegionArt[];
  readonly pictures: Pictures;
  /** The colour of what was dropped behind each picture, by its id. */
  readonly behind: ReadonlyMap<string, string>;
  readonly areas: ReadonlyMap<string, Areas>;
  /** How much of the original lies over the result, and where it is shown. */
  readonly original: number;
  readonly reference: Reference;
  readonly beside: boolean;
  readonly picking: boolean;
  /** A film that is held off its place. */
  readonly slip: Slip | null;
  /** Narrow stretches, and where films lie on one another, through the lenses that show them. */
  readonly widths: readonly Widths[];
  readonly levels: Proof["levels"];
  readonly nodes: boolean;
  /** Whether only the traced edges are drawn, on the original. */
  readonly edges: boolean;
}

/** What lies over the picture and follows the hand. */
export interface Hand {
  readonly arranging: boolean;
  /** Whether regions are given their films. */
  readonly colouring: boolean;
  readonly arts: readonly string[];
  readonly letters: readonly number[];
  readonly guides: readonly Guide[];
  readonly claiming: boolean;
  readonly waitingAt: number | null;
  readonly doing: Doing | null;
  /** What the pen draws, or the node that is led elsewhere. */
  readonly drawing: Drawing | null;
  readonly findings: readonly AnyFinding[];
  readonly shown: FoundPlace | null;
  /** Whether all that is told is looked through, so that there may be very much of it. */
  readonly proving: boolean;
  /** Small pieces or gaps that are stepped through. */
  readonly ringed: Rings | null;
  /** What the film in hand bares. */
  readonly slipped: Slipped | null;
  /** What has changed since the step that is compared with. */
  readonly changes: Changes | null;
  /** The holes of the shadow whose holes are filled by clicking. */
  readonly holes: Built["holes"];
  readonly unit: Unit;
  /** Where the loupe is held. */
  readonly loupe: Point | null;
}

/** The pane that the result is shown in: half of the table where the original is shown beside it. */
export interface Pane {
  readonly left: number;
  readonly width: number;
  readonly height: number;
}

/** The view as it is in the pane. */
export function inPane(view: View, pane: Pane): View {
  return pane.left === 0 ? view : { ...view, x: view.x + pane.left };
}

/** Whether the original lies under the result. */
export function liesUnder(look: Look): boolean {
  return look.edges || (look.reference === "under" && look.original > 0 && !look.picking);
}

/** The colour that the decal is seen on. */
export function seenOn(look: Look): string {
  return look.lens === "Finished" && !liesUnder(look) ? look.ground.colour : "#fbfaf7";
}

/** The pictures a design shows: its art, and what its films are patterned with. */
export function addressesOf(recipe: Recipe): string[] {
  const art = recipe.arts.filter(isRaster).map(addressOf);
  const patterns = (recipe.films ?? []).flatMap((f) => (f.finish.picture ? [`/api/pictures/${f.finish.picture}`] : []));
  return [...new Set([...art, ...patterns])];
}

/** The figures of a whole build. */
export function figuresOf(built: Built) {
  const sum = (of: (layer: Built["layers"][number]) => number) => built.layers.reduce((all, one) => all + of(one), 0);
  return {
    length: sum((layer) => layer.cut_length_mm),
    nodes: sum((layer) => layer.nodes),
    seconds: sum((layer) => layer.seconds),
  };
}
