import { type Art, hasRegions, isHole, type Mend } from "@/api/client";
import { Check } from "@/entry/Entry";
import { never } from "@/geometry/kinds";
import { readLength } from "@/geometry/lengths";
import { Choice } from "@/parts/Choice";
import { FilmField } from "@/parts/FilmField";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import type { Mending, MendingStep } from "@/state/mode";
import { useView } from "@/state/view";
import { PenFields } from "./PenFields";
import { ReplaceFilm } from "./ReplaceFilm";

const STEPS: { step: MendingStep; text: string; title: string }[] = [
  { step: "bridge", text: "Bridge", title: "Join two ends of a line, so that what it goes round is enclosed" },
  { step: "cut-away", text: "Cut away", title: "Cut everything of a film away inside a box or lasso" },
  { step: "brush", text: "Brush", title: "Add to a film, or take from it, with a round brush" },
  { step: "smooth", text: "Smooth", title: "Smooth a stretch of edge" },
  { step: "straighten", text: "Straighten", title: "Make an edge straight between two points" },
  { step: "move-edge", text: "Move edge", title: "Take an edge to another place; both films follow" },
  { step: "draw-edge", text: "Draw edge", title: "Redraw a stretch of edge, from one point of it to another" },
  { step: "nodes", text: "Nodes", title: "Move, add and take out nodes of an edge; turn them into curves or corners" },
  {
    step: "draw-area",
    text: "Draw area",
    title: "Draw an area or a line of a film, an opening, or round what a film claims",
  },
  { step: "push", text: "Push under", title: "Push an edge outwards, under its neighbour" },
  { step: "take-over", text: "Give away", title: "Give a thin line to the film beside it" },
];
/** What can be done to a hole: strips of the films around it left across it, and parts of it closed. */
const IN_HOLES: readonly MendingStep[] = ["bridge", "cut-away"];
const NAMES: Record<Mend["kind"], string> = {
  bridge: "Bridge",
  "cut-away": "Cut away",
  brush: "Brush",
  smooth: "Smoothed edge",
  straighten: "Straight edge",
  "move-edge": "Moved edge",
  "draw-edge": "Edge redrawn",
  "put-node": "Node moved",
  "draw-area": "Drawn area",
  push: "Pushed under",
  "take-over": "Taken over",
  "let-go": "Film let go",
};

/** Steps that put right what the source got wrong; each can be switched off, changed and moved. */
export function MendFields({ art }: { art: Art }) {
  const hole = isHole(art);
  const ways = hole ? STEPS.filter(({ step }) => IN_HOLES.includes(step)) : STEPS;
  const { mode, take, putDown } = useView();
  const mine = mode.kind === "mending" && mode.art === art.id ? mode : null;
  const { built } = useOpenDesign();
  const top = built.layers.at(-1)?.film ?? null;
  const steps = art.mends.length;
  return (
    <Fold
      title="Mending"
      figure={steps === 0 ? "" : steps === 1 ? "1 step" : `${steps} steps`}
      open={steps > 0 || mine !== null}
    >
      <fieldset aria-label="Ways to mend" className="flex flex-wrap gap-1.5">
        {ways.map(({ step, text, title }) => (
          <button
            key={step}
            type="button"
            title={title}
            aria-pressed={mine?.step === step}
            className="act text-sm aria-pressed:border-chosen aria-pressed:bg-tint aria-pressed:font-semibold aria-pressed:text-chosen"
            onClick={() => (mine?.step === step ? putDown() : take(begun(art, step, top)))}
          >
            {text}
          </button>
        ))}
        {hasRegions(art) && <ReplaceFilm art={art} />}
      </fieldset>
      {mine && <ToolFields tool={mine} hole={hole} regions={hasRegions(art)} />}
      {steps > 0 && (
        <ol aria-label="Steps of mending" className="border-t border-line">
          {art.mends.map((mend, k) => (
            <MendRow key={mend.id} art={art} mend={mend} at={k} />
          ))}
        </ol>
      )}
    </Fold>
  );
}

