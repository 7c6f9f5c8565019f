import { useSyncExternalStore } from "react";

/** Where the address leads: the start page, a design, a job, the shelf, the help, or nowhere. */
export type Route =
  | { at: "start" }
  | { at: "shelf" }
  | { at: "help" }
  | { at: "nowhere" }
  | { at: "design"; id: string }
  | { at: "job"; id: string }
  | { at: "names"; id: string };

const PLAIN: Readonly<Record<string, "start" | "shelf" | "help">> = {
  "/": "start",
  "/shelf": "shelf",
  "/help": "help",
};

export function useRoute(): Route {
  const path = usePath();
  const [, at, id] = /^\/(design|job|names)\/([\w~-]+)/.exec(path) ?? [];
  if (id && (at === "design" || at === "job" || at === "names")) return { at, id };
  return { at: PLAIN[path] ?? "nowhere" };
}

export function goTo(path: string): void {
  window.history.pushState(null, "", path);
  window.dispatchEvent(new PopStateEvent("popstate"));
}

/** Says more closely where one is already: there is nothing to go back from. */
export function sayMoreClosely(path: string): void {
  window.history.replaceState(null, "", path);
  window.dispatchEvent(new PopStateEvent("popstate"));
}

/** The path of the address, as it changes. */
export function usePath(): string {
  return useSyncExternalStore(subscribe, () => window.location.pathname);
}

export function goToDesign(id: string | null): void {
  goTo(id ? `/design/${id}` : "/");
}

function subscribe(listener: () => void): () => void {
  window.addEventListener("popstate", listener);
  return () => window.removeEventListener("popstate", listener);
}
