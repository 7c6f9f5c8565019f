import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { hasRegions, type Recipe } from "@/api/client";
import { showLength, showTime } from "@/lengths";
import { movedBy } from "@/places/art/useArt";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useManyAreas } from "@/state/regions";
import { useTools } from "@/state/tools";
import { useTry } from "@/state/tries";
import { useView } from "@/state/view";
import { CoreSample, type Probe } from "./CoreSample";
import { paintGround } from "./ground";
import { artAt, drawn, type Guide, letterAt } from "./handling";
import { middleOf, paintDoing, paintEdges, paintFindings, paintNodes, paintSource } from "./overlay";
import * as paint from "./paint";
import { intoArt } from "./place";
import { faded, onlyIn, paintDivide, paintLoupe } from "./reference";
import { StageBar } from "./StageBar";
import { coreSample, sceneOf } from "./scene";
import { paintSheets, sheetsBox } from "./sheets";
import { ToolHint } from "./ToolHint";
import { type Box, fitView, type Point, panBy, shownAt, toMm, type View, zoomAt } from "./transform";
import { useDoing } from "./useDoing";
import { useOriginals } from "./useOriginal";

const ROOM_PX = 64;
const ZOOM_STEP = 1.25;
const SNAP_PX = 7;
const LOUPE_ZOOM = 5;
const NUDGE_REST_MS = 300;

