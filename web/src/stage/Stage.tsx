import { useEffect, useMemo, useRef, useState } from "react";
import { isHole } from "@/api/client";
import { holds } from "@/geometry/boxes";
import { inSight, type Point, toMm } from "@/geometry/transform";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { see } from "@/state/sight";
import { useTools } from "@/state/tools";
import { useTries } from "@/state/tries";
import { useView } from "@/state/view";
import { CoreSample, type Probe } from "./CoreSample";
import { Ghost } from "./Ghost";
import { Handles } from "./Handles";
import { artAt, letterAt } from "./handling";
import { colourAt, holeAt, inHole, topFilm } from "./hits";
import { LENS_OF } from "./lenses";
import type { Hand } from "./look";
import { ringedIn } from "./pieces";
import { type MenuEntry, StageMenu } from "./StageMenu";
import { Crosshair, Gathered, Hint } from "./StageParts";
import { StageRail } from "./StageRail";
import { coreSample } from "./scene";
import { ToolHint } from "./ToolHint";
import { useArtKeys } from "./useArtKeys";
import { useCanvases } from "./useCanvases";
import { useComingIntoSight } from "./useComingIntoSight";
import { useCrosshair } from "./useCrosshair";
import { useDoing } from "./useDoing";
import { useFilmDrop } from "./useFilmDrop";
import { useHands } from "./useHands";
import { useLook } from "./useLook";
import { useStageKeys } from "./useStageKeys";
import { useStageMenu } from "./useStageMenu";
import { useViewport, within } from "./useViewport";
import { Writing } from "./Writing";

const HINT_PX = 90;

