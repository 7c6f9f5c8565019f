import { useEffect, useMemo, useRef, useState } from "react";
import { hasRegions, isHole } from "@/api/client";
import { around } from "@/geometry/boxes";
import { scaleOf } from "@/geometry/place";
import { type Point, toMm } from "@/geometry/transform";
import { useCompared } from "@/state/compare";
import { useOpenDesign, useUnit } from "@/state/design";
import { isTakenUp } from "@/state/mode";
import { useSlipped, useTold } from "@/state/proof";
import type { Area } from "@/state/regions";
import { useView } from "@/state/view";
import { CoreSample, type Probe } from "./CoreSample";
import { changesOf } from "./changes";
import { differenceAt } from "./differences";
import { doingOf } from "./doing";
import { drawingOf } from "./drawing";
import { Ghost } from "./Ghost";
import { between } from "./grip";
import { Handles } from "./Handles";
import { artAt } from "./handling";
import { LENS_OF } from "./lenses";
import type { Hand } from "./look";
import { MODES } from "./modes";
import { NoFilms } from "./NoFilms";
import { ringedIn } from "./pieces";
import { narrowAt } from "./proved";
import { Since } from "./Since";
import { type MenuEntry, StageMenu } from "./StageMenu";
import { Crosshair, Gathered, Hint } from "./StageParts";
import { StageRail } from "./StageRail";
import { coreSample } from "./scene";
import { isHinted, ToolHint } from "./ToolHint";
import { useArtKeys } from "./useArtKeys";
import { useCanvases } from "./useCanvases";
import { useComingIntoSight } from "./useComingIntoSight";
import { useCrosshair } from "./useCrosshair";
import { useFilmDrop } from "./useFilmDrop";
import { useHand } from "./useHand";
import { useKeptInSight } from "./useKeptInSight";
import { useLook } from "./useLook";
import { usePenKeys } from "./usePenKeys";
import { useSlipKeys } from "./useSlipKeys";
import { useStageKeys } from "./useStageKeys";
import { useStageMenu } from "./useStageMenu";
import { useViewport, within } from "./useViewport";
import { useWorld } from "./useWorld";
import { Writing } from "./Writing";

const HINT_PX = 90;
const NO_GUIDES: Hand["guides"] = [];

interface Met {
  readonly films: Probe["films"];
  readonly colour: string | null;
  readonly area: Area | null;
  readonly narrow: Probe["narrow"];
  readonly differs: Probe["differs"];
}

