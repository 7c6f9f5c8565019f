import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import type { Unit } from "@/geometry/lengths";

/** What is wanted now and then, in one menu. */
export function More({ children }: { children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="act flex items-center gap-1">
        More <ChevronDown aria-hidden size={15} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={8}
          className="z-40 min-w-52 rounded-lg border border-line bg-paper p-1 shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ITEM = "block cursor-pointer rounded px-3 py-1.5 outline-none data-[highlighted]:bg-tint";

export function MoreItem({ onDo, children }: { onDo(): unknown; children: ReactNode }) {
  return (
    <DropdownMenu.Item className={ITEM} onSelect={() => void onDo()}>
      {children}
    </DropdownMenu.Item>
  );
}

/** Lengths in the other unit, wherever there are any. */
export function UnitItem({ unit, onUnit }: { unit: Unit; onUnit(unit: Unit): unknown }) {
  const inches = unit === "in";
  return (
    <MoreItem onDo={() => onUnit(inches ? "mm" : "in")}>
      {inches ? "Show lengths in millimetres" : "Show lengths in inches"}
    </MoreItem>
  );
}

/** A file to be downloaded from the menu. */
export function MoreFile({ href, children }: { href: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item asChild className={ITEM}>
      <a href={href} download>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}
