import { Tabs } from "radix-ui";
import { useState } from "react";
import { useSpokenFindings } from "@/parts/Spoken";
import { PLACES } from "@/state/mode";
import { countsOf, useKnownOfSheets, useTold } from "@/state/proof";

/** How many things will fail or may, beside the name of the place where they are told. */
function Grave() {
  const { stop, mind } = countsOf([...useTold(), ...useKnownOfSheets()]);
  if (stop + mind === 0) return null;
  return (
    <span
      className={`measure absolute top-0 left-1/2 ml-2 rounded-full px-1.5 text-xs ${stop > 0 ? "bg-fail text-white" : "bg-failtint text-failink"}`}
      title={`${stop} will fail, ${mind} may fail`}
    >
      <span className="sr-only">: </span>
      {stop + mind}
      <span className="sr-only"> {stop > 0 ? "found, some will fail" : "may fail"}</span>
    </span>
  );
}

/** The places of the job, strung on one thread in the order a maker works. */
export function Thread() {
  // A tab takes the focus by script when it is pressed, for which browsers draw a ring that only keys should bring.
  const [pressed, setPressed] = useState(false);
  useSpokenFindings();
  return (
    <Tabs.List
      aria-label="Places of the job"
      className={`relative flex gap-1 narrow:order-last narrow:w-full narrow:justify-between ${pressed ? "[&_button]:outline-none" : ""}`}
      onPointerDownCapture={() => setPressed(true)}
      onKeyDownCapture={() => setPressed(false)}
      onBlurCapture={(event) => !event.currentTarget.contains(event.relatedTarget) && setPressed(false)}
    >
      <span aria-hidden className="absolute top-[13px] right-6 left-6 border-t-2 border-line" />
      {PLACES.map((name) => (
        <Tabs.Trigger
          key={name}
          value={name}
          className="group relative flex w-[4.25rem] flex-col items-center max-[68.75em]:w-[3.625rem] narrow:w-auto narrow:min-w-11 narrow:flex-1 pt-2 text-sm text-soft data-[state=active]:font-semibold data-[state=active]:text-ink"
        >
          <span
            aria-hidden
            className="h-3 w-3 rounded-full border-2 border-firm bg-paper group-data-[state=active]:border-chosen group-data-[state=active]:bg-chosen"
          />
          {name}
          {name === "Proof" && <Grave />}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
