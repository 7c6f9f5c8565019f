import type { Worse } from "@/state/proof";

const MOST_TOLD = 3;

interface WhatGetsWorseProps {
  worse: readonly Worse[] | null;
  /** Said while it is worked out. */
  looking: string;
  /** Said where nothing gets worse. */
  nothing: string;
  /** Said above what does. */
  heading: string;
}

/** What will or may fail once a change is made, and does not now. */
export function WhatGetsWorse({ worse, looking, nothing, heading }: WhatGetsWorseProps) {
  if (!worse) return <p className="mt-1 text-sm text-soft">{looking}</p>;
  if (worse.length === 0) return <p className="mt-1 text-sm">{nothing}</p>;
  const more = worse.slice(MOST_TOLD).reduce((sum, one) => sum + one.more, 0);
  return (
    <div className="mt-1 text-sm">
      <p className="font-semibold">{heading}</p>
      <ul aria-label="What gets worse" className="list-disc pl-4">
        {worse.slice(0, MOST_TOLD).map((one) => (
          <li key={one.text} className={one.severity === "stop" ? "text-failink" : ""}>
            {one.text}
            {one.more > 1 && ` So it is in ${one.more} places.`}
          </li>
        ))}
      </ul>
      {more > 0 && <p>And in {more === 1 ? "1 more place" : `${more} more places`} of other kinds.</p>}
    </div>
  );
}

/** What will or may fail at a size, and does not at the size it has. */
export function AtThatSize({ worse }: { worse: readonly Worse[] | null }) {
  return (
    <WhatGetsWorse
      worse={worse}
      looking="Looking what will be too thin or too small at that size…"
      nothing="Nothing more will fail at that size."
      heading="At that size:"
    />
  );
}
