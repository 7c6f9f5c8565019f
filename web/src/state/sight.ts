import type { Box } from "@/api/client";

let seen: Box | null = null;

/** Keeps what is seen of the stack, mm. It changes with every frame of a move, so nothing is drawn because of it. */
export function see(box: Box): void {
  seen = box;
}

/** What is seen of the stack, mm: what is brought in comes to lie in its middle. */
export function sight(): Box | null {
  return seen;
}
