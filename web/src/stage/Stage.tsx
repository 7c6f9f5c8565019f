import { Slider } from "radix-ui";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { showLength } from "@/lengths";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { LENSES, useView } from "@/state/view";
import * as paint from "./paint";
import { coreSample, type Film, sceneOf } from "./scene";
import { type Box, fitView, type Point, panBy, toMm, type View, zoomAt } from "./transform";
import { useOriginal } from "./useOriginal";

const ROOM_PX = 64;
const ZOOM_STEP = 1.25;

/** The light table: the decal through one of the lenses, or its sheets; pan, zoom, pick and probe. */
export function Stage() {
  const { id, built, recipe } = useOpenDesign();
  const unit = useUnit();
  const edit = useEdit();
  const { place, lens, original, film: chosen, picking, look, fade, pick, choose } = useView();
  const scene = useMemo(() => sceneOf(built), [built]);
  const image = useOriginal(id, recipe.art.picture);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [view, setView] = useState<View | null>(null);
  const [pointer, setPointer] = useState<Point | null>(null);
  const [probe, setProbe] = useState<{ films: Film[]; colour: string | null } | null>(null);
  const held = useRef<{ at: Point; moved: boolean } | null>(null);
  const sheets = place === "Sheets";
  const exploded = !sheets && lens === "Exploded" && !picking;

  const box: Box = useMemo(() => {
    if (sheets) return paint.sheetsBox(scene);
    if (exploded) return paint.explodedBox(scene);
    return { left: 0, top: 0, right: scene.width, bottom: scene.height };
  }, [scene, sheets, exploded]);
  const boxKey = `${sheets}|${exploded}|${box.left}|${box.top}|${box.right}|${box.bottom}`;
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
      paint.paintFrame(context, scene, view, ratio);
      if (lens === "Cut lines") paint.paintCutLines(context, scene, view, ratio, chosen);
      else paint.paintFinished(context, scene, view, ratio, chosen);
      const shown = picking ? 1 : original;
      if (image && shown > 0) paint.paintOriginal(context, scene, view, ratio, image.picture, shown);
      paint.paintDimensions(context, scene, view, ratio, unit);
    });
    return () => cancelAnimationFrame(frame);
  }, [scene, view, size, sheets, exploded, lens, chosen, original, picking, image, unit]);

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

  const probeAt = (at: Point) => {
    const context = canvas.current?.getContext("2d");
    if (!context || !view || sheets || exploded) return setProbe(null);
    const mm = toMm(view, at);
    const colour = picking ? (image?.colourAt(mm.x / scene.width, mm.y / scene.height) ?? null) : null;
    setProbe({ films: coreSample(context, scene, mm.x, mm.y), colour });
  };

  const onClick = (at: Point) => {
    const context = canvas.current?.getContext("2d");
    if (!context || !view || sheets || exploded) return;
    const mm = toMm(view, at);
    if (picking) {
      const colour = image?.colourAt(mm.x / scene.width, mm.y / scene.height);
      if (!colour) return;
      pick(false);
      void edit({ kind: "pick-colour", colour });
      return;
    }
    const top = coreSample(context, scene, mm.x, mm.y)[0];
    choose(top && top.colour !== chosen ? top.colour : null);
  };

  const zoomBy = (factor: number) =>
    setView((now) => now && zoomAt(now, { x: size.width / 2, y: size.height / 2 }, factor));

  return (
    <section aria-label="Light table" className="relative min-h-0 min-w-0 overflow-hidden bg-table">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`The decal: ${built.layers.map((layer) => layer.name).join(", ")}. Arrow keys move it, plus and minus zoom, 0 fits it.`}
        className={`absolute inset-0 h-full w-full -outline-offset-4 ${picking ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { at: within(event.currentTarget, event), moved: false };
        }}
        onPointerMove={(event) => {
          const at = within(event.currentTarget, event);
          setPointer(at);
          const hold = held.current;
          if (!hold) return probeAt(at);
          const [dx, dy] = [at.x - hold.at.x, at.y - hold.at.y];
          if (!hold.moved && Math.hypot(dx, dy) < 4) return;
          held.current = { at, moved: true };
          setView((now) => now && panBy(now, dx, dy));
        }}
        onPointerUp={(event) => {
          const hold = held.current;
          held.current = null;
          if (hold && !hold.moved) onClick(within(event.currentTarget, event));
        }}
        onPointerLeave={() => setProbe(null)}
        onKeyDown={(event) => {
          const steps: Record<string, () => void> = {
            ArrowLeft: () => setView((now) => now && panBy(now, 40, 0)),
            ArrowRight: () => setView((now) => now && panBy(now, -40, 0)),
            ArrowUp: () => setView((now) => now && panBy(now, 0, 40)),
            ArrowDown: () => setView((now) => now && panBy(now, 0, -40)),
            "+": () => zoomBy(ZOOM_STEP),
            "-": () => zoomBy(1 / ZOOM_STEP),
            "0": fit,
            Escape: () => (picking ? pick(false) : choose(null)),
          };
          const step = steps[event.key];
          if (!step) return;
          event.preventDefault();
          step();
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
              disabled={exploded || picking}
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
      {picking && (
        <p className="absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-ink px-4 py-1.5 text-white">
          Click a colour of the picture: it becomes a film. Esc leaves picking.
        </p>
      )}
      {probe && pointer && !held.current && <CoreSample at={pointer} probe={probe} size={size} />}
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
            <li key={film.colour} className="flex items-center">
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
