import { Popover } from "radix-ui";
import { useState } from "react";
import { SmallLook } from "@/parts/SmallLook";
import { useChange, useHistory, useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

/** Every step of the design and its sheets, newest first; any of them can be gone to. */
export function History() {
  const [open, setOpen] = useState(false);
  const { data: history = [] } = useHistory(open);
  const { id, revision } = useOpenDesign();
  const compareWith = useView((view) => view.compareWith);
  const change = useChange(id);
  const here = history.findIndex((entry) => entry.current);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="act">History</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="History"
          align="end"
          sideOffset={8}
          className="z-40 max-h-[70vh] w-96 overflow-y-auto rounded-lg border border-line bg-paper p-2 shadow-lg"
        >
          <ol aria-label="History">
            {history
              .map((entry, position) => ({ entry, position }))
              .reverse()
              .map(({ entry, position }) => (
                <li key={`${entry.whose}-${entry.revision}`} className="flex items-center gap-1">
                  <button
                    type="button"
                    aria-current={entry.current ? "step" : undefined}
                    className={`flex min-w-0 grow items-center gap-3 rounded px-2 py-1 text-left hover:bg-bench aria-[current]:bg-tint aria-[current]:font-semibold ${position > here ? "text-soft italic" : ""}`}
                    onClick={() => change({ do: "go-to", whose: entry.whose, revision: entry.revision })}
                  >
                    <SmallLook
                      design={id}
                      revision={entry.design}
                      className="h-9 w-12 shrink-0 rounded-sm border border-line bg-table object-contain"
                    />
                    <span className="min-w-0 grow">{entry.label}</span>
                    <time className="shrink-0 text-xs text-soft">
                      {new Date(entry.created).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}
                    </time>
                  </button>
                  {entry.design !== revision && (
                    <button
                      type="button"
                      className="quiet shrink-0 text-sm"
                      aria-label={`Compare with “${entry.label}”`}
                      title="Show what is cut otherwise now"
                      onClick={() => {
                        compareWith({ revision: entry.design, label: entry.label });
                        setOpen(false);
                      }}
                    >
                      Compare
                    </button>
                  )}
                </li>
              ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
