import { useEffect, useRef } from "react";
import type { Point } from "@/geometry/transform";
import { type MadeEdit, useEdit } from "@/state/design";
import { useTry } from "@/state/useTry";

const REST_MS = 300;

/** What is moved by keys: what it is called, to tell it from others, and the edit that moves it so far. */
export interface Nudged {
  readonly what: string;
  move(by: Point): MadeEdit;
}

/** Moves something step by step while a key is held; all its steps are one edit, made when they rest. */
export function useNudge(): (nudged: Nudged, x: number, y: number) => void {
  const edit = useEdit();
  const attempt = useTry();
  const held = useRef<{ nudged: Nudged; by: Point; rest: number } | null>(null);
  const settle = () => {
    const now = held.current;
    if (!now) return;
    window.clearTimeout(now.rest);
    held.current = null;
    void edit(now.nudged.move(now.by));
  };
  const leave = useRef(settle);
  leave.current = settle;
  useEffect(() => () => leave.current(), []);
  return (nudged, x, y) => {
    if (held.current && held.current.nudged.what !== nudged.what) settle();
    const before = held.current;
    const by = { x: (before?.by.x ?? 0) + x, y: (before?.by.y ?? 0) + y };
    window.clearTimeout(before?.rest);
    held.current = { nudged, by, rest: window.setTimeout(settle, REST_MS) };
    attempt(nudged.move(by));
  };
}