const LENGTHS: Partial<Record<MendingStep, { label: string; mm: number | null }>> = {
  bridge: { label: "Width", mm: null },
  brush: { label: "Brush", mm: 1 },
  smooth: { label: "Reach", mm: 1 },
  "move-edge": { label: "Follows over", mm: 6 },
  push: { label: "By", mm: 0.6 },
  "draw-area": { label: "Width of a line", mm: 1 },
  "take-over": { label: "Thinner than", mm: 2 },
};

/** How wide a bridge across a hole begins. */
const HOLD_MM = 2;

function begun(art: Art, step: MendingStep, top: string | null): Mending {
  const mm = LENGTHS[step]?.mm ?? (isHole(art) && step === "bridge" ? HOLD_MM : null);
  // A brush may begin where there is no film yet.
  const film = step === "brush" || step === "draw-area" ? top : null;
  return {
    ...{ kind: "mending", art: art.id, step, film, by: "lasso", mm, mode: "add", follow: true, into: null },
    ...{ node: "take-out", gives: "film", knots: [] },
  };
}

/** What the tool in hand is to do with the next gesture. */
function ToolFields({ tool, hole, regions }: { tool: Mending; hole: boolean; regions: boolean }) {
  const { adjust: change } = useView();
  const unit = useUnit();
  const length = tool.step === "draw-area" && tool.gives === "claim" ? undefined : LENGTHS[tool.step];
  const none =
    { "cut-away": "all films", "take-over": "gaps between films" }[tool.step as string] ?? "the film pointed at";
  return (
    <div className="flex flex-col gap-2 rounded border border-line bg-table/60 p-2">
      <div className="flex items-end gap-3">
        {!hole && !(tool.step === "draw-area" && tool.gives === "opening") && (
          <FilmField
            label="Of the film"
            film={tool.film}
            none={tool.step === "draw-area" ? undefined : none}
            onFilm={(film) => change({ film })}
            onNone={() => change({ film: null })}
          />
        )}
        {length && (
          <LengthField
            label={length.label}
            mm={tool.mm ?? 0}
            none={tool.mm === null ? (tool.step === "bridge" ? "as its ends" : "any width") : undefined}
            onCommit={async (text) => {
              const mm = readLength(text, unit);
              if (mm !== null) change({ mm: mm > 0 ? mm : tool.step === "take-over" ? null : length.mm });
              return mm;
            }}
          />
        )}
      </div>
      {tool.step === "brush" && (
        <Choice
          label="The brush"
          value={tool.mode}
          options={[
            { value: "add", text: "Adds" },
            { value: "take", text: "Removes" },
          ]}
          onChange={(mode) => change({ mode })}
        />
      )}
      {tool.step === "bridge" && !hole && (
        <Choice
          label="New edge"
          value={tool.follow ? "on" : "straight"}
          options={[
            { value: "on", text: "Follows its ends" },
            { value: "straight", text: "Straight" },
          ]}
          onChange={(how) => change({ follow: how === "on" })}
        />
      )}
      {(tool.step === "cut-away" || tool.step === "take-over") && (
        <Choice
          label="Select by"
          value={tool.by}
          options={[
            { value: "box", text: "Box" },
            { value: "lasso", text: "Lasso" },
          ]}
          onChange={(by) => change({ by })}
        />
      )}
      {tool.step === "nodes" && (
        <Choice
          label="A click"
          value={tool.node}
          options={[
            { value: "take-out", text: "Takes it out" },
            { value: "smooth", text: "Curve" },
            { value: "corner", text: "Corner" },
          ]}
          onChange={(node) => change({ node })}
        />
      )}
      {tool.step === "draw-area" && <PenFields regions={regions} />}
      {tool.step === "take-over" && (
        <FilmField
          label="Given to"
          film={tool.into}
          none="all neighbours, to the middle"
          onFilm={(into) => change({ into })}
          onNone={() => change({ into: null })}
        />
      )}
    </div>
  );
}

