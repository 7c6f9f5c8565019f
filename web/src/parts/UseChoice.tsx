import type { ReactNode } from "react";
import type { Use } from "@/api/client";
import { useAsked } from "@/state/useAsked";

interface Shown {
  text: string;
  hint: string;
  picture: ReactNode;
}

const GROUND = "#8f897b";
const LOWER = "#1d2b53";
const UPPER = "#f2b632";

/** Every use with its picture from the side; whoever looks at it stands above. */
const USES: Record<Use, Shown> = {
  surface: {
    text: "On a surface",
    hint: "Cut as it is seen, and laid with transfer tape.",
    picture: (
      <>
        <path d="M4 24H52" stroke={GROUND} strokeWidth="4" />
        <path d="M12 19.5H44" stroke={LOWER} strokeWidth="4" />
        <path d="M20 15.5H36" stroke={UPPER} strokeWidth="4" />
        <Eye />
      </>
    ),
  },
  glass: {
    text: "Read through glass",
    hint: "Laid inside, read from outside: cut mirrored, and the top film goes onto the glass first.",
    picture: (
      <>
        <path d="M4 14H52" stroke="#bcd3de" strokeWidth="5" />
        <path d="M20 18.5H36" stroke={UPPER} strokeWidth="4" />
        <path d="M12 22.5H44" stroke={LOWER} strokeWidth="4" />
        <Eye />
      </>
    ),
  },
  "heat-transfer": {
    text: "Heat-transfer",
    hint: "Cut mirrored, from its back, and pressed onto cloth.",
    picture: (
      <>
        <path d="M4 25q6-4 12 0t12 0t12 0t12 0" stroke={GROUND} strokeWidth="3" fill="none" />
        <path d="M12 20H44" stroke={LOWER} strokeWidth="3.5" />
        <path d="M20 16.5H36" stroke={UPPER} strokeWidth="3.5" />
        <path d="M8 7H48M28 7V1" stroke="#625d52" strokeWidth="4" />
      </>
    ),
  },
  stencil: {
    text: "Stencil",
    hint: "The parts come out, and colour goes where they were.",
    picture: (
      <>
        <path d="M4 24H52" stroke={GROUND} strokeWidth="4" />
        <path d="M8 19.5H20M36 19.5H48" stroke="#9fb8c9" strokeWidth="5" />
        <path d="M21 20.5H35" stroke={UPPER} strokeWidth="3" />
        <path d="M28 4l4 7h-8z" fill={UPPER} />
      </>
    ),
  },
  card: {
    text: "Card",
    hint: "Cut from card or paper, and glued, the lowest first.",
    picture: (
      <>
        <path d="M8 23H48" stroke={GROUND} strokeWidth="5" />
        <path d="M14 16.5H42" stroke={LOWER} strokeWidth="5" />
        <path d="M20 10H36" stroke={UPPER} strokeWidth="5" />
        <path d="M18 20h4m12 0h4M24 13.5h3m3 0h3" stroke="#625d52" strokeWidth="1.5" />
      </>
    ),
  },
};

function Eye() {
  return (
    <>
      <path d="M20 5q8-7 16 0q-8 7-16 0z" fill="none" stroke="#625d52" strokeWidth="1.5" />
      <circle cx="28" cy="5" r="2" fill="#625d52" />
    </>
  );
}

interface UseChoiceProps {
  value: Use;
  onChange(use: Use): unknown;
  /** Whether it says what follows from the chosen one. */
  hint?: boolean;
}

/** What a decal is for, each with a picture of it. */
export function UseChoice({ value, onChange, hint }: UseChoiceProps) {
  const asked = useAsked(value);
  return (
    <fieldset aria-busy={asked.pending || undefined}>
      <legend className="heading mb-1">How it is used</legend>
      <div className="flex flex-wrap gap-1">
        {(Object.keys(USES) as Use[]).map((use) => (
          <label
            key={use}
            title={USES[use].hint}
            data-pending={(asked.pending && asked.value === use) || undefined}
            className="flex w-[104px] cursor-pointer flex-col items-center rounded border border-firm px-1 py-1 text-center text-sm leading-tight hover:border-ink has-checked:border-chosen has-checked:bg-tint has-checked:font-semibold has-checked:text-chosen has-focus-visible:outline-2 has-focus-visible:outline-chosen"
          >
            <input
              type="radio"
              name="How it is used"
              className="sr-only"
              checked={asked.value === use}
              onChange={() => asked.ask(use, () => onChange(use))}
            />
            <svg aria-hidden viewBox="0 0 56 28" className="h-7 w-14">
              {USES[use].picture}
            </svg>
            {USES[use].text}
          </label>
        ))}
      </div>
      {hint && <p className="mt-1 text-sm text-soft">{USES[asked.value].hint}</p>}
    </fieldset>
  );
}

/** All uses, the plainest first. */
export const USES_IN_ORDER = Object.keys(USES) as Use[];

/** What a use is called. */
export function nameOfUse(use: Use): string {
  return USES[use].text;
}

/** What follows from a use, in a line. */
export function sayUse(use: Use): string {
  return USES[use].hint;
}
