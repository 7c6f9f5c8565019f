import { useEffect } from "react";

const FOCUSABLE =
  "button:not([disabled]), a[href], input:not([disabled]), select:not([disabled]), textarea:not([disabled]), summary, [tabindex]:not([tabindex='-1'])";
/** A field to write in would bring up a keyboard on the screen, a word that is explained its explanation. */
const BRINGS_UP = "input:not([type=checkbox]):not([type=radio]):not([type=range]), textarea, [data-explains]";
const MOST_WAYS = 12;
const SOON_MS = 60;

/** An element round what has the focus, and which of its children leads there. */
interface Step {
  readonly element: Element;
  readonly child: number;
}

/** What had the focus, and the way out from it. */
interface Way {
  readonly last: Element;
  readonly steps: readonly Step[];
}

function wayFrom(last: Element): Way {
  const steps: Step[] = [];
  for (let one = last; one.parentElement && one.parentElement !== document.body; one = one.parentElement)
    steps.push({ element: one.parentElement, child: [...one.parentElement.children].indexOf(one) });
  return { last, steps };
}

function isThere(one: Element): boolean {
  return one.isConnected && one.matches(FOCUSABLE) && one.checkVisibility();
}

/** Where the focus goes when what had it is gone or switched off: to what now stands nearest to its place. */
function heir({ last, steps }: Way): HTMLElement | null {
  if (isThere(last)) return last as HTMLElement;
  for (const { element, child } of steps) {
    if (!element.isConnected || !element.checkVisibility()) continue;
    const own = [...element.children];
    // What comes after its place is nearer than what was before.
    const order = [...own.slice(child), ...own.slice(0, child).reverse()];
    for (const one of order) {
      const all = [...(one.matches(FOCUSABLE) ? [one] : []), ...one.querySelectorAll(FOCUSABLE)];
      const found = all.find((f) => f !== last && f.checkVisibility() && !f.matches(BRINGS_UP));
      if (found) return found as HTMLElement;
    }
  }
  return null;
}

/**
 * The focus never falls to the page: when what had it goes away, or is switched off, as by the last undo or by a step of
 * cutting, it goes to what stands nearest to its place.
 */
export function useFocusKept(): void {
  useEffect(() => {
    let ways: Way[] = [];
    let asked = 0;
    let given = false;
    const look = () => {
      asked = 0;
      const now = document.activeElement;
      // A browser that is busy takes the focus from what was switched off only with the next picture of the page.
      const goes = now?.matches(":disabled") || now?.checkVisibility() === false;
      if (now && now !== document.body && !goes) return;
      // What was left on purpose, by a click beside it, is still there.
      const [latest] = ways;
      if (!latest || isThere(latest.last)) return;
      for (const way of ways) {
        const next = heir(way);
        if (!next) continue;
        given = true;
        return next.focus({ preventScroll: true });
      }
    };
    const onFocus = ({ target }: FocusEvent) => {
      if (!(target instanceof Element)) return;
      const way = wayFrom(target);
      ways = [way, ...ways.filter((one) => one.last !== target)].slice(0, MOST_WAYS);
    };
    // A dialog that closes gives the focus back itself, a moment later.
    const ask = () => {
      if (asked === 0) asked = window.setTimeout(look, SOON_MS);
    };
    // A key that is still held down must not press what was given the focus.
    const onKey = (event: KeyboardEvent) => {
      if (given && event.repeat && (event.key === "Enter" || event.key === " ")) event.preventDefault();
      else given = false;
    };
    const observer = new MutationObserver(ask);
    window.addEventListener("keydown", onKey, { capture: true });
    document.addEventListener("focusin", onFocus);
    observer.observe(document.body, {
      subtree: true,
      childList: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    return () => {
      document.removeEventListener("focusin", onFocus);
      window.removeEventListener("keydown", onKey, { capture: true });
      observer.disconnect();
      window.clearTimeout(asked);
    };
  }, []);
}