/** The light table: the decal through one of the lenses, under a hand that is in one mode. */
export function Stage() {
  const { built, recipe } = useOpenDesign();
  const unit = useUnit();
  const {
    mode,
    place,
    pending,
    putDown,
    write,
    choose,
    chooseArts,
    letters,
    waitingAt,
    loupe,
    shown,
    pieces,
    showNodes,
  } = useView();
  const { look, originals } = useLook();
  const { scene, lens } = look;
  const table = useRef<HTMLElement>(null);
  const picture = useRef<HTMLCanvasElement>(null);
  const over = useRef<HTMLCanvasElement>(null);
  const [menu, setMenu] = useState<readonly MenuEntry[]>([]);
  const [met, setMet] = useState<Met | null>(null);
  const { hit: flat, box: boxOf } = LENS_OF[lens];
  const pen = () => (flat ? (over.current?.getContext("2d") ?? null) : null);
  const arranging = mode.kind === "arranging" || mode.kind === "writing";

  const box = useMemo(() => boxOf(scene), [boxOf, scene]);
  // While art is being arranged the table stands still; otherwise the view follows the design's extent.
  const extent = arranging ? recipe.name : `${box.left}|${box.top}|${box.right}|${box.bottom}`;
  const port = useViewport(table, box, `${flat ? "flat" : lens}|${extent}`, look.beside);
  const { size, pane, view, fit, zoom, pan, pinch, onPane, bringIntoSight } = port;
  const ringed = useMemo(() => ringedIn(built, pieces), [built, pieces]);
  useComingIntoSight(scene, ringed, bringIntoSight);

  const scale = view?.scale ?? 1;
  const world = useWorld(look, originals, pen, scale);
  const { arts } = world;
  const hover = (mm: Point | null) => {
    const context = mm && pen();
    if (!mm || !context) return setMet(null);
    const films = coreSample(context, scene, mm.x, mm.y);
    const colour = mode.kind === "picking" ? world.colourAt(mm) : null;
    const narrow = lens === "Narrow" ? narrowAt(look, mm, 6 / scale) : null;
    const differs = lens === "Differences" && view ? differenceAt(picture.current, view, mm) : null;
    setMet({ films, colour, narrow, differs, area: mode.kind === "claiming" ? world.regionAt(mm) : null });
  };
  const hand = useHand({ world, view, onPane, pan, pinch, hover });
  const draws = MODES[mode.kind].drawn !== undefined;
  const cross = useCrosshair({ view, pane, draws, send: hand.send, hover });
  useKeptInSight(view, pane, box, () => arranging && !hand.isHolding(), fit);

  const area = met?.area ?? null;
  const { grip } = hand;
  const doing = doingOf(mode, grip, world, area, pending, built.layers);
  const probe: Probe | null = met && {
    ...met,
    thick: lens === "Thickness",
    region: area &&
      doing && { area, owners: world.owners, count: doing.hovered.length, scale: scaleOf(doing.art.place) },
  };
  const { pointer, abandon } = hand;
  const looksClose = loupe && pointer && !hand.isHolding() ? pointer : null;
  const holing = mode.kind === "holing" ? mode.making : null;
  const holes = useMemo(() => built.holes.filter((one) => one.making === holing), [built.holes, holing]);
  const guides = grip.holds === "arts" ? grip.guides : NO_GUIDES;
  const pointed = cross.at ?? pointer;
  const drawing = drawingOf(mode, grip, pointed && view ? toMm(view, onPane(pointed)) : null);
  const colouring = place === "Colours" && mode.kind !== "picking";
  const claiming = mode.kind === "claiming";
  const told = useTold();
  const slipped = useSlipped(look.slip);
  const changed = useCompared()?.changes;
  const changes = useMemo(() => (changed && flat ? changesOf(changed) : null), [changed, flat]);
  const proving = place === "Proof";
  const findings = proving ? told : built.findings;
  // As long as nothing of it changes it is one and the same, and is not drawn anew while the pointer moves.
  const laid: Hand = useMemo(
    () => ({
      ...{
        arranging,
        colouring,
        arts,
        letters,
        guides,
        claiming,
        waitingAt,
        doing,
        drawing,
        findings,
        ringed,
        holes,
        unit,
        slipped,
        proving,
        changes,
      },
      ...{ shown: shown?.place ?? null, loupe: looksClose },
    }),
    [
      arranging,
      colouring,
      arts,
      letters,
      guides,
      claiming,
      waitingAt,
      doing,
      drawing,
      findings,
      shown,
      ringed,
      holes,
      unit,
      slipped,
      proving,
      changes,
      looksClose,
    ],
  );
  useCanvases(picture, over, look, laid, view, pane);

  usePenKeys(cross.at !== null);
  // Esc puts down what is taken up, wherever the focus is; an open panel and words take their own Esc first.
  const takenUp = isTakenUp(mode) && mode.kind !== "writing";
  useEffect(() => {
    if (!takenUp) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || event.defaultPrevented) return;
      abandon();
      putDown();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });

  const own = arts.length === 1 && letters.length === 0 ? recipe.arts.find((art) => art.id === arts[0]) : undefined;
  const lettering = arranging && own?.kind === "lettering" ? own : undefined;
  useArtKeys(arranging && letters.length === 0, arts);
  const onKeyDown = useStageKeys({
    movable: arranging ? arts : [],
    letters,
    cross: cross.key,
    write: lettering ? () => write(lettering.id, null) : null,
    letGo: takenUp ? null : () => (arranging ? chooseArts([]) : choose(null)),
    zoom,
    fitDecal: fit,
    pan,
    slip: useSlipKeys(),
  });

  const atPointer = (event: { clientX: number; clientY: number }): Point | null =>
    table.current && view ? toMm(view, onPane(within(table.current, event))) : null;
  const films = useFilmDrop(scene, pen, atPointer);
  const menuAt = useStageMenu(scene, pen, fit, scale);
  const writeAt = (event: { clientX: number; clientY: number }) => {
    const mm = atPointer(event);
    if (!mm || takenUp) return;
    const found = recipe.arts.find((art) => art.id === artAt(scene, mm, 2 / scale));
    if (found?.kind === "lettering") write(found.id, mm);
    else if (found && hasRegions(found)) showNodes(true);
  };
  const ownBox = own && built.arts.find((art) => art.id === own.id)?.box;
  const dragged = grip.holds === "arts" && grip.by ? { from: around(grip.boxes), by: grip.by } : null;
  const handled = arranging && flat && !dragged;

  return (
    <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_6rem] narrow:grid-cols-[minmax(0,1fr)] narrow:grid-rows-[minmax(0,1fr)_auto]">
      <section ref={table} aria-label="Light table" className="relative min-h-0 min-w-0 overflow-hidden bg-table">
        <canvas ref={picture} className="absolute inset-0 h-full w-full" />
        <StageMenu entries={menu}>
          {/* biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: it has keys of its own, and tells them */}
          <canvas
            ref={over}
            tabIndex={0}
            role="application"
            aria-label={`The decal: ${built.layers.map((layer) => layer.name).join(", ")}. Arrow keys move the chosen art or the table, plus and minus zoom, 0 fits it, X points.`}
            className={`absolute inset-0 h-full w-full touch-none -outline-offset-4 ${takenUp ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
            {...hand.handlers}
            {...films}
            onKeyDown={onKeyDown}
            onContextMenu={(event) => setMenu(menuAt(atPointer(event)))}
            onDoubleClick={writeAt}
          />
        </StageMenu>
        {view && handled && lettering && ownBox && mode.kind === "writing" && mode.art === lettering.id && (
          <Writing art={lettering} box={ownBox} at={mode.at} view={view} left={pane.left} onEnd={putDown} />
        )}
        {view && handled && own && ownBox && mode.kind === "arranging" && (
          <Handles art={own} box={ownBox} view={view} pane={pane} />
        )}
        {view && dragged && <Ghost {...dragged} view={view} left={pane.left} picture={picture} />}
        {view && grip.holds === "box" && grip.moved && (
          <Gathered box={between(grip.from.mm, grip.at.mm)} view={view} left={pane.left} />
        )}
        <Since className="absolute top-3 left-3 max-w-[min(22rem,90%)]" />
        <NoFilms className="pointer-events-none absolute inset-x-8 top-1/3 text-center" />
        {cross.at && <Crosshair at={cross.at} left={pane.left} />}
        {isHinted(mode) && (
          <Hint aside={(pointed?.y ?? 0) > pane.height - HINT_PX}>
            <ToolHint mode={mode} hole={doing !== null && isHole(doing.art)} />
          </Hint>
        )}
        {cross.at && (
          <p className="sr-only" aria-live="polite">
            {probe && probe.films.length > 0 ? probe.films.map((one) => one.name).join(", on ") : "ground"}
          </p>
        )}
        {probe && pointed && !hand.isHolding() && !loupe && !drawing && (
          <CoreSample at={pointed} probe={probe} size={size} />
        )}
      </section>
      <StageRail
        still={lens === "Exploded" || mode.kind === "picking" || look.sources.length === 0}
        scale={view?.scale ?? null}
        zoom={zoom}
        fit={fit}
      />
    </div>
  );
}
