import type { JointKind } from "@/api/client";

export interface JointForm {
  readonly text: string;
  readonly hint: string;
  /** The length it begins with, mm, and what that is called; null where it has none. */
  readonly length: { readonly first_mm: number; readonly label: string } | null;
  /** Its cross-section: the lower film from the left, the upper one from the right (SVG paths in 80 x 22). */
  readonly lower: string;
  readonly upper: string;
  /** What a design is said to be whose films meet like this. */
  readonly told: (length: string) => string;
}

/** All kinds of joints, in the order they are offered: a kind the server knows and this does not is no valid program. */
export const JOINTS: Readonly<Record<JointKind, JointForm>> = {
  butt: {
    text: "Butt",
    hint: "The lower film ends where the upper begins.",
    length: null,
    lower: "M0 11H40V18H0Z",
    upper: "M40 11H80V18H40Z",
    told: () => "films meet edge to edge",
  },
  lap: {
    text: "Lap",
    hint: "The lower film runs on a little under the upper.",
    length: { first_mm: 0.4, label: "Length of the lap" },
    lower: "M0 11H52V18H0Z",
    upper: "M40 4H57L60 11H80V18H54V11H40Z",
    told: (length) => `joints lap ${length} so that a slip does not show`,
  },
  full: {
    text: "Full",
    hint: "The lower film stays solid under the upper.",
    length: { first_mm: 0.4, label: "Length of the lap" },
    lower: "M0 11H80V18H0Z",
    upper: "M40 4H80V11H40Z",
    told: () => "films lie whole on each other",
  },
  gap: {
    text: "Gap",
    hint: "The lower film keeps away; what is below shows.",
    length: { first_mm: 1, label: "Width of the gap" },
    lower: "M0 11H31V18H0Z",
    upper: "M42 11H80V18H42Z",
    told: (length) => `films stand ${length} apart`,
  },
};
export const JOINT_KINDS = Object.keys(JOINTS) as JointKind[];
