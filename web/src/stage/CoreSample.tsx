import { apart } from "@/geometry/contrast";
import { showArea, showLength } from "@/geometry/lengths";
import type { Point } from "@/geometry/transform";
import { useOpenDesign, useUnit } from "@/state/design";
import { useNearestFilm } from "@/state/films";
import { type Area, type Owners, ownerOf } from "@/state/regions";
import type { Difference } from "./differences";
import type { narrowAt } from "./proved";
import type { Film } from "./scene";

/** What is under the pointer: films from the top down, a colour of the picture, or a region that can be claimed. */
export interface Probe {
  readonly films: readonly Film[];
  readonly colour: string | null;
  /** Whether it is asked how many films lie there. */
  readonly thick: boolean;
  /** The narrow place there, through the lens that shows them. */
  readonly narrow: ReturnType<typeof narrowAt>;
  /** How films and picture differ there, through the lens that shows it. */
  readonly differs: Difference | null;
  readonly region: { area: Area; owners: Owners; count: number; scale: number } | null;
}

interface CoreSampleProps {
  at: Point;
  probe: Probe;
  size: { width: number; height: number };
}

/** The films met at the pointer, from the top down to the ground; or the colour or the region under it. */
export function CoreSample({ at, probe, size }: CoreSampleProps) {
  if (!probe.colour && !probe.region && !probe.narrow && probe.films.length === 0) return null;
  const flip = { x: at.x > size.width - 230, y: at.y > size.height - 170 };
  const style = {
    left: at.x + (flip.x ? -14 : 16),
    top: at.y + (flip.y ? -12 : 16),
    transform: `translate(${flip.x ? "-100%" : "0"}, ${flip.y ? "-100%" : "0"})`,
  };
  return (
    <div
      className="pointer-events-none absolute z-10 min-w-32 overflow-hidden rounded border border-firm bg-paper text-sm shadow"
      style={style}
    >
      {probe.colour ? (
        <ColourSample colour={probe.colour} />
      ) : (
        <>
          {probe.region && <RegionSample region={probe.region} />}
          {probe.narrow && <NarrowSample narrow={probe.narrow} />}
          {probe.differs && <DifferenceSample differs={probe.differs} />}
          {probe.thick && (
            <p className="measure border-b border-line px-2 py-1 font-semibold">
              {probe.films.length === 1 ? "1 film thick" : `${probe.films.length} films thick`}
            </p>
          )}
          <ol aria-label="Core sample">
            {probe.films.map((film) => (
              <li key={film.key} className="flex items-center">
                <span className="h-6 w-8 border-b border-black/15" style={{ background: film.colour }} />
                <span className="max-w-36 truncate px-2">{film.name}</span>
              </li>
            ))}
            <li className="flex items-center text-soft">
              <span className="ground h-3 w-8 border-t-2 border-ink" />
              <span className="px-2 text-xs">ground</span>
            </li>
          </ol>
        </>
      )}
    </div>
  );
}

/** A colour of the picture: the one found in it that is nearest, with its share, and the nearest film of the shelf. */
function ColourSample({ colour }: { colour: string }) {
  const { built, recipe } = useOpenDesign();
  const found = built.colours.reduce<(typeof built.colours)[number] | null>(
    (best, one) => (best === null || apart(one.colour, colour) < apart(best.colour, colour) ? one : best),
    null,
  );
  const name = found && built.layers.find((layer) => layer.film === found.colour)?.name;
  const film = useNearestFilm(colour, recipe.use);
  return (
    <div className="flex items-start gap-2 px-2 py-1.5">
      <span className="h-8 w-8 shrink-0 rounded-sm border border-firm" style={{ background: colour }} />
      <p className="measure">
        <span className="block font-semibold">{colour}</span>
        {found && (
          <span className="block text-soft">
            {name ?? found.colour}, {(100 * found.share).toFixed(1)} % of the picture
          </span>
        )}
        {film && <span className="block text-soft">Nearest film: {film.name}</span>}
      </p>
    </div>
  );
}

/** How wide film or waste is here, and from what width on it holds or comes out. */
function NarrowSample({ narrow }: { narrow: NonNullable<Probe["narrow"]> }) {
  const unit = useUnit();
  const fine = unit === "mm" ? 2 : 3;
  return (
    <p className="border-b border-line px-2 py-1.5">
      <span className={`measure block font-semibold ${narrow.mm < narrow.limit ? "text-fail" : ""}`}>
        {narrow.waste ? "waste" : "film"} {showLength(narrow.mm, unit, fine)} wide
      </span>
      <span className="measure block text-soft">
        {narrow.waste ? "comes out" : "holds"} from {showLength(narrow.limit, unit, fine)}
      </span>
    </p>
  );
}

/** How much films and picture differ where they do, as far as it is seen. */
function DifferenceSample({ differs }: { differs: Difference }) {
  const unit = useUnit();
  const fine = unit === "mm" ? 2 : 3;
  return (
    <p className="border-b border-line px-2 py-1.5">
      <span className="measure block font-semibold">
        differs by {differs.more && "more than "}
        {showArea(differs.mm2, unit)}
      </span>
      <span className="measure block text-soft">up to {showLength(differs.mm, unit, fine)} wide</span>
    </p>
  );
}

const STATES: Record<string, string> = {
  waits: "waits for a film",
  open: "left open",
  hole: "a hole through everything",
  dropped: "dropped",
  merged: "merged with its neighbour",
  outer: "only its outer line",
  inner: "only its inner line",
  middle: "one line in its middle",
};

/** How large a region is, whose it is now, and how many a click would take. */
function RegionSample({ region }: { region: NonNullable<Probe["region"]> }) {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const { area, owners, count, scale } = region;
  const owner = ownerOf(owners, area);
  const film = built.layers.find((layer) => layer.film === owner);
  return (
    <p className="region border-b border-line px-2 py-1.5">
      <span className="measure block font-semibold">
        {showLength(area.width_mm * scale, unit)} × {showLength(area.height_mm * scale, unit)}
      </span>
      <span className="measure block text-soft">
        {showArea(area.area_mm2 * scale * scale, unit)} · {film?.name ?? STATES[owner] ?? owner}
      </span>
      {count > 1 && <span className="block text-chosen">a click takes {count} regions</span>}
    </p>
  );
}
