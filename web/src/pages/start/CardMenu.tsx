import { Ellipsis } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { DesignLine } from "@/api/client";
import type { ListActs } from "@/state/list";

interface CardMenuProps {
  line: DesignLine;
  acts: ListActs;
  onWrite(what: "name" | "tags"): void;
}

/** What can be done with a design of the list. */
export function CardMenu({ line, acts, onWrite }: CardMenuProps) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`More for ${line.name}`}
        className="absolute top-[9.375rem] right-1.5 grid h-7 w-7 place-items-center rounded hover:bg-bench"
      >
        <Ellipsis aria-hidden size={17} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-40 rounded-lg border border-line bg-paper p-1 shadow-lg"
          // What is written into has the focus next.
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Act onDo={() => onWrite("name")}>Rename</Act>
          <Act onDo={() => acts.copy(line)}>Duplicate</Act>
          <Act onDo={() => onWrite("tags")}>Tags</Act>
          <Act onDo={() => acts.remove(line)}>Delete</Act>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Act({ onDo, children }: { onDo(): void; children: string }) {
  return (
    <DropdownMenu.Item
      className="cursor-pointer rounded px-3 py-1 outline-none data-[highlighted]:bg-tint"
      onSelect={onDo}
    >
      {children}
    </DropdownMenu.Item>
  );
}
