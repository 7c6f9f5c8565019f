import { useSyncExternalStore } from "react";

/** Where the address leads: the start page, a design, a job, the shelf, or the help. */
export type Route =
  | { at: "start" }
  | { at: "shelf" }
  | { at: "help" }
  | { at: "design"; id: string }
  | { at: "job"; id: string }
  | { at: "names"; id: string };

export function useRoute(): Route {
  const path = useSyncExternalStore(subscribe, () => window.location.pathname);
  const [, at, id] = /^\/(design|job|names)\/([\w-]+)/.exec(path) ?? [];
  if (id && (at === "design" || at === "job" || at === "names")) return { at, id };
  return path === "/shelf" ? { at: "shelf" } : path === "/help" ? { at: "help" } : { at: "start" };
}

export function goTo(path: string): void {
  window.history.pushState(null, "", path);
  window.dispatchEvent(new PopStateEvent("popstate"));
}

export function goToDesign(id: string | null): void {
  goTo(id ? `/design/${id}` : "/");
}

function subscribe(listener: () => void): () => void {
  window.addEventListener("popstate", listener);
  return () => window.removeEventListener("popstate", listener);
}
