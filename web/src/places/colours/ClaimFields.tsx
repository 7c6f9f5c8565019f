import { useState } from "react";
import type { RegionArt, Under } from "@/api/client";
import { lengthDigits, readLength, showArea } from "@/geometry/lengths";
import { scaleOf } from "@/geometry/place";
import { Choice } from "@/parts/Choice";
import { FilmSwatches } from "@/parts/FilmSwatches";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { SelectField } from "@/parts/SelectField";
import { TargetField } from "@/parts/TargetField";
import { Term } from "@/parts/Term";
import { useArtChange } from "@/places/art/useArt";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { claimEdit } from "@/state/gesture";
import type { Claiming, Reach, Target } from "@/state/mode";
import { type Area, ownersOf, useAreas } from "@/state/regions";
import { useView } from "@/state/view";

const REACH_TEXTS: { value: Reach; text: string }[] = [
  { value: "one", text: "only that region" },
  { value: "colour", text: "all like it: same colour and film" },
  { value: "size", text: "all like it: same size" },
  { value: "outline", text: "all inside the same outline" },
  { value: "depth", text: "all as many outlines deep" },
];
const UNDER_TEXTS: { value: Under; text: string }[] = [
  { value: "as-film", text: "as the films meet" },
  { value: "solid", text: "solid, to stick it on" },
  { value: "open", text: "open" },
];

/** Regions given to films by pointing at them, what still waits, and what is too small to be worth cutting. */
export function ClaimFields({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const { change } = useArtChange<RegionArt>(art);
  const { mode, take, putDown, adjust } = useView();
  const mine = mode.kind === "claiming" && mode.art === art.id ? mode : null;
  const waiting = built.arts.find((candidate) => candidate.id === art.id)?.waiting ?? [];
  const first: Claiming = {
    kind: "claiming",
    art: art.id,
    target: { film: built.layers.at(-1)?.film ?? "#c0392b" },
    reach: "one",
    by: "touch",
    under: "as-film",
    near: 0.12,
  };
  const now = mine ?? first;
  const set = (changes: Partial<Claiming>) => (mine ? adjust(changes) : take({ ...first, ...changes }));
  const figure =
    waiting.length > 0 ? `${waiting.length} waiting` : art.pins.length > 0 ? `${art.pins.length} claimed` : "";
  return (
    <Fold title="Regions" figure={figure} open={art.kind !== "picture" || mine !== null}>
      <section aria-label="Claim regions" className="flex flex-col gap-2">
        <div className="flex items-center gap-2">
          <span className="heading w-[4.75rem] shrink-0">
            <Term word="claim">Claim for</Term>
          </span>
          <TargetField label="Claim for" target={now.target} onTarget={(target) => set({ target })} />
          <button
            type="button"
            className="act text-sm"
            aria-pressed={mine !== null}
            aria-label={mine ? "Done claiming" : "Claim regions"}
            onClick={() => (mine ? putDown() : take(first))}
          >
            {mine ? "Done" : "Claim"}
          </button>
        </div>
        {mine && (
          <>
            <FilmSwatches
              label="Films at hand"
              chosen={mine.target.film}
              onFilm={(film) => set({ target: { film } })}
            />
            <Choice
              label="Select by"
              value={mine.by}
              options={[
                { value: "touch", text: "Click" },
                { value: "box", text: "Box" },
                { value: "lasso", text: "Lasso" },
              ]}
              onChange={(by) => set({ by })}
            />
            <SelectField
              label="Applies to"
              value={mine.reach}
              options={REACH_TEXTS}
              onChange={(reach) => set({ reach })}
            />
            {mine.reach === "size" && (
              <NumberField
                label="How near in size"
                value={Math.round(mine.near * 100)}
                suffix=" %"
                places={0}
                onCommit={(percent) => set({ near: Math.min(3, Math.max(0.01, percent / 100)) })}
              />
            )}
            {mine.target.film !== null && (
              <SelectField
                label="Film below"
                value={mine.under}
                options={UNDER_TEXTS}
                onChange={(under) => set({ under })}
              />
            )}
          </>
        )}
        {art.pins.length > 0 && (
          <button
            type="button"
            className="quiet self-start text-sm"
            onClick={() => change((now) => ({ pins: now.pins.slice(0, -1) }))}
          >
            Undo the last of {art.pins.length}
          </button>
        )}
        {art.kind !== "picture" && <Waiting art={art} tool={now} />}
      </section>
      <SmallAreas art={art} />
      <InSight />
    </Fold>
  );
}

/** How many regions wait for a film, each of them in turn. */
function Waiting({ art, tool }: { art: RegionArt; tool: Claiming }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const areas = useAreas(art.id);
  const unit = useUnit();
  const { waitingAt, stepTo } = useView();
  const waiting = built.arts.find((candidate) => candidate.id === art.id)?.waiting ?? [];
  const at = waitingAt !== null && waitingAt < waiting.length ? waitingAt : null;
  const current = at === null ? undefined : waiting[at];
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
      <p aria-live="polite">
        {waiting.length === 0
          ? "Every enclosed region has been decided on."
          : `${waiting.length} ${waiting.length === 1 ? "region waits" : "regions wait"} for a film.`}
      </p>
      {waiting.length > 0 && (
        <span className="flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="act text-sm"
            onClick={() => stepTo(at === null ? waiting.length - 1 : (at + waiting.length - 1) % waiting.length)}
          >
            Previous
          </button>
          <button
            type="button"
            className="act text-sm"
            onClick={() => stepTo(at === null ? 0 : (at + 1) % waiting.length)}
          >
            Next
          </button>
          {current && areas && (
            <button
              type="button"
              className="act text-sm"
              onClick={() => edit(claimEdit(tool, tool.target, areas, [current.region]))}
            >
              Claim it
            </button>
          )}
          {current && <span className="measure text-soft">{showArea(current.area_mm2, unit)}</span>}
        </span>
      )}
    </div>
  );
}

