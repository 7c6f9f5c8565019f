import { ContextMenu } from "radix-ui";
import type { ReactNode } from "react";

export interface MenuEntry {
  readonly text: string;
  readonly onDo: () => unknown;
  readonly disabled?: boolean;
}

/** What can be done at a point of the table, on the secondary button. */
export function StageMenu({ entries, children }: { entries: readonly MenuEntry[]; children: ReactNode }) {
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className="z-40 min-w-52 rounded-lg border border-line bg-paper p-1 shadow-lg">
          {entries.map(({ text, onDo, disabled }) => (
            <ContextMenu.Item
              key={text}
              disabled={disabled === true}
              className="cursor-pointer truncate rounded px-3 py-1.5 outline-none data-[disabled]:text-firm data-[highlighted]:bg-tint"
              onSelect={() => void onDo()}
            >
              {text}
            </ContextMenu.Item>
          ))}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
