import { useView } from "@/state/view";
import { heldNear } from "./grip";

const STEP_MM = { plain: 0.1, wide: 0.5 };

/** Arrow keys lay the film in hand a tenth of a mm farther off its place, half a mm with Shift; whether one is in hand. */
export function useSlipKeys(): (by: readonly [number, number], wide: boolean) => boolean {
  const { mode, slip, slipTo } = useView();
  return ([x, y], wide) => {
    const film = mode.kind === "slipping" ? (slip?.film ?? mode.film) : null;
    if (film === null) return false;
    const mm = wide ? STEP_MM.wide : STEP_MM.plain;
    slipTo({ film, ...heldNear({ x: (slip?.x ?? 0) + x * mm, y: (slip?.y ?? 0) + y * mm }) });
    return true;
  };
}
