import { type KeyboardEvent, memo, type PointerEvent, type SyntheticEvent, useRef, useState } from "react";
import { toast } from "sonner";
import { ARROWS } from "@/geometry/arrows";
import { type JobChange, type Sheet, type SheetPart, useBench } from "@/state/job";

/** A strip of film, and what is done to it. */
export interface StripProps {
  sheet: Sheet;
  pxPerMm: number;
  change(change: JobChange): Promise<unknown>;
  locked: boolean;
  /** How many of its parts are drawn yet: thousands come a few hundred at a time. */
  upTo: number;
}

interface Drag {
  part: SheetPart;
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/** What a part is called: by its letter, or by its number in its film. */
function nameOf({ letter, part, film_name, copy_of, pinned }: SheetPart, inHand: boolean): string {
  const own = letter ? `Letter ${letter}` : `Part ${part + 1}`;
  const more = inHand ? ", in hand: arrow keys move it" : "";
  return `${own}, ${film_name}, copy ${copy_of + 1}${pinned ? ", pinned" : ""}${more}`;
}

/** The part that comes next in a direction from another: near, and not far aside. Itself where there is none. */
export function nextTowards(parts: readonly SheetPart[], from: number, [x, y]: readonly [number, number]): number {
  const middle = ({ box }: SheetPart) => [(box.left + box.right) / 2, (box.top + box.bottom) / 2] as const;
  const own = parts[from];
  if (!own) return from;
  const [ox, oy] = middle(own);
  let best = from;
  let least = Number.POSITIVE_INFINITY;
  parts.forEach((part, k) => {
    const [px, py] = middle(part);
    const along = (px - ox) * x + (py - oy) * y;
    const aside = Math.abs((px - ox) * y) + Math.abs((py - oy) * x);
    const far = along + 2 * aside;
    if (k === from || along <= 0.01 || far >= least) return;
    [best, least] = [k, far];
  });
  return best;
}

/** The parts on a strip of film: chosen, dragged, turned and pinned. */
export function Parts({ sheet, pxPerMm, change, locked, upTo }: StripProps) {
  const point = useBench((bench) => bench.point);
  const pointed = useBench((bench) => bench.pointed);
  const chosen = useBench((bench) => bench.chosen);
  const choose = useBench((bench) => bench.choose);
  const [drag, setDrag] = useState<Drag | null>(null);
  // One of them takes the focus by Tab; arrows go on from there, or move the one that Enter took in hand.
  const [at, setAt] = useState(0);
  const [inHand, setInHand] = useState(false);
  const drawn = useRef<SVGGElement>(null);
  const movable = sheet.layout === "nested" && !locked;
  const put = (part: SheetPart, dx: number, dy: number, turn = 0) => {
    if (!part.spot) return;
    // It turns about its own middle, not about the corner of the film.
    const { left, top, right, bottom } = part.box;
    const middle = { x: (left + right) / 2 - sheet.origin_mm, y: (top + bottom) / 2 - sheet.origin_mm };
    const out = { x: middle.x - part.spot.x_mm, y: middle.y - part.spot.y_mm };
    const [c, n] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    const spot = {
      turn_deg: (part.spot.turn_deg + turn) % 360,
      x_mm: middle.x - (out.x * c - out.y * n) + dx,
      y_mm: middle.y - (out.x * n + out.y * c) + dy,
    };
    const { design, film, part: number, copy_of, tile } = part;
    const wanted = { design, film, part: number, copy_of, tile, spot };
    void change({
      do: "put",
      put: wanted,
      refused: (why, fits) =>
        toast.error(why, {
          description: fits ? "There is room for it close by." : "There is no room for it on this piece.",
          action: fits
            ? {
                label: "Put it there",
                onClick: () =>
                  void change({
                    do: "put",
                    put: { ...wanted, spot: { turn_deg: spot.turn_deg, x_mm: fits.x_mm, y_mm: fits.y_mm } },
                    refused: (still) => toast.error(still),
                  }),
              }
            : undefined,
        }),
    });
  };
  const pin = (part: SheetPart) => {
    const { design, film, part: number, copy_of, tile } = part;
    const wanted = { design, film, part: number, copy_of, tile, pinned: !part.pinned };
    void change({ do: "put", put: wanted, refused: (why) => toast.error(why) });
  };
  // One set of ears for all: a strip may have a thousand parts.
  const of = (event: SyntheticEvent) => Number((event.target as Element).getAttribute("data-part") ?? -1);
  const show = (part: SheetPart | undefined) =>
    point(part ? { design: part.design, film: part.film, part: part.part } : null);
  const onPointerDown = (event: PointerEvent) => {
    const part = sheet.parts[of(event)];
    if (!movable || event.button !== 0 || !part) return;
    (event.target as Element).setPointerCapture(event.pointerId);
    setDrag({ part, x: event.clientX, y: event.clientY, dx: 0, dy: 0 });
  };
  const onPointerMove = (event: PointerEvent) => {
    if (drag) setDrag({ ...drag, dx: (event.clientX - drag.x) / pxPerMm, dy: (event.clientY - drag.y) / pxPerMm });
  };
  const onPointerUp = (event: PointerEvent) => {
    if (drag && event.shiftKey && Math.hypot(drag.dx, drag.dy) * pxPerMm <= 3) choose(drag.part);
    if (drag && Math.hypot(drag.dx, drag.dy) * pxPerMm > 3) put(drag.part, drag.dx, drag.dy);
    setDrag(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const k = of(event);
    const part = sheet.parts[k];
    if (!movable || !part) return;
    const way = ARROWS[event.key];
    const step = event.shiftKey ? 10 : 1;
    if (way && inHand) put(part, way[0] * step, way[1] * step);
    else if (way) {
      const next = drawn.current?.querySelector<SVGPathElement>(`[data-part="${nextTowards(sheet.parts, k, way)}"]`);
      next?.focus();
    } else if (event.key === "Enter") setInHand(!inHand);
    else if (event.key === "Escape" && inHand) setInHand(false);
    else if (event.key === "r" || event.key === "R") put(part, 0, 0, event.shiftKey ? 90 : 15);
    else if (event.key === "p") pin(part);
    else if (event.key === " ") choose(part);
    else return;
    event.preventDefault();
  };
  const onDoubleClick = (event: SyntheticEvent) => {
    const part = sheet.parts[of(event)];
    if (movable && part) pin(part);
  };
  const tab = Math.min(at, sheet.parts.length - 1);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: its parts are focusable, and told where they can be moved
    <g
      ref={drawn}
      fill={sheet.material.colour}
      fillRule="evenodd"
      stroke="#25231e"
      strokeOpacity={0.45}
      strokeWidth={0.7 / pxPerMm}
      className={movable ? "cursor-grab active:cursor-grabbing" : undefined}
      onPointerOver={(event) => show(sheet.parts[of(event)])}
      onPointerOut={() => show(undefined)}
      onFocus={(event) => {
        setAt(of(event));
        show(sheet.parts[of(event)]);
      }}
      onBlur={() => {
        setInHand(false);
        show(undefined);
      }}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setDrag(null)}
      onDoubleClick={onDoubleClick}
      onKeyDown={onKeyDown}
    >
      {sheet.parts.slice(0, upTo).map((part, k) => {
        const held = drag && (drag.part === part || (part.cluster && part.cluster === drag.part.cluster));
        const picked = chosen.some((one) => isOf(part, one));
        const lit = picked || (pointed !== null && isOf(part, pointed));
        return (
          <PartShape
            key={`${part.design} ${part.film} ${part.part} ${part.copy_of} ${part.tile ?? k}`}
            part={part}
            at={k}
            name={movable ? nameOf(part, inHand && at === k) : undefined}
            takesTab={k === tab}
            lit={lit}
            picked={picked}
            pxPerMm={lit || part.pinned ? pxPerMm : 1}
            moved={held ? `translate(${drag.dx} ${drag.dy})` : undefined}
          />
        );
      })}
    </g>
  );
}

