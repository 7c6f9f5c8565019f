import { Slider } from "radix-ui";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Edit, PictureArt, Recipe } from "@/api/client";
import { showLength } from "@/lengths";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { useTry } from "@/state/tries";
import { LENSES, useView } from "@/state/view";
import { paintGround } from "./ground";
import { artAt, drawn, type Guide, letterAt } from "./handling";
import * as paint from "./paint";
import { coreSample, type Film, sceneOf } from "./scene";
import { type Box, fitView, type Point, panBy, toMm, type View, zoomAt } from "./transform";
import { useOriginals } from "./useOriginal";

const ROOM_PX = 64;
const ZOOM_STEP = 1.25;
const SNAP_PX = 7;

/** The light table: the decal through one of the lenses, or its sheets; pan, zoom, pick and probe. */
export function Stage() {
  const { built, recipe } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const attempt = useTry();
  const { place, lens, original, film: chosen, picking, look, fade, pick, choose } = useView();
  const { arts: held, letters, holing, claiming, waitingAt, chooseArts, chooseLetters } = useView();
  const scene = useMemo(() => sceneOf(built), [built]);
  const pictures = useMemo(
    () => recipe.arts.flatMap((art) => (art.kind === "picture" || art.kind === "line-art" ? [art] : [])),
    [recipe],
  );
  const originals = useOriginals(useMemo(() => hashesOf(recipe), [recipe]));
  const bitmaps = useMemo(() => new Map([...originals].map(([hash, o]) => [hash, o.picture])), [originals]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [view, setView] = useState<View | null>(null);
  const [pointer, setPointer] = useState<Point | null>(null);
  const [probe, setProbe] = useState<{ films: Film[]; colour: string | null } | null>(null);
  const hold = useRef<Hold | null>(null);
  const [guides, setGuides] = useState<Guide[]>([]);
  const arranging = place === "Art" && !picking;
  const sheets = place === "Sheets";
  const exploded = !sheets && lens === "Exploded" && !picking;

  const box: Box = useMemo(() => {
    if (sheets) return paint.sheetsBox(scene);
    if (exploded) return paint.explodedBox(scene);
    return scene.box;
  }, [scene, sheets, exploded]);
  // While art is being arranged the table stands still; otherwise the view follows the design's extent.
  const boxKey = `${sheets}|${exploded}|${arranging ? recipe.name : `${box.left}|${box.top}|${box.right}|${box.bottom}`}`;
  const fit = useCallback(() => {
    if (size.width > 0) setView(fitView(box, size.width, size.height, ROOM_PX));
  }, [box, size]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view is fitted anew only when what is shown changes its extent
  useEffect(fit, [boxKey, size.width, size.height]);

  useEffect(() => {
    const element = canvas.current?.parentElement;
    if (!element) return;
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

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
        paint.paintSheets(context, scene, view, ratio, chosen);
        return;
      }
      if (exploded) {
        paint.paintExploded(context, scene, view, ratio, chosen);
        return;
      }
      if (lens === "Finished") paintGround(context, scene, view, ratio, recipe.ground);
      paint.paintFrame(context, scene, view, ratio);
      const film = arranging ? null : chosen;
      if (lens === "Cut lines") paint.paintCutLines(context, scene, view, ratio, film);
      else paint.paintFinished(context, scene, view, ratio, film, bitmaps);
      const shown = picking ? 1 : original;
      for (const art of pictures) {
        const image = bitmaps.get(art.picture);
        if (image && shown > 0) paint.paintOriginal(context, art, view, ratio, image, shown);
      }
      if (arranging) paint.paintHandling(context, scene, view, ratio, held, letters, guides);
      if (arranging) paint.paintWaiting(context, scene, view, ratio, held, claiming !== null, waitingAt);
      const seen = lens === "Finished" ? recipe.ground.colour : "#fbfaf7";
      paint.paintDimensions(context, scene, view, ratio, unit, seen);
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
    pictures,
    unit,
    recipe.ground,
    arranging,
    held,
    letters,
    guides,
    claiming,
    waitingAt,
  ]);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = within(element, event);
      setView((now) => now && zoomAt(now, at, Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, []);

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
      const chosenSpots = [...shadow.chosen, { x_mm: Number(mm.x.toFixed(2)), y_mm: Number(mm.y.toFixed(2)) }];
      void edit({ kind: "change-making", making: { ...shadow, chosen: chosenSpots } });
      return;
    }
    if (claiming) {
      const art = recipe.arts.find((candidate) => candidate.id === claiming.art);
      const width = scene.arts.find((candidate) => candidate.id === claiming.art)?.own_width_mm ?? 0;
      if ((art?.kind !== "vector" && art?.kind !== "line-art") || width <= 0) return;
      const at = intoArt(art.place, mm);
      const pin = { x: Number((at.x / width).toFixed(6)), y: Number((at.y / width).toFixed(6)), film: claiming.film };
      void edit({ kind: "change-arts", arts: [{ ...art, pins: [...art.pins, pin] }] });
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

  /** The edit that moves the chosen art by so many mm. */
  const moveEdit = (ids: readonly string[], by: Point): Edit => ({
    kind: "change-arts",
    arts: recipe.arts
      .filter((art) => ids.includes(art.id))
      .map((art) => ({ ...art, place: { ...art.place, x_mm: art.place.x_mm + by.x, y_mm: art.place.y_mm + by.y } })),
  });

  const onGrab = (at: Point): Hold => {
    const mm = view && arranging && !exploded && !holing && !claiming ? toMm(view, at) : null;
    const found = mm && view ? artAt(scene, mm, 2 / view.scale) : null;
    // Only art that is chosen is moved; anything else under the pointer moves the table.
    const ids = found && held.includes(found) ? held : [];
    const boxes = scene.arts.filter((art) => ids.includes(art.id)).map((art) => art.box);
    return { at, from: at, moved: false, ids, boxes, by: null };
  };

  const onDrag = (grip: Hold, at: Point) => {
    if (!view) return;
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
    if (arranging && held.length > 0) {
      const mm = wide ? 5 : 0.5;
      void edit(moveEdit(held, { x: x * mm, y: y * mm }));
    } else setView((now) => now && panBy(now, -40 * x, -40 * y));
  };

  const zoomBy = (factor: number) =>
    setView((now) => now && zoomAt(now, { x: size.width / 2, y: size.height / 2 }, factor));

  return (
    <section aria-label="Light table" className="relative min-h-0 min-w-0 overflow-hidden bg-table">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`The decal: ${built.layers.map((layer) => layer.name).join(", ")}. Arrow keys move the chosen art or the table, plus and minus zoom, 0 fits it.`}
        className={`absolute inset-0 h-full w-full -outline-offset-4 ${picking ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          hold.current = onGrab(within(event.currentTarget, event));
        }}
        onPointerMove={(event) => {
          const at = within(event.currentTarget, event);
          setPointer(at);
          if (hold.current) onDrag(hold.current, at);
          else probeAt(at);
        }}
        onPointerUp={(event) => {
          const grip = hold.current;
          hold.current = null;
          setGuides([]);
          if (grip && !grip.moved) onClick(within(event.currentTarget, event), event.shiftKey || event.ctrlKey);
          else if (grip?.by) void edit(moveEdit(grip.ids, grip.by));
        }}
        onPointerLeave={() => setProbe(null)}
        onKeyDown={(event) => {
          const steps: Record<string, () => void> = {
            ArrowLeft: () => step(-1, 0, event.shiftKey),
            ArrowRight: () => step(1, 0, event.shiftKey),
            ArrowUp: () => step(0, -1, event.shiftKey),
            ArrowDown: () => step(0, 1, event.shiftKey),
            "+": () => zoomBy(ZOOM_STEP),
            "-": () => zoomBy(1 / ZOOM_STEP),
            "0": fit,
            Escape: () => (picking ? pick(false) : arranging ? chooseArts([]) : choose(null)),
          };
          const taken = steps[event.key];
          if (!taken) return;
          event.preventDefault();
          taken();
        }}
      />
      <Figures />
      {!sheets && (
        <div className="absolute bottom-3 left-4 flex items-center gap-5 rounded-full border border-line bg-paper/95 px-4 py-1.5">
          <fieldset className="flex gap-1" aria-label="Lens">
            {LENSES.map((name) => (
              <button
                key={name}
                type="button"
                aria-pressed={lens === name}
                onClick={() => look(name)}
                className="rounded-full px-3 py-0.5 text-soft aria-pressed:bg-ink aria-pressed:text-white"
              >
                {name}
              </button>
            ))}
          </fieldset>
          <div className="flex items-center gap-2 text-soft">
            <span id="fade">Original</span>
            <Slider.Root
              aria-labelledby="fade"
              className="relative flex h-5 w-24 touch-none items-center data-[disabled]:opacity-40"
              value={[Math.round(original * 100)]}
              disabled={exploded || picking || pictures.length === 0}
              onValueChange={([value]) => fade((value ?? 0) / 100)}
            >
              <Slider.Track className="relative h-0.5 flex-1 bg-firm">
                <Slider.Range className="absolute h-full bg-chosen" />
              </Slider.Track>
              <Slider.Thumb
                aria-labelledby="fade"
                className="block h-3.5 w-3.5 rounded-full border-2 border-chosen bg-white"
              />
            </Slider.Root>
          </div>
        </div>
      )}
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
      {claiming && (
        <p className="absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-ink px-4 py-1.5 text-white">
          Click regions: each goes to the chosen film. Leave it in the panel.
        </p>
      )}
      {picking && (
        <p className="absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-ink px-4 py-1.5 text-white">
          Click a colour of the picture: it becomes a film. Esc leaves picking.
        </p>
      )}
      {probe && pointer && !hold.current && <CoreSample at={pointer} probe={probe} size={size} />}
    </section>
  );
}

/** The figures of the whole decal, where the eye checks them. */
function Figures() {
  const { built } = useOpenDesign();
  const unit = useUnit();
  const length = built.layers.reduce((sum, layer) => sum + layer.cut_length_mm, 0);
  const nodes = built.layers.reduce((sum, layer) => sum + layer.nodes, 0);
  return (
    <p className="measure pointer-events-none absolute top-3 right-4 flex gap-4 rounded bg-table/85 px-1 text-sm text-soft">
      <span>{built.layers.length === 1 ? "1 film" : `${built.layers.length} films`}</span>
      <span>up to {built.max_thickness} thick</span>
      <span>{showLength(length, unit)} to cut</span>
      <span>{nodes} nodes</span>
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
}

/** A point of the stack in an art's own millimetres. */
function intoArt(place: PictureArt["place"], mm: Point): Point {
  const turn = (-place.turn_deg * Math.PI) / 180;
  const [dx, dy] = [mm.x - place.x_mm, mm.y - place.y_mm];
  return {
    x: (Math.cos(turn) * dx - Math.sin(turn) * dy) / (place.mirrored ? -place.scale_x : place.scale_x),
    y: (Math.sin(turn) * dx + Math.cos(turn) * dy) / place.scale_y,
  };
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

interface CoreSampleProps {
  at: Point;
  probe: { films: Film[]; colour: string | null };
  size: { width: number; height: number };
}

/** The films met at the pointer, from the top down to the ground; or the colour under it while picking. */
function CoreSample({ at, probe, size }: CoreSampleProps) {
  if (!probe.colour && probe.films.length === 0) return null;
  const flip = { x: at.x > size.width - 190, y: at.y > size.height - 160 };
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
        <p className="flex items-center gap-2 px-2 py-1.5">
          <span className="h-6 w-6 rounded-sm border border-firm" style={{ background: probe.colour }} />
          {probe.colour}
        </p>
      ) : (
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
      )}
    </div>
  );
}

function within(element: Element, event: { clientX: number; clientY: number }): Point {
  const box = element.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
