import { useEffect, useRef } from "react";
import type { Point } from "@/geometry/transform";
import { useEdit } from "@/state/design";
import { movedBy } from "@/state/moves";
import { useTry } from "@/state/useTry";

const REST_MS = 300;

/** Moves art step by step while a key is held; all its steps are one edit, made when they rest. */
export function useNudge(): (ids: readonly string[], x: number, y: number) => void {
  const edit = useEdit();
  const attempt = useTry();
  const held = useRef<{ ids: readonly string[]; by: Point; rest: number } | null>(null);
  const settle = () => {
    const now = held.current;
    if (!now) return;
    window.clearTimeout(now.rest);
    held.current = null;
    void edit(movedBy(now.ids, [now.by]));
  };
  const leave = useRef(settle);
  leave.current = settle;
  useEffect(() => () => leave.current(), []);
  return (ids, x, y) => {
    if (held.current && held.current.ids.join() !== ids.join()) settle();
    const before = held.current;
    const by = { x: (before?.by.x ?? 0) + x, y: (before?.by.y ?? 0) + y };
    window.clearTimeout(before?.rest);
    held.current = { ids, by, rest: window.setTimeout(settle, REST_MS) };
    attempt(movedBy(ids, [by]));
  };
}