function isOf(part: SheetPart, one: { design: string; film: string; part: number }): boolean {
  return one.design === part.design && one.film === part.film && one.part === part.part;
}

interface PartShapeProps {
  part: SheetPart;
  at: number;
  /** What it is called, if it can be moved. */
  name: string | undefined;
  takesTab: boolean;
  lit: boolean;
  picked: boolean;
  /** Only needed for what is lit or pinned: the rest follows its strip. */
  pxPerMm: number;
  moved: string | undefined;
}

const PartShape = memo(function PartShape(props: PartShapeProps) {
  const { part, at, name, takesTab, lit, picked, pxPerMm, moved } = props;
  return (
    <>
      <path
        d={part.path}
        data-part={at}
        stroke={lit ? "#6d3468" : undefined}
        strokeDasharray={picked ? `${4 / pxPerMm} ${3 / pxPerMm}` : undefined}
        strokeOpacity={lit ? 1 : undefined}
        strokeWidth={lit ? 3 / pxPerMm : undefined}
        transform={moved}
        tabIndex={name === undefined ? undefined : takesTab ? 0 : -1}
        role={name === undefined ? undefined : "button"}
        aria-label={name}
      />
      {part.pinned && (
        <circle
          cx={(part.box.left + part.box.right) / 2}
          cy={(part.box.top + part.box.bottom) / 2}
          r={4 / pxPerMm}
          fill="#6d3468"
          stroke="#fff"
          strokeOpacity={1}
          strokeWidth={1.5 / pxPerMm}
          pointerEvents="none"
        />
      )}
    </>
  );
});
