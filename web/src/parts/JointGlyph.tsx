import type { JointKind } from "@/api/client";

interface JointGlyphProps {
  kind: JointKind;
  lower: string;
  upper: string;
  wide?: boolean;
}

const EDGE = "rgba(30, 26, 16, 0.55)";

const SECTIONS: Record<JointKind, { low: string; high: string }> = {
  butt: { low: "M0 11H40V18H0Z", high: "M40 11H80V18H40Z" },
  lap: { low: "M0 11H52V18H0Z", high: "M40 4H57L60 11H80V18H54V11H40Z" },
  gap: { low: "M0 11H31V18H0Z", high: "M42 11H80V18H42Z" },
  full: { low: "M0 11H80V18H0Z", high: "M40 4H80V11H40Z" },
};

/** The joint as a small cross-section: the upper film right and above, the lower one left and below, on the ground. */
export function JointGlyph({ kind, lower, upper, wide }: JointGlyphProps) {
  const { low, high } = SECTIONS[kind];
  return (
    <svg viewBox="0 0 80 22" className={wide ? "h-6 w-22" : "h-5 w-18"} aria-hidden>
      <path d={low} fill={lower} stroke={EDGE} strokeWidth="0.8" />
      <path d={high} fill={upper} stroke={EDGE} strokeWidth="0.8" />
      <path d="M0 19.5H80" stroke="#25231e" strokeWidth="1.6" />
    </svg>
  );
}
