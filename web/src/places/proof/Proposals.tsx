import { useState } from "react";
import type { Edit } from "@/api/client";
import type { Built } from "@/api/held";
import { WhatGetsWorse } from "@/parts/WhatGetsWorse";
import { useEdit, useOpenDesign } from "@/state/design";
import { useWorse } from "@/state/proof";
import { useTries } from "@/state/tries";
import { useTry } from "@/state/useTry";

/** A change that is offered. */
export interface Proposal {
  readonly label: string;
  readonly title?: string;
  readonly edit: Edit;
  /** What it does not reach, as far as that is seen from what it leads to. */
  lacks?(tried: Built): string | null;
}

const HINT = "Point at a change to try it on the stage, and to see what it makes worse.";

/** Changes to choose from. One that is pointed at is tried on the stage, and it is told what it makes worse. */
export function Proposals({ proposals }: { proposals: readonly Proposal[] }) {
  const edit = useEdit();
  const attempt = useTry();
  const clear = useTries((tries) => tries.clear);
  const [pointed, point] = useState<string | null>(null);
  const tryOut = (one: Proposal) => {
    point(one.label);
    attempt(one.edit);
  };
  const letGo = () => {
    point(null);
    clear();
  };
  const own = proposals.find((one) => one.label === pointed);
  if (proposals.length === 0) return null;
  return (
    <>
      <p className="flex flex-wrap gap-1.5">
        {proposals.map((one) => (
          <button
            key={one.label}
            type="button"
            className="act px-2 text-sm"
            title={one.title}
            onPointerEnter={() => tryOut(one)}
            onPointerLeave={letGo}
            onFocus={() => tryOut(one)}
            onBlur={letGo}
            onClick={() => {
              point(null);
              void edit(one.edit);
            }}
          >
            {one.label}
          </button>
        ))}
      </p>
      {/* Its room is kept, so that nothing moves under the pointer. */}
      <div role="status" className="min-h-20 rounded bg-tint p-2 text-sm">
        {own ? <Tried proposal={own} /> : <p className="text-soft">{HINT}</p>}
      </div>
    </>
  );
}

function Tried({ proposal }: { proposal: Proposal }) {
  const { id } = useOpenDesign();
  const tried = useTries((tries) => (tries.tried?.design === id ? tries.tried.built : null));
  const worse = useWorse(proposal.edit);
  const lacks = tried && proposal.lacks?.(tried);
  return (
    <>
      {lacks && <p>{lacks}</p>}
      <WhatGetsWorse
        worse={worse}
        looking="Looking what that makes worse…"
        nothing="Nothing gets worse by it."
        heading="What gets worse by it:"
      />
    </>
  );
}
