import { type ReactNode, useEffect, useRef } from "react";

interface FoldProps {
  title: string;
  /** What is to be known while it is folded away. */
  figure?: ReactNode;
  open: boolean;
  /** It is opened or folded away. */
  onOpen?(open: boolean): void;
  children: ReactNode;
}

/** A part of a panel that can be folded away; `open` is how it starts, and opens it again when it comes true. */
export function Fold({ title, figure, open, onOpen, children }: FoldProps) {
  const element = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    if (open && element.current) element.current.open = true;
  }, [open]);
  return (
    <details
      ref={element}
      onToggle={(event) => onOpen?.(event.currentTarget.open)}
      className="group border-t border-line pt-2"
    >
      <summary className="flex cursor-pointer list-none items-baseline gap-2 rounded hover:bg-bench">
        <span aria-hidden className="text-soft transition-transform group-open:rotate-90">
          ›
        </span>
        <h3 className="font-semibold">{title}</h3>
        <span className="measure ml-auto text-sm text-soft">{figure}</span>
      </summary>
      <div className="mt-2 mb-1 flex flex-col gap-2">{children}</div>
    </details>
  );
}
