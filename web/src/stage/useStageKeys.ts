import { ARROWS } from "@/geometry/arrows";
import { lettersMovedBy, movedBy } from "@/state/moves";
import { useNudge } from "./useNudge";

const STEP_MM = { plain: 0.5, wide: 5 };
const PAN_PX = 40;

interface Keys {
  /** The art that arrows move, and the letters of it; none where art is not being arranged. */
  readonly movable: readonly string[];
  readonly letters: readonly number[];
  /** The crosshair takes the keys that are meant for it. */
  readonly cross: (key: string, arrow: readonly [number, number] | undefined, wide: boolean) => boolean;
  /** Begins to write in the chosen lettering; null where none is chosen. */
  readonly write: (() => void) | null;
  /** Chooses nothing; null where Esc is another's. */
  readonly letGo: (() => void) | null;
  /** Moves a film that is in hand; whether one is. */
  readonly slip: (by: readonly [number, number], wide: boolean) => boolean;
  readonly zoom: (steps: number) => void;
  readonly fitDecal: () => void;
  readonly pan: (dx: number, dy: number) => void;
}

/** What keys do while the table has the focus. */
export function useStageKeys({ movable, letters, cross, write, letGo, slip, zoom, fitDecal, pan }: Keys) {
  const nudge = useNudge();

  /** One step with an arrow key: moves the chosen letters or art by 0.5 mm (5 mm with Shift), else the table. */
  const step = ([x, y]: readonly [number, number], wide: boolean) => {
    const mm = wide ? STEP_MM.wide : STEP_MM.plain;
    const [own] = movable;
    if (movable.length === 1 && own && letters.length > 0) {
      nudge({ what: `${own} ${letters}`, move: (by) => lettersMovedBy(own, letters, by) }, x * mm, y * mm);
    } else if (movable.length > 0) {
      nudge({ what: movable.join(), move: (by) => movedBy(movable, [by]) }, x * mm, y * mm);
    } else pan(-PAN_PX * x, -PAN_PX * y);
  };

  return (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
    const arrow = ARROWS[event.key];
    if (cross(event.key, arrow, event.shiftKey)) return event.preventDefault();
    if (arrow && slip(arrow, event.shiftKey)) return event.preventDefault();
    if (event.key === "Enter" && write) write();
    else if (arrow) step(arrow, event.shiftKey);
    else if (event.key === "+") zoom(1);
    else if (event.key === "-") zoom(-1);
    else if (event.key === "0") fitDecal();
    else if (event.key === "Escape" && letGo) letGo();
    else return;
    event.preventDefault();
  };
}
