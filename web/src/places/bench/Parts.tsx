import { type PointerEvent, useRef, useState } from "react";
import { toast } from "sonner";
import { ARROWS } from "@/geometry/arrows";
import { type JobChange, type Sheet, type SheetPart, useBench } from "@/state/job";

/** How much of the screen the film that stays on its roll takes. */
export interface StripProps {
  sheet: Sheet;
  pxPerMm: number;
  change(change: JobChange): Promise<unknown>;
  locked: boolean;
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
export function Parts({ sheet, pxPerMm, change, locked }: StripProps) {
  const point = useBench((bench) => bench.point);
  const pointed = useBench((bench) => bench.pointed);
  const chosen = useBench((bench) => bench.chosen);
  const choose = useBench((bench) => bench.choose);
  const [drag, setDrag] = useState<Drag | null>(null);
  // One of them takes the focus by Tab; arrows go on from there, or move the one that Enter took in hand.
  const [at, setAt] = useState(0);
  const [inHand, setInHand] = useState(false);
  const drawn = useRef<(SVGPathElement | null)[]>([]);
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
  const onMove = (event: PointerEvent<SVGPathElement>) => {
    if (drag) setDrag({ ...drag, dx: (event.clientX - drag.x) / pxPerMm, dy: (event.clientY - drag.y) / pxPerMm });
  };
  const onUp = (event: PointerEvent<SVGPathElement>) => {
    if (drag && event.shiftKey && Math.hypot(drag.dx, drag.dy) * pxPerMm <= 3) choose(drag.part);
    if (drag && Math.hypot(drag.dx, drag.dy) * pxPerMm > 3) put(drag.part, drag.dx, drag.dy);
    setDrag(null);
  };
  return (
    <g>
      {sheet.parts.map((part, k) => {
        const held = drag && (drag.part === part || (part.cluster && part.cluster === drag.part.cluster));
        const picked = chosen.some(
          (one) => one.design === part.design && one.film === part.film && one.part === part.part,
        );
        const lit =
          pointed && pointed.design === part.design && pointed.film === part.film && pointed.part === part.part;
        return (
          <g key={`${part.design} ${part.film} ${part.part} ${part.copy_of} ${part.tile ?? k}`}>
            {/* biome-ignore lint/a11y/noStaticElementInteractions: it is focusable and told where it can be moved */}
            <path
              d={part.path}
              fill={sheet.material.colour}
              fillRule="evenodd"
              stroke={lit || picked ? "#6d3468" : "#25231e"}
              strokeDasharray={picked ? `${4 / pxPerMm} ${3 / pxPerMm}` : undefined}
              strokeOpacity={lit || picked ? 1 : 0.45}
              strokeWidth={(lit || picked ? 3 : 0.7) / pxPerMm}
              transform={held ? `translate(${drag.dx} ${drag.dy})` : undefined}
              ref={(path) => {
                drawn.current[k] = path;
              }}
              tabIndex={movable ? (k === Math.min(at, sheet.parts.length - 1) ? 0 : -1) : undefined}
              role={movable ? "button" : undefined}
              data-part={movable ? "" : undefined}
              aria-label={movable ? nameOf(part, inHand && at === k) : undefined}
              className={movable ? "cursor-grab active:cursor-grabbing" : undefined}
              onPointerEnter={() => point({ design: part.design, film: part.film, part: part.part })}
              onPointerLeave={() => point(null)}
              onFocus={() => {
                setAt(k);
                point({ design: part.design, film: part.film, part: part.part });
              }}
              onBlur={() => {
                setInHand(false);
                point(null);
              }}
              onPointerDown={(event) => {
                if (!movable || event.button !== 0) return;
                event.currentTarget.setPointerCapture(event.pointerId);
                setDrag({ part, x: event.clientX, y: event.clientY, dx: 0, dy: 0 });
              }}
              onPointerMove={onMove}
              onPointerUp={onUp}
              onPointerCancel={() => setDrag(null)}
              onDoubleClick={() => movable && pin(part)}
              onKeyDown={(event) => {
                if (!movable) return;
                const way = ARROWS[event.key];
                const step = event.shiftKey ? 10 : 1;
                if (way && inHand) put(part, way[0] * step, way[1] * step);
                else if (way) drawn.current[nextTowards(sheet.parts, k, way)]?.focus();
                else if (event.key === "Enter") setInHand(!inHand);
                else if (event.key === "Escape" && inHand) setInHand(false);
                else if (event.key === "r" || event.key === "R") put(part, 0, 0, event.shiftKey ? 90 : 15);
                else if (event.key === "p") pin(part);
                else if (event.key === " ") choose(part);
                else return;
                event.preventDefault();
              }}
            />
            {part.pinned && (
              <circle
                cx={(part.box.left + part.box.right) / 2}
                cy={(part.box.top + part.box.bottom) / 2}
                r={4 / pxPerMm}
                fill="#6d3468"
                stroke="#fff"
                strokeWidth={1.5 / pxPerMm}
                pointerEvents="none"
              />
            )}
          </g>
        );
      })}
    </g>
  );
}

/** A rule along the film's edge, in the maker's unit. */