/** One step: on or off, its film and length, and its place in the order. */
function MendRow({ art, mend, at }: { art: Art; mend: Mend; at: number }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const change = (changes: Partial<Mend>) =>
    edit({ kind: "change-mend", art: art.id, mend: { ...mend, ...changes } as Mend });
  const order = art.mends.map((m) => m.id);
  const move = (by: number) => {
    const next = order.filter((id) => id !== mend.id);
    next.splice(at + by, 0, mend.id);
    void edit({ kind: "order-mends", art: art.id, order: next });
  };
  const film = "film" in mend ? mend.film : null;
  const layer = built.layers.find((candidate) => candidate.film === film);
  const field = lengthOf(mend);
  return (
    <li className="grid grid-cols-[18px_14px_1fr_auto_auto] items-center gap-2 border-b border-line py-1 text-sm">
      <Check
        aria-label={`${nameOf(mend)}, step ${at + 1}, switched on`}
        checked={mend.on}
        onChange={(event) => change({ on: event.target.checked })}
      />
      <span
        aria-hidden
        className={`h-3.5 w-3.5 rounded-sm border ${film ? "border-firm" : "border-dashed border-firm"}`}
        style={{ background: layer?.colour ?? (film?.startsWith("#") ? film : "transparent") }}
      />
      <span className={`truncate ${mend.on ? "" : "text-soft line-through"}`}>{nameOf(mend)}</span>
      {field ? (
        <LengthField
          label={`${nameOf(mend)}, step ${at + 1}, length`}
          hideLabel
          mm={field.mm ?? 0}
          none={field.mm === null ? (mend.kind === "bridge" ? "as its ends" : "any width") : undefined}
          onCommit={(text) => change({ [field.key]: text } as unknown as Partial<Mend>)}
        />
      ) : (
        <span />
      )}
      <span className="flex gap-1">
        <button
          type="button"
          className="quiet px-1"
          aria-label={`Step ${at + 1} earlier`}
          disabled={at === 0}
          onClick={() => move(-1)}
        >
          ↑
        </button>
        <button
          type="button"
          className="quiet px-1"
          aria-label={`Step ${at + 1} later`}
          disabled={at === order.length - 1}
          onClick={() => move(1)}
        >
          ↓
        </button>
        <button
          type="button"
          className="quiet px-1"
          aria-label={`Delete step ${at + 1}`}
          onClick={() => edit({ kind: "remove-mend", art: art.id, mend: mend.id })}
        >
          ×
        </button>
      </span>
    </li>
  );
}

/** What a step is called. */
function nameOf(mend: Mend): string {
  if (mend.kind === "straighten" && mend.through) return "Node taken out";
  if (mend.kind === "put-node" && mend.form !== "as-drawn") return mend.form === "smooth" ? "Curve" : "Corner";
  if (mend.kind === "draw-area" && !mend.closed) return "Drawn line";
  return mend.kind === "draw-area" && mend.film === null ? "Drawn opening" : NAMES[mend.kind];
}

function lengthOf(mend: Mend): { key: string; mm: number | null } | null {
  switch (mend.kind) {
    case "bridge":
    case "brush":
      return { key: "width_mm", mm: mend.width_mm as number | null };
    case "smooth":
      return { key: "reach_mm", mm: mend.reach_mm as number };
    case "push":
    case "move-edge":
      return { key: "mm", mm: mend.mm as number };
    case "take-over":
      return { key: "thinner_mm", mm: mend.thinner_mm as number | null };
    case "draw-area":
      return mend.closed ? null : { key: "width_mm", mm: mend.width_mm as number };
    case "straighten":
    case "draw-edge":
    case "put-node":
    case "cut-away":
    case "let-go":
      return null;
    default:
      return never(mend);
  }
}
