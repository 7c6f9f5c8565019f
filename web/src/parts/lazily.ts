import { type ComponentType, type LazyExoticComponent, lazy } from "react";

const waiting: (() => Promise<unknown>)[] = [];

/** A part of the app that is loaded when it is first shown, or before that once nothing else is to be done. */
export function lazily<P>(load: () => Promise<ComponentType<P>>): LazyExoticComponent<ComponentType<P>> {
  waiting.push(load);
  return lazy(async () => ({ default: await load() }));
}

/** Loads what is not loaded yet, one part after the other, so that it is there even when the server is away later. */
export async function loadTheRest(): Promise<void> {
  for (const load of waiting.splice(0)) await load().catch(() => undefined);
}
