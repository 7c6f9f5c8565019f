import { Popover } from "radix-ui";
import type { ReactNode } from "react";

interface PanelProps {
  trigger: ReactNode;
  label?: string;
  triggerClass?: string;
  side?: "right" | "bottom";
  width?: string;
  pressed?: boolean;
  children: ReactNode;
}

/** A button that opens a panel beside it. */
export function Panel({ trigger, label, triggerClass = "act", side = "right", width = "w-64", children }: PanelProps) {
  return (
    <Popover.Root>
      <Popover.Trigger aria-label={label} className={triggerClass}>
        {trigger}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          side={side}
          align="start"
          sideOffset={side === "right" ? 10 : 4}
          collisionPadding={12}
          className={`z-40 max-h-[80vh] overflow-y-auto rounded-lg border border-line bg-paper p-3 shadow-lg ${width}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A line of a panel that does something and closes it. */
export function PanelItem({
  onSelect,
  children,
  current,
}: {
  onSelect(): unknown;
  children: ReactNode;
  current?: boolean;
}) {
  return (
    <Popover.Close
      aria-current={current ? "true" : undefined}
      className="flex w-full items-center gap-2 rounded px-1 py-1 text-left hover:bg-bench aria-[current]:bg-tint aria-[current]:font-semibold"
      onClick={onSelect}
    >
      {children}
    </Popover.Close>
  );
}
