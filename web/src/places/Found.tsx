import type { ReactNode } from "react";
import type { Built, Recipe } from "@/api/client";
import { showLength, type Unit } from "@/geometry/lengths";
import { JOINTS } from "@/parts/joints";
import { kindOf } from "@/places/kinds";
import { useOpenDesign, useUnit } from "@/state/design";
import { PLACES, type Place } from "@/state/mode";
import { countsOf, useTold } from "@/state/proof";
import { useView } from "@/state/view";

/** A button is a box of its own to the line: what follows it closely is kept from the next one by a word joiner. */
const NO_BREAK = "\u2060";
const LINK = "underline decoration-firm underline-offset-3 hover:decoration-ink";

/** What was found in what was brought in, in one line, each part with its way to change it. */
export function Found() {
  const { built, recipe } = useOpenDesign();
  const unit = useUnit();
  const goTo = useView((view) => view.goTo);
  const found = broughtIn(recipe, built);
  const { stop, mind } = countsOf(useTold());
  if (found.length === 0) return null;
  const things = stop + mind;
  return (
    <p className="mb-3 border-b border-line pb-2 text-sm">
      {found.map((text) => (
        <span key={text}>
          <Way to="Colours" onGo={goTo}>
            {text}
          </Way>
          {`${NO_BREAK}, `}
        </span>
      ))}
      <Way to="Stack" onGo={goTo}>
        {jointOf(recipe, unit)}
      </Way>
      {`${NO_BREAK}; `}
      <Way to="Proof" onGo={goTo}>
        {things === 0 ? "no problems found." : things === 1 ? "1 thing to look at" : `${things} things to look at`}
      </Way>
    </p>
  );
}

function Way({ to, onGo, children }: { to: Place; onGo(place: Place): void; children: ReactNode }) {
  return (
    <button type="button" className={LINK} title={`Change it under ${to}`} onClick={() => onGo(to)}>
      {children}
    </button>
  );
}

/** What came of pictures and files, as short as it can be told. */
function broughtIn(recipe: Recipe, built: Built): string[] {
  return recipe.arts.flatMap((art) => kindOf(art).found(art, built));
}

function jointOf({ joint }: Recipe, unit: Unit): string {
  return JOINTS[joint.kind].told(showLength(joint.mm ?? 0, unit));
}

/** The way on: the next place of the job, by its name. */
export function NextPlace({ place }: { place: Place }) {
  const goTo = useView((view) => view.goTo);
  const next = PLACES[PLACES.indexOf(place) + 1];
  if (!next) return null;
  return (
    <p className="mt-6 text-right">
      <button type="button" className="act" onClick={() => goTo(next)}>
        Next: {next}
      </button>
    </p>
  );
}
