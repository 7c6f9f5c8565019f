import type { JointKind } from "@/api/client";
import { JOINTS } from "@/parts/joints";

interface JointGlyphProps {
  kind: JointKind;
  lower: string;
  upper: string;
  wide?: boolean;
}

const EDGE = "rgba(30, 26, 16, 0.55)";

/** The joint as a small cross-section: the upper film right and above, the lower one left and below, on the ground. */
export function JointGlyph({ kind, lower, upper, wide }: JointGlyphProps) {
  const form = JOINTS[kind];
  return (
    <svg viewBox="0 0 80 22" className={wide ? "h-6 w-22" : "h-5 w-18"} aria-hidden>
      <path d={form.lower} fill={lower} stroke={EDGE} strokeWidth="0.8" />
      <path d={form.upper} fill={upper} stroke={EDGE} strokeWidth="0.8" />
      <path d="M0 19.5H80" stroke="#25231e" strokeWidth="1.6" />
    </svg>
  );
}
