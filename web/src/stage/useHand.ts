import { type PointerEvent, useEffect, useRef, useState } from "react";
import { ProblemError } from "@/api/client";
import { type Point, toMm, type View } from "@/geometry/transform";
import { tell, useEdit, useOpenDesign } from "@/state/design";
import { goesOn } from "@/state/mode";
import { useTry } from "@/state/useTry";
import { useView } from "@/state/view";
import { type Effect, type Grip, gripped, type HandEvent, NOTHING, type Spot } from "./grip";
import { useSlow } from "./useSlow";
import { within } from "./useViewport";
import type { World } from "./world";

interface Table {
  readonly world: World;
  readonly view: View | null;
  readonly onPane: (at: Point) => Point;
  readonly pan: (dx: number, dy: number) => void;
  readonly pinch: (from: readonly [Point, Point], to: readonly [Point, Point]) => void;
  readonly hover: (mm: Point | null) => void;
}

/** The hand on the table: what pointers and keys do becomes events, and what the mode makes of them is done. */
export function useHand({ world, view, onPane, pan, pinch, hover }: Table) {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const attempt = useTry();
  const slow = useSlow();
  const { mode, arts, putDown, wait, choose, chooseArts, chooseLetters, pickOne, slipTo, adjust } = useView();
  const [grip, showGrip] = useState<Grip>(NOTHING);
  // It is kept beside the state, too: a quick click ends before the page is drawn anew.
  const held = useRef<Grip>(NOTHING);
  const [pointer, setPointer] = useState<Point | null>(null);
  const fingers = useRef(new Map<number, Point>());

  // What is held is put down when its art has gone, as after undoing, or when other art is chosen.
  const ends = !goesOn(mode, recipe, arts);
  useEffect(() => {
    if (ends) putDown();
  }, [ends, putDown]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is built says that the answer has come
  useEffect(() => wait(null), [built, wait]);

  const acts: { [K in Effect["do"]]: (effect: Extract<Effect, { do: K }>) => unknown } = {
    pan: ({ by }) => pan(by.x, by.y),
    try: ({ edit: made, at, time }) => slow.come(at, time, () => attempt(made)),
    edit: ({ edit: made }) => edit(made),
    claim: ({ edit: made, pending }) => {
      wait(pending);
      return edit(made).then((done) => done === null && wait(null));
    },
    "choose-film": ({ film }) => choose(film),
    "choose-arts": (chosen) => chooseArts(chosen.arts),
    "choose-letters": ({ letters }) => chooseLetters(letters),
    slip: ({ film, by }) => slipTo({ film, ...by }),
    pick: ({ colour }) => pickOne(colour),
    draw: ({ knots }) => adjust({ knots }),
    tell: ({ detail, remedy }) => tell(new ProblemError("nothing-drawn", detail, remedy)),
  };

  const send = (event: HandEvent): void => {
    const turn = gripped(mode, held.current, event, world);
    if (event.on !== "move") slow.stop();
    held.current = turn.grip;
    showGrip(turn.grip);
    for (const effect of turn.effects) void acts[effect.do](effect as never);
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

  const spot = (view: View, px: Point): Spot => ({ px, mm: toMm(view, px) });
  const isHolding = () => held.current.holds !== "nothing";
  const abandon = () => send({ on: "abandon" });
  return {
    grip,
    /** Where the pointer is, pixels of the table; null beside it. */
    pointer,
    isHolding,
    send,
    abandon,
    handlers: {
      onPointerDown(event: PointerEvent<Element>) {
        if (event.button === 2) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const px = onPane(within(event.currentTarget, event));
        if (event.pointerType === "touch") {
          fingers.current.set(event.pointerId, px);
          // A second finger makes it a pinch, whatever the first one was about to do.
          if (fingers.current.size > 1) return abandon();
        }
        const table = event.button !== 0 || event.altKey;
        if (view) send({ on: "press", at: spot(view, px), shift: event.shiftKey, table });
      },
      onPointerMove(event: PointerEvent<Element>) {
        const at = within(event.currentTarget, event);
        setPointer(at);
        const px = onPane(at);
        if (pinched(event.pointerId, px) || !view) return;
        if (isHolding()) send({ on: "move", at: spot(view, px), shift: event.shiftKey, time: event.timeStamp });
        else hover(toMm(view, px));
      },
      onPointerUp(event: PointerEvent<Element>) {
        fingers.current.delete(event.pointerId);
        if (!view || !isHolding()) return;
        const at = spot(view, onPane(within(event.currentTarget, event)));
        send({ on: "lift", at, more: event.shiftKey || event.ctrlKey });
      },
      onPointerCancel(event: PointerEvent<Element>) {
        fingers.current.delete(event.pointerId);
        abandon();
      },
      onPointerLeave() {
        setPointer(null);
        hover(null);
      },
    },
  };
}