/** The light table: the decal through one of the lenses; pan, zoom, pick and probe. */
export function Stage() {
  const { built, recipe } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const { film: chosen, picking, pick, choose, arts: held, letters, holing, hole, waitingAt, loupe, shown } = useView();
  const { chooseArts, chooseLetters, goTo, picks, pickOne, pieces } = useView();
  const { tool, take } = useTools();
  const { look, originals, arranging, colouring } = useLook();
  const { scene, lens } = look;
  const table = useRef<HTMLElement>(null);
  const picture = useRef<HTMLCanvasElement>(null);
  const hand = useRef<HTMLCanvasElement>(null);
  const [menu, setMenu] = useState<readonly MenuEntry[]>([]);
  const [writing, setWriting] = useState<{ art: string; at: Point | null } | null>(null);
  const [probe, setProbe] = useState<Omit<Probe, "region"> | null>(null);
  const pen = () => (LENS_OF[lens].hit ? (hand.current?.getContext("2d") ?? null) : null);

  const box = useMemo(() => LENS_OF[lens].box(scene), [lens, scene]);
  // While art is being arranged the table stands still; otherwise the view follows the design's extent.
  const extent = arranging ? recipe.name : `${box.left}|${box.top}|${box.right}|${box.bottom}`;
  const boxKey = `${LENS_OF[lens].hit ? "flat" : lens}|${extent}`;
  const {
    size,
    pane,
    view,
    fit: fitDecal,
    zoom,
    pan,
    pinch,
    bringIntoSight,
    onPane,
  } = useViewport(table, box, boxKey, look.beside);

  const ringed = useMemo(() => ringedIn(built, pieces), [built, pieces]);
  useComingIntoSight(scene, ringed, bringIntoSight);

  const { doing, hovered, hover, press, drag, release, leave, claimExactly } = useDoing(pen, view?.scale ?? 1);
  const working = colouring && tool !== null && lens !== "Exploded";

  const click = (mm: Point, more: boolean) => {
    const context = pen();
    if (!context || !view) return;
    if (picking) {
      const found = colourAt(look.sources, originals, mm)?.colour;
      if (found) pickOne(found);
    } else if (holing) toggleHole(context, mm);
    else if (working && tool?.kind === "claim") claimExactly(mm);
    else if (arranging) chooseAt(mm, more);
    else {
      const top = coreSample(context, scene, mm.x, mm.y)[0];
      choose(top && top.key !== chosen ? top.key : null);
    }
  };

  /** Fills the hole at a point, or opens it again; beside holes nothing happens. */
  const toggleHole = (context: CanvasRenderingContext2D, mm: Point) => {
    const met = holeAt(context, built.holes, holing, mm);
    if (!met) return;
    void edit(({ recipe: { makings = [] } }) => {
      const now = makings.find((making) => making.id === holing);
      if (now?.kind !== "outline-shadow") return null;
      const others = now.chosen.filter((spot) => !inHole(context, met, { x: spot.x_mm, y: spot.y_mm }));
      const chosen = met.filled ? others : [...others, { x_mm: met.x_mm, y_mm: met.y_mm }];
      return { kind: "change-making", making: { ...now, chosen } };
    });
  };

  const chooseAt = (mm: Point, more: boolean) => {
    const found = artAt(scene, mm, 2 / (view?.scale ?? 1));
    if (!found) return more ? undefined : chooseArts([]);
    if (more) return chooseArts(held.includes(found) ? held.filter((id) => id !== found) : [...held, found]);
    if (held.length === 1 && held[0] === found) {
      const letter = letterAt(scene, found, mm);
      return chooseLetters(letter === null || letters.includes(letter) ? [] : [letter]);
    }
    return chooseArts([found]);
  };

  const pointing = {
    tool: working
      ? {
          down: press,
          move: drag,
          up: (from: Point) => {
            const context = pen();
            release(context && view ? topFilm(context, scene, from, view.scale) : null);
          },
          leave,
        }
      : null,
    click,
    hover: (mm: Point | null) => {
      if (!mm) {
        hover(null);
        return setProbe(null);
      }
      const context = pen();
      if (!context) return setProbe(null);
      const colour = picking ? (colourAt(look.sources, originals, mm)?.colour ?? null) : null;
      if (working) hover(mm);
      setProbe({ films: coreSample(context, scene, mm.x, mm.y), colour });
    },
  };
  const hands = useHands({
    scene,
    view,
    onPane,
    pan,
    pinch,
    gather:
      arranging && LENS_OF[lens].hit && !tool && !holing
        ? (drawn) => chooseArts(scene.arts.filter((art) => holds(drawn, art.box)).map((art) => art.id))
        : null,
    ...pointing,
    movable: arranging && LENS_OF[lens].hit && !holing && !tool ? held : [],
  });
  const cross = useCrosshair({ view, pane, ...pointing });
  useArtKeys(arranging && !tool && !holing && letters.length === 0, held);

  // What grows out of sight while it is written or arranged is brought back into it.
  const was = useRef(box);
  const trying = useTries((tries) => tries.tried !== null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a change of the decal's extent counts, once it is kept
  useEffect(() => {
    if (trying) return;
    const before = was.current;
    was.current = box;
    if (!view || !arranging || hands.holding()) return;
    const seen = { width: pane.width, height: pane.height };
    if (inSight(view, before, seen) && !inSight(view, box, seen)) fitDecal();
  }, [box, trying]);

  // What is brought in comes to lie in the middle of what is seen.
  useEffect(() => {
    if (!view || size.width === 0) return;
    const [from, to] = [toMm(view, { x: 0, y: 0 }), toMm(view, { x: pane.width, y: pane.height })];
    see({ left: from.x, top: from.y, right: to.x, bottom: to.y });
  }, [view, size.width, pane.width, pane.height]);

  const holes = useMemo(() => built.holes.filter((one) => one.making === holing), [built.holes, holing]);

  const { pointer, guides } = hands;
  const glass = loupe && pointer && !hands.holding() ? pointer : null;
  const over: Hand = useMemo(
    () => ({
      arranging,
      colouring,
      arts: held,
      letters,
      guides,
      claiming: tool?.kind === "claim",
      waitingAt,
      doing: working ? doing : null,
      findings: built.findings,
      shown: shown?.place ?? null,
      ringed,
      holes,
      unit,
      loupe: glass,
    }),
    [
      arranging,
      colouring,
      held,
      letters,
      guides,
      tool,
      waitingAt,
      working,
      doing,
      built.findings,
      shown,
      ringed,
      holes,
      unit,
      glass,
    ],
  );
  useCanvases(picture, hand, look, over, view, pane);

  // Esc puts a tool down, or ends picking, wherever the focus is; an open panel takes its own Esc first.
  useEffect(() => {
    if (!tool && !picking && !holing) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || event.defaultPrevented) return;
      leave();
      if (tool) take(null);
      else if (picking) pick(false);
      else hole(null);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });

  const writeIn = (art: string, at: Point | null = null) => {
    goTo("Art");
    chooseArts([art]);
    setWriting({ art, at });
  };

  const own = held.length === 1 && letters.length === 0 ? recipe.arts.find((art) => art.id === held[0]) : undefined;
  const lettering = arranging && own?.kind === "lettering" ? own : undefined;

  const onKeyDown = useStageKeys({
    movable: arranging ? held : [],
    letters,
    cross: cross.key,
    write: lettering ? () => writeIn(lettering.id) : null,
    letGo: tool || picking || holing ? null : () => (arranging ? chooseArts([]) : choose(null)),
    zoom,
    fitDecal,
    pan,
  });

  const atPointer = (event: { clientX: number; clientY: number }): Point | null =>
    table.current && view ? toMm(view, onPane(within(table.current, event))) : null;
  const films = useFilmDrop(scene, pen, atPointer);
  const menuAt = useStageMenu(scene, pen, fitDecal, view?.scale ?? 1, writeIn);
  const writeAt = (event: { clientX: number; clientY: number }) => {
    const mm = atPointer(event);
    if (!mm || tool || holing || picking) return;
    const found = artAt(scene, mm, 2 / (view?.scale ?? 1));
    const art = recipe.arts.find((one) => one.id === found);
    if (art?.kind === "lettering") writeIn(art.id, mm);
  };
  const ownBox = own && built.arts.find((art) => art.id === own.id)?.box;
  const aside = ((cross.at ?? pointer)?.y ?? 0) > pane.height - HINT_PX;
  const handled = arranging && !tool && !holing && !picking && LENS_OF[lens].hit && !hands.ghost;
  const writes = writing?.art === lettering?.id ? writing : null;

  return (
    <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_96px]">
      <section ref={table} aria-label="Light table" className="relative min-h-0 min-w-0 overflow-hidden bg-table">
        <canvas ref={picture} className="absolute inset-0 h-full w-full" />
        <StageMenu entries={menu}>
          <canvas
            ref={hand}
            tabIndex={0}
            role="img"
            aria-label={`The decal: ${built.layers.map((layer) => layer.name).join(", ")}. Arrow keys move the chosen art or the table, plus and minus zoom, 0 fits it.`}
            className={`absolute inset-0 h-full w-full touch-none -outline-offset-4 ${picking || working ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
            {...hands.handlers}
            {...films}
            onKeyDown={onKeyDown}
            onContextMenu={(event) => setMenu(menuAt(atPointer(event)))}
            onDoubleClick={writeAt}
          />
        </StageMenu>
        {view && handled && lettering && ownBox && writes && (
          <Writing
            art={lettering}
            box={ownBox}
            at={writes.at}
            view={view}
            left={pane.left}
            onEnd={() => setWriting(null)}
          />
        )}
        {view && handled && own && ownBox && !writes && <Handles art={own} box={ownBox} view={view} pane={pane} />}
        {view && hands.ghost && <Ghost {...hands.ghost} view={view} left={pane.left} picture={picture} />}
        {view && hands.gathered && <Gathered box={hands.gathered} view={view} left={pane.left} />}
        {cross.at && <Crosshair at={cross.at} left={pane.left} />}
        {working && tool && (
          <Hint aside={aside}>
            <ToolHint tool={tool} hole={doing !== null && isHole(doing.art)} />
          </Hint>
        )}
        {picking && (
          <Hint aside={aside}>{picks.length} picked. Click more, or Done in the panel; Esc leaves picking.</Hint>
        )}
        {cross.at && (
          <p className="sr-only" aria-live="polite">
            {probe && probe.films.length > 0 ? probe.films.map((one) => one.name).join(", on ") : "ground"}
          </p>
        )}
        {probe && (cross.at ?? pointer) && !hands.holding() && !loupe && (
          <CoreSample
            at={cross.at ?? pointer ?? { x: 0, y: 0 }}
            probe={{ ...probe, region: working ? hovered : null }}
            size={size}
          />
        )}
      </section>
      <StageRail
        still={lens === "Exploded" || picking || look.sources.length === 0}
        scale={view?.scale ?? null}
        zoom={zoom}
        fit={fitDecal}
      />
    </div>
  );
}
