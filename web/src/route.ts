import { useSyncExternalStore } from "react";

/** The open design's id, from the address; null on the start page. */
export function useRoute(): string | null {
  const path = useSyncExternalStore(subscribe, () => window.location.pathname);
  return /^\/design\/([\w-]+)/.exec(path)?.[1] ?? null;
}

export function goToDesign(id: string | null): void {
  window.history.pushState(null, "", id ? `/design/${id}` : "/");
  window.dispatchEvent(new PopStateEvent("popstate"));
}

function subscribe(listener: () => void): () => void {
  window.addEventListener("popstate", listener);
  return () => window.removeEventListener("popstate", listener);
}
