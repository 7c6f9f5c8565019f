import type { Worse } from "@/state/proof";

const MOST_TOLD = 3;

/** What will or may fail at a size, and does not at the size it has. */
export function AtThatSize({ worse }: { worse: readonly Worse[] | null }) {
  if (!worse) return <p className="mt-1 text-sm text-soft">Looking what will be too thin or too small at that size…</p>;
  if (worse.length === 0) return <p className="mt-1 text-sm">Nothing more will fail at that size.</p>;
  const more = worse.slice(MOST_TOLD).reduce((sum, one) => sum + one.more, 0);
  return (
    <div className="mt-1 text-sm">
      <p className="font-semibold">At that size:</p>
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