/** The light table: the decal through one of the lenses, or its sheets; pan, zoom, pick and probe. */
export function Stage() {
  const { built, recipe } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const attempt = useTry();
  const { place, lens, original, film: chosen, picking, pick, choose } = useView();
  const { arts: held, letters, holing, hole, waitingAt, chooseArts, chooseLetters } = useView();
  const { hidden, reference, loupe, nodes, edges: tracing, shown } = useView();
  const { tool, take } = useTools();
  const pictures = useMemo(
    () => recipe.arts.flatMap((art) => (art.kind === "picture" || art.kind === "line-art" ? [art] : [])),
    [recipe],
  );
  const sources = useMemo(() => recipe.arts.filter(hasRegions), [recipe]);
  const referring = original > 0 || loupe || reference === "beside";
  const files = useManyAreas(
    useMemo(
      () => (referring ? recipe.arts.flatMap((art) => (art.kind === "vector" ? [art.id] : [])) : []),
      [recipe, referring],
    ),
  );
  const originals = useOriginals(useMemo(() => hashesOf(recipe), [recipe]));
  const bitmaps = useMemo(() => new Map([...originals].map(([hash, o]) => [hash, o.picture])), [originals]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [view, setView] = useState<View | null>(null);
  const [pointer, setPointer] = useState<Point | null>(null);
  const [probe, setProbe] = useState<Omit<Probe, "region"> | null>(null);
  const hold = useRef<Hold | null>(null);
  const nudged = useRef<{ ids: readonly string[]; by: Point; rest: number } | null>(null);
  const [guides, setGuides] = useState<Guide[]>([]);
  const arranging = place === "Art" && !picking;
  const edges = tracing && arranging;
  const sheets = place === "Sheets";
  // A film that is put out of sight on the decal stays on its sheet.
  const scene = useMemo(() => sceneOf(built, sheets ? [] : hidden), [built, hidden, sheets]);
  const exploded = !sheets && lens === "Exploded" && !picking;
  const beside = reference === "beside" && original > 0 && !sheets && !exploded && !picking && sources.length > 0;
  const pane = beside ? size.width / 2 : size.width;
  const {
    doing,
    hovered,
    hover,
    press: pressTool,
    drag: dragTool,
    release,
    leave,
  } = useDoing(() => canvas.current?.getContext("2d") ?? null, view?.scale ?? 1);
  const working = arranging && tool !== null && !exploded;

  const box: Box = useMemo(() => {
    if (sheets) return sheetsBox(scene);
    if (exploded) return paint.explodedBox(scene);
    return scene.box;
  }, [scene, sheets, exploded]);
  // While art is being arranged the table stands still; otherwise the view follows the design's extent.
  const boxKey = `${sheets}|${exploded}|${arranging ? recipe.name : `${box.left}|${box.top}|${box.right}|${box.bottom}`}`;
  const fit = useCallback(() => {
    if (size.width > 0) setView(fitView(box, pane, size.height, ROOM_PX));
  }, [box, size, pane]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view is fitted anew only when what is shown changes its extent
  useEffect(fit, [boxKey, pane, size.height]);

  // A waiting region comes into sight when it is stepped to, and so does the next one when it is claimed.
  const holder = scene.arts.find((art) => (held.length === 0 || held.includes(art.id)) && art.waiting.length > 0);
  const waits = waitingAt === null ? undefined : holder?.waiting[waitingAt];
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the step itself moves the table
  useEffect(() => {
    if (waits) setView((now) => now && shownAt(now, { x: waits.x_mm, y: waits.y_mm }, pane, size.height));
  }, [waitingAt, waits?.region]);

  // What is told of comes into sight whenever it is asked for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the asking moves the table
  useEffect(() => {
    const middle = shown && middleOf(shown.place);
    if (middle) setView((now) => now && shownAt(now, middle, pane, size.height));
  }, [shown]);

  useEffect(() => {
    const element = canvas.current?.parentElement;
    if (!element) return;
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  /** A point of the canvas as one of the pane it lies in: beside the original, both panes show the same place. */
  const onPane = (at: Point): Point => ({
    x: beside && at.x > size.width / 2 ? at.x - Math.round(size.width / 2) : at.x,
    y: at.y,
  });

  // biome-ignore lint/correctness/useExhaustiveDependencies: the pointer matters only under the loupe, and pictures come with bitmaps
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context || !view || size.width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ratio = window.devicePixelRatio || 1;
      const [w, h] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
      if (element.width !== w || element.height !== h) {
        element.width = w;
        element.height = h;
      }
      paint.paintTable(context, size.width, size.height, ratio);
      if (sheets) {
        paintSheets(context, scene, view, ratio, chosen);
        return;
      }
      if (exploded) {
        paint.paintExploded(context, scene, view, ratio, chosen);
        return;
      }
      const film = arranging ? null : chosen;
      const showSources = (at: View, alpha: number) => {
        for (const art of sources) {
          const image = art.kind === "vector" ? undefined : bitmaps.get(art.picture);
          const areas = files.get(art.id);
          if (image && art.kind !== "vector") paint.paintOriginal(context, art, at, ratio, image, alpha);
          else if (areas) paintSource(context, art, areas, at, ratio, alpha);
        }
      };
      const showResult = (at: View, on = context) => {
        if (edges) paintEdges(on, scene, at, ratio);
        else if (lens === "Cut lines") paint.paintCutLines(on, scene, at, ratio, film);
        else paint.paintFinished(on, scene, at, ratio, film, bitmaps);
      };
      const half = Math.round(size.width / 2);
      const here = beside ? { ...view, x: view.x + half } : view;
      if (beside) {
        onlyIn(context, ratio, { left: 0, top: 0, right: half, bottom: size.height }, () =>
          showSources(view, original),
        );
        paintDivide(context, half, size.height, ratio);
      }
      onlyIn(context, ratio, { left: beside ? half : 0, top: 0, right: size.width, bottom: size.height }, () => {
        const under = edges || (reference === "under" && original > 0 && !picking);
        if (lens === "Finished" && !under) paintGround(context, scene, here, ratio, recipe.ground);
        paint.paintFrame(context, scene, here, ratio);
        if (under) showSources(here, 1);
        context.globalAlpha = 1;
        if (under && !edges) faded(context, 1 - 0.85 * original, (on) => showResult(here, on));
        else showResult(here);
        const over = picking ? 1 : reference === "over" && !edges ? original : 0;
        if (over > 0) showSources(here, over);
        if (nodes) paintNodes(context, scene, here, ratio);
        if (arranging) paint.paintHandling(context, scene, here, ratio, held, letters, guides);
        if (arranging) paint.paintWaiting(context, scene, here, ratio, held, tool?.kind === "claim", waitingAt);
        if (working && doing) paintDoing(context, here, ratio, doing);
        paintFindings(context, built.findings, shown?.place ?? null, here, ratio);
        const seen = lens === "Finished" && !under ? recipe.ground.colour : "#fbfaf7";
        paint.paintDimensions(context, scene, here, ratio, unit, seen);
      });
      if (loupe && pointer && !hold.current) {
        const local = { x: pointer.x - (beside && pointer.x > half ? half : 0), y: pointer.y };
        const close = zoomAt(view, local, LOUPE_ZOOM);
        const moved = { ...close, x: close.x + pointer.x - local.x };
        paintLoupe(
          context,
          pointer,
          ratio,
          () => showSources(moved, 1),
          () => showResult(moved),
        );
      }
    });
    return () => cancelAnimationFrame(frame);
  }, [
    scene,
    view,
    size,
    sheets,
    exploded,
    lens,
    chosen,
    original,
    picking,
    bitmaps,
    unit,
    recipe.ground,
    arranging,
    held,
    letters,
    guides,
    waitingAt,
    sources,
    files,
    reference,
    beside,
    loupe ? pointer : null,
    nodes,
    edges,
    tool,
    working,
    doing,
    built.findings,
    shown,
  ]);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const spot = within(element, event);
      const half = Math.round(element.clientWidth / 2);
      const at = beside && spot.x > half ? { x: spot.x - half, y: spot.y } : spot;
      setView((now) => now && zoomAt(now, at, Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [beside]);

  /** The colour of the topmost picture at a point of the stack. */
  const colourAt = (mm: Point): { colour: string; art: string } | null => {
    for (const art of [...pictures].reverse()) {
      const image = originals.get(art.picture);
      if (!image) continue;
      const { x, y } = intoArt(art.place, mm);
      const height = (art.width_mm * image.picture.height) / image.picture.width;
      const colour = image.colourAt(x / art.width_mm, y / height);
      if (colour) return { colour, art: art.id };
    }
    return null;
  };

  const probeAt = (at: Point) => {
    const context = canvas.current?.getContext("2d");
    if (!context || !view || sheets || exploded) return setProbe(null);
    const mm = toMm(view, at);
    const colour = picking ? (colourAt(mm)?.colour ?? null) : null;
    if (working) hover(mm);
    setProbe({ films: coreSample(context, scene, mm.x, mm.y), colour });
  };

  const onClick = (at: Point, more: boolean) => {
    const context = canvas.current?.getContext("2d");
    if (!context || !view || sheets || exploded) return;
    const mm = toMm(view, at);
    if (picking) {
      const found = colourAt(mm);
      if (!found) return;
      pick(false);
      void edit({ kind: "pick-colour", ...found });
      return;
    }
    const shadow = recipe.makings?.find((making) => making.id === holing);
    if (shadow?.kind === "outline-shadow") {
      const spot = { x_mm: Number(mm.x.toFixed(2)), y_mm: Number(mm.y.toFixed(2)) };
      void edit(({ recipe: { makings = [] } }) => {
        const now = makings.find((making) => making.id === shadow.id);
        if (now?.kind !== "outline-shadow") return null;
        return { kind: "change-making", making: { ...now, chosen: [...now.chosen, spot] } };
      });
      return;
    }
    if (arranging) {
      const found = artAt(scene, mm, 2 / view.scale);
      if (!found) return more ? undefined : chooseArts([]);
      if (more) return chooseArts(held.includes(found) ? held.filter((id) => id !== found) : [...held, found]);
      if (held.length === 1 && held[0] === found) {
        const letter = letterAt(scene, found, mm);
        return chooseLetters(letter === null || letters.includes(letter) ? [] : [letter]);
      }
      return chooseArts([found]);
    }
    const top = coreSample(context, scene, mm.x, mm.y)[0];
    choose(top && top.key !== chosen ? top.key : null);
  };

  /** The film that lies on top at a point of the pane, or at the nearest film within a few pixels of it. */
  const filmAt = (at: Point): string | null => {
    const context = canvas.current?.getContext("2d");
    if (!context || !view) return null;
    for (const reach of [0, 3, 6, 10]) {
      for (let k = 0; k < (reach === 0 ? 1 : 8); k += 1) {
        const turn = (k * Math.PI) / 4;
        const mm = toMm(view, { x: at.x + reach * Math.cos(turn), y: at.y + reach * Math.sin(turn) });
        const top = coreSample(context, scene, mm.x, mm.y)[0];
        if (top) return top.key;
      }
    }
    return null;
  };

  /** The edit that moves the chosen art by so many mm. */
  const moveEdit = (ids: readonly string[], by: Point) => movedBy(ids, [by]);

  /** Moves art step by step while a key is held; all its steps are one edit, made when they rest. */
  const nudgeBy = (ids: readonly string[], x: number, y: number) => {
    const before = nudged.current;
    if (before && before.ids.join() !== ids.join()) settleNudge();
    const by = { x: (nudged.current?.by.x ?? 0) + x, y: (nudged.current?.by.y ?? 0) + y };
    window.clearTimeout(before?.rest);
    nudged.current = { ids, by, rest: window.setTimeout(settleNudge, NUDGE_REST_MS) };
    attempt(moveEdit(ids, by));
  };
  const settleNudge = () => {
    const now = nudged.current;
    if (!now) return;
    window.clearTimeout(now.rest);
    nudged.current = null;
    void edit(moveEdit(now.ids, now.by));
  };
  const leaveNudge = useRef(settleNudge);
  leaveNudge.current = settleNudge;
  useEffect(() => () => leaveNudge.current(), []);

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

  const onGrab = (at: Point): Hold => {
    const mm = view && arranging && !exploded && !holing && !tool ? toMm(view, at) : null;
    const found = mm && view ? artAt(scene, mm, 2 / view.scale) : null;
    // Only art that is chosen is moved; anything else under the pointer moves the table.
    const ids = found && held.includes(found) ? held : [];
    const boxes = scene.arts.filter((art) => ids.includes(art.id)).map((art) => art.box);
    return { at, from: at, moved: false, ids, boxes, by: null, tool: false };
  };

  const onDrag = (grip: Hold, at: Point) => {
    if (!view) return;
    if (grip.tool) return dragTool(toMm(view, at));
    const [dx, dy] = [at.x - grip.at.x, at.y - grip.at.y];
    if (!grip.moved && Math.hypot(dx, dy) < 4) return;
    if (grip.ids.length === 0) {
      hold.current = { ...grip, at, moved: true };
      setView((now) => now && panBy(now, dx, dy));
      return;
    }
    const wanted = { x: (at.x - grip.from.x) / view.scale, y: (at.y - grip.from.y) / view.scale };
    const others = scene.arts.filter((art) => !grip.ids.includes(art.id)).map((art) => art.box);
    const pull = drawn(around(grip.boxes), wanted, others, SNAP_PX / view.scale);
    const by = { x: Number(pull.by.x.toFixed(3)), y: Number(pull.by.y.toFixed(3)) };
    hold.current = { ...grip, at, moved: true, by };
    setGuides(pull.guides);
    attempt(moveEdit(grip.ids, by));
  };

  /** One step with an arrow key: moves the chosen art by 0.5 mm (5 mm with Shift), else the table. */
  const step = (x: number, y: number, wide: boolean) => {
    if (arranging && held.length > 0) nudgeBy(held, x * (wide ? 5 : 0.5), y * (wide ? 5 : 0.5));
    else setView((now) => now && panBy(now, -40 * x, -40 * y));
  };

  const zoomBy = (factor: number) => setView((now) => now && zoomAt(now, { x: pane / 2, y: size.height / 2 }, factor));

  return (
    <section aria-label="Light table" className="relative min-h-0 min-w-0 overflow-hidden bg-table">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`The decal: ${built.layers.map((layer) => layer.name).join(", ")}. Arrow keys move the chosen art or the table, plus and minus zoom, 0 fits it.`}
        className={`absolute inset-0 h-full w-full -outline-offset-4 ${picking || working ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const at = onPane(within(event.currentTarget, event));
          const draws = working && event.button === 0 && !event.altKey && view !== null;
          hold.current = { ...onGrab(at), tool: draws };
          if (draws) pressTool(toMm(view, at));
        }}
        onPointerMove={(event) => {
          const spot = within(event.currentTarget, event);
          const at = onPane(spot);
          setPointer(spot);
          if (hold.current) onDrag(hold.current, at);
          else probeAt(at);
        }}
        onPointerUp={(event) => {
          const grip = hold.current;
          hold.current = null;
          setGuides([]);
          const at = onPane(within(event.currentTarget, event));
          if (grip?.tool) release(filmAt(grip.from));
          else if (grip && !grip.moved) onClick(at, event.shiftKey || event.ctrlKey);
          else if (grip?.by) void edit(moveEdit(grip.ids, grip.by));
        }}
        onPointerCancel={() => {
          hold.current = null;
          setGuides([]);
          leave();
        }}
        onPointerLeave={() => {
          setProbe(null);
          setPointer(null);
          hover(null);
        }}
        onKeyDown={(event) => {
          const steps: Record<string, () => void> = {
            ArrowLeft: () => step(-1, 0, event.shiftKey),
            ArrowRight: () => step(1, 0, event.shiftKey),
            ArrowUp: () => step(0, -1, event.shiftKey),
            ArrowDown: () => step(0, 1, event.shiftKey),
            "+": () => zoomBy(ZOOM_STEP),
            "-": () => zoomBy(1 / ZOOM_STEP),
            "0": fit,
            Escape: () => {
              if (tool || picking || holing) return;
              if (arranging) chooseArts([]);
              else choose(null);
            },
          };
          const taken = steps[event.key];
          if (!taken) return;
          event.preventDefault();
          taken();
        }}
      />
      <Figures />
      {!sheets && <StageBar still={exploded || picking || sources.length === 0} />}
      <div className="absolute right-4 bottom-3 flex items-center gap-1 rounded-full border border-line bg-paper/95 px-2 py-1 text-soft">
        <button type="button" aria-label="Smaller" className="px-2" onClick={() => zoomBy(1 / ZOOM_STEP)}>
          −
        </button>
        <button type="button" className="measure min-w-24 text-center text-sm" title="Fit the decal" onClick={fit}>
          {view ? `1 mm is ${view.scale.toFixed(1)} px` : ""}
        </button>
        <button type="button" aria-label="Larger" className="px-2" onClick={() => zoomBy(ZOOM_STEP)}>
          +
        </button>
      </div>
      {working && tool && <ToolHint tool={tool} />}
      {picking && (
        <p className="absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-ink px-4 py-1.5 text-white">
          Click a colour of the picture: it becomes a film. Esc leaves picking.
        </p>
      )}
      {probe && pointer && !hold.current && !loupe && (
        <CoreSample at={pointer} probe={{ ...probe, region: working ? hovered : null }} size={size} />
      )}
    </section>
  );
}

/** The figures of the whole decal, where the eye checks them. */
function Figures() {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const length = built.layers.reduce((sum, layer) => sum + layer.cut_length_mm, 0);
  const nodes = built.layers.reduce((sum, layer) => sum + layer.nodes, 0);
  const seconds = built.layers.reduce((sum, layer) => sum + layer.seconds, 0);
  return (
    <p className="measure pointer-events-none absolute top-3 right-4 flex gap-4 rounded bg-table/85 px-1 text-sm text-soft">
      <span>{built.layers.length === 1 ? "1 film" : `${built.layers.length} films`}</span>
      <span>up to {built.max_thickness} thick</span>
      <span>{showLength(length, unit)} to cut</span>
      <span>{nodes} nodes</span>
      <span title="At 80 mm a second, slower in turns">about {showTime(seconds)}</span>
    </p>
  );
}

/** What a pressed pointer holds: the table, or art that is being moved. */
interface Hold {
  readonly at: Point;
  readonly from: Point;
  readonly moved: boolean;
  readonly ids: readonly string[];
  readonly boxes: readonly Box[];
  readonly by: Point | null;
  /** Whether the pointer draws with a tool. */
  readonly tool: boolean;
}

function around(boxes: readonly Box[]): Box {
  return {
    left: Math.min(...boxes.map((b) => b.left)),
    top: Math.min(...boxes.map((b) => b.top)),
    right: Math.max(...boxes.map((b) => b.right)),
    bottom: Math.max(...boxes.map((b) => b.bottom)),
  };
}

/** The pictures a design shows: its art, and what its films are patterned with. */
function hashesOf(recipe: Recipe): string[] {
  const art = recipe.arts.flatMap((a) => (a.kind === "picture" || a.kind === "line-art" ? [a.picture] : []));
  const patterns = (recipe.films ?? []).flatMap((f) => (f.finish.picture ? [f.finish.picture] : []));
  return [...new Set([...art, ...patterns])];
}

function within(element: Element, event: { clientX: number; clientY: number }): Point {
  const box = element.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
