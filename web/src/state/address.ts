import { useEffect, useRef } from "react";
import { PLACES, type Place } from "@/state/mode";
import { goTo, sayMoreClosely, usePath } from "@/state/route";
import { useView } from "@/state/view";

/** The place of a design that an address leads to; null where it names none. */
export function placeIn(path: string): Place | null {
  const named = /^\/design\/[\w~-]+\/(\w+)/.exec(path)?.[1];
  return PLACES.find((place) => place.toLowerCase() === named) ?? null;
}

/**
 * Keeps the place of an open design and the address together: the address leads when it changes, as with Back; a place that
 * is gone to becomes the next step of it.
 */
export function usePlaceInAddress(design: string): void {
  const path = usePath();
  const place = useView((view) => view.place);
  const seen = useRef<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was entered just now may have changed the place already
  useEffect(() => {
    const now = useView.getState().place;
    const told = placeIn(path);
    const moved = seen.current !== path;
    seen.current = path;
    if (told === now || !`${path}/`.startsWith(`/design/${design}/`)) return;
    const here = `/design/${design}/${now.toLowerCase()}`;
    if (told === null) sayMoreClosely(here);
    else if (moved) useView.getState().goTo(told);
    else goTo(here);
  }, [design, path, place]);
}
