import { type PointerEvent, useRef, useState } from "react";
import { around } from "@/geometry/boxes";
import { type Box, type Point, toMm, type View } from "@/geometry/transform";
import { useEdit } from "@/state/design";
import { movedBy } from "@/state/moves";
import { useTry } from "@/state/useTry";
import { artAt, drawn, type Guide } from "./handling";
import type { Scene } from "./scene";
import { useSlow } from "./useSlow";
import { within } from "./useViewport";

const SNAP_PX = 7;
const SLIP_PX = 4;

/** What a pressed pointer holds: the table, art that is being moved, or a tool that draws. */
interface Hold {
  readonly at: Point;
  readonly from: Point;
  readonly moved: boolean;
  readonly ids: readonly string[];
  readonly boxes: readonly Box[];
  readonly by: Point | null;
  readonly tool: boolean;
  /** Whether it draws a box round what is to be chosen. */
  readonly gathers: boolean;
}

/** A tool that takes the pointer from the table while it is in hand. */
export interface PointerTool {
  down(mm: Point): void;
  move(mm: Point): void;
  up(from: Point): void;
  leave(): void;
}

interface Table {
  readonly scene: Scene;
  readonly view: View | null;
  readonly onPane: (at: Point) => Point;
  readonly pan: (dx: number, dy: number) => void;
  readonly pinch: (from: readonly [Point, Point], to: readonly [Point, Point]) => void;
  /** Chooses all art that lies in a box (mm); null where art is not chosen. */
  readonly gather: ((box: Box) => void) | null;
  /** The art that can be moved by dragging, if any can. */
  readonly movable: readonly string[];
  readonly tool: PointerTool | null;
  readonly click: (mm: Point, more: boolean) => void;
  readonly hover: (mm: Point | null) => void;
}

/** The pointer on the table: it pans, moves art along guides, draws with a tool, clicks and hovers. */
export function useHands({ scene, view, onPane, pan, pinch, gather, movable, tool, click, hover }: Table) {
  const edit = useEdit();
  const attempt = useTry();
  const slow = useSlow();
  const hold = useRef<Hold | null>(null);
  const [pointer, setPointer] = useState<Point | null>(null);
  const [guides, setGuides] = useState<readonly Guide[]>([]);
  /** Where what is dragged would lie, mm, and where it was taken from; or the box that is drawn round art. */
  const [ghost, setGhost] = useState<{ from: Box; by: Point } | null>(null);
  const [gathered, setGathered] = useState<Box | null>(null);
  const fingers = useRef(new Map<number, Point>());

  const grab = (at: Point, drawing: boolean, gathers: boolean): Hold => {
    const found = view && !drawing ? artAt(scene, toMm(view, at), 2 / view.scale) : null;
    // Only art that is chosen is moved; anything else under the pointer moves the table.
    const ids = found && movable.includes(found) ? movable : [];
    const boxes = scene.arts.filter((art) => ids.includes(art.id)).map((art) => art.box);
    return { at, from: at, moved: false, ids, boxes, by: null, tool: drawing, gathers: gathers && ids.length === 0 };
  };

  const drag = (grip: Hold, at: Point, straight: boolean, time: number) => {
    if (!view) return;
    if (grip.tool) return tool?.move(toMm(view, at));
    const [dx, dy] = [at.x - grip.at.x, at.y - grip.at.y];
    if (!grip.moved && Math.hypot(dx, dy) < SLIP_PX) return;
    if (grip.gathers) {
      hold.current = { ...grip, at, moved: true };
      return setGathered(between(toMm(view, grip.from), toMm(view, at)));
    }
    if (grip.ids.length === 0) {
      hold.current = { ...grip, at, moved: true };
      return pan(dx, dy);
    }
    const free = { x: (at.x - grip.from.x) / view.scale, y: (at.y - grip.from.y) / view.scale };
    const wide = Math.abs(free.x) >= Math.abs(free.y);
    const wanted = straight ? { x: wide ? free.x : 0, y: wide ? 0 : free.y } : free;
    const others = scene.arts.filter((art) => !grip.ids.includes(art.id)).map((art) => art.box);
    const pull = drawn(around(grip.boxes), wanted, others, SNAP_PX / view.scale);
    const by = {
      x: straight && !wide ? 0 : Number(pull.by.x.toFixed(3)),
      y: straight && wide ? 0 : Number(pull.by.y.toFixed(3)),
    };
    setGhost({ from: around(grip.boxes), by });
    hold.current = { ...grip, at, moved: true, by };
    setGuides(pull.guides);
    slow.come(at, time, () => attempt(movedBy(grip.ids, [by])));
  };

  const letGo = () => {
    slow.stop();
    hold.current = null;
    setGuides([]);
    setGhost(null);
    setGathered(null);
  };

  /** Follows two fingers; whether there are two. */
  const pinched = (finger: number, at: Point): boolean => {
    const [first, second] = [...fingers.current.keys()];
    if (first === undefined || second === undefined) return false;
    const now = (key: number) => fingers.current.get(key) ?? at;
    const from = [now(first), now(second)] as const;
    fingers.current.set(finger, at);
    pinch(from, [now(first), now(second)]);
    return true;
  };

  const spotOf = (event: PointerEvent<Element>) => within(event.currentTarget, event);
  return {
    pointer,
    guides,
    ghost,
    gathered,
    holding: () => hold.current !== null,
    handlers: {
      onPointerDown(event: PointerEvent<Element>) {
        if (event.button === 2) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const at = onPane(spotOf(event));
        if (event.pointerType === "touch") {
          fingers.current.set(event.pointerId, at);
          // A second finger makes it a pinch, whatever the first one was about to do.
          if (fingers.current.size > 1) {
            letGo();
            return tool?.leave();
          }
        }
        const drawing = tool !== null && event.button === 0 && !event.altKey && view !== null;
        hold.current = grab(at, drawing, gather !== null && event.shiftKey);
        if (drawing) tool.down(toMm(view, at));
      },
      onPointerMove(event: PointerEvent<Element>) {
        const spot = spotOf(event);
        setPointer(spot);
        if (pinched(event.pointerId, onPane(spot))) return;
        if (hold.current) drag(hold.current, onPane(spot), event.shiftKey, event.timeStamp);
        else if (view) hover(toMm(view, onPane(spot)));
      },
      onPointerUp(event: PointerEvent<Element>) {
        const grip = hold.current;
        fingers.current.delete(event.pointerId);
        letGo();
        if (!grip || !view) return;
        const at = onPane(spotOf(event));
        if (grip.tool) tool?.up(toMm(view, grip.from));
        else if (grip.gathers && grip.moved) gather?.(between(toMm(view, grip.from), toMm(view, at)));
        else if (!grip.moved) click(toMm(view, at), event.shiftKey || event.ctrlKey);
        else if (grip.by) void edit(movedBy(grip.ids, [grip.by]));
      },
      onPointerCancel(event: PointerEvent<Element>) {
        fingers.current.delete(event.pointerId);
        letGo();
        tool?.leave();
      },
      onPointerLeave() {
        setPointer(null);
        hover(null);
      },
    },
  };
}

/** The box between two points. */
function between(a: Point, b: Point): Box {
  return { left: Math.min(a.x, b.x), right: Math.max(a.x, b.x), top: Math.min(a.y, b.y), bottom: Math.max(a.y, b.y) };
}