const SHOWN = 6;

/** Regions too small at the finished size, listed together and settled in one go. */
function SmallAreas({ art }: { art: RegionArt }) {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const areas = useAreas(art.id);
  const [limit, setLimit] = useState(1);
  if (!areas) return null;
  const scale = scaleOf(art.place);
  const owners = ownersOf(built.arts.find((candidate) => candidate.id === art.id)?.claims ?? []);
  const settled = (area: Area) => {
    const claim = owners.get(area.index);
    return claim ? claim.becomes !== "film" && claim.becomes !== "open" : !area.film && !area.waits;
  };
  const small = areas.all
    .filter((area) => area.across_mm * scale < limit && !settled(area))
    .sort((a, b) => a.across_mm - b.across_mm);
  const settle = (target: Target) =>
    edit(
      claimEdit(
        { art: art.id, under: "as-film" },
        target,
        areas,
        small.map((area) => area.index),
      ),
    );
  return (
    <section aria-label="Small areas" className="flex flex-col gap-1">
      <div className="flex items-end gap-3">
        <LengthField
          label="Areas smaller than"
          mm={limit}
          onCommit={async (text) => {
            const mm = readLength(text, unit);
            if (mm !== null && mm > 0) setLimit(mm);
            return mm;
          }}
        />
        <span className="measure pb-1 text-sm">{small.length === 1 ? "1 area" : `${small.length} areas`}</span>
        {small.length > 0 && (
          <span className="ml-auto flex gap-2">
            <button type="button" className="act text-sm" onClick={() => settle({ film: null, becomes: "dropped" })}>
              Drop
            </button>
            <button
              type="button"
              className="act text-sm"
              title="Each goes to the neighbour it has the longest border with"
              onClick={() => settle({ film: null, becomes: "merged" })}
            >
              Merge
            </button>
          </span>
        )}
      </div>
      {small.length > 0 && (
        <p className="measure text-sm text-soft">
          {small
            .slice(0, SHOWN)
            .map((area) => lengthDigits(area.across_mm * scale, unit, unit === "mm" ? 2 : 4))
            .join(", ")}
          {small.length > SHOWN && ` and ${small.length - SHOWN} more`} {unit} across
        </p>
      )}
    </section>
  );
}

/** The films, each hidden and shown by a click, so that what is done is not in the way. */
function InSight() {
  const { built } = useOpenDesign();
  const { hidden, hide } = useView();
  if (built.layers.length < 2) return null;
  return (
    <fieldset aria-label="Films shown" className="flex flex-wrap items-center gap-1.5">
      <span className="heading w-20">Show</span>
      {built.layers.map((layer) => {
        const away = hidden.includes(layer.film);
        return (
          <button
            key={layer.film}
            type="button"
            aria-pressed={!away}
            aria-label={`Show ${layer.name}`}
            title={away ? `Show ${layer.name} again` : `Hide ${layer.name}`}
            className={`h-6 w-6 rounded-sm border border-firm ${away ? "opacity-35" : ""}`}
            style={{
              background: away
                ? `linear-gradient(to top right, ${layer.colour} 46%, #25231e 46%, #25231e 54%, ${layer.colour} 54%)`
                : layer.colour,
            }}
            onClick={() => hide(layer.film)}
          />
        );
      })}
    </fieldset>
  );
}
