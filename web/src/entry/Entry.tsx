import type { ComponentProps } from "react";
import { useAsked } from "@/state/useAsked";

const LOOK = "h-8.5 min-w-0 rounded border border-firm bg-table px-1.5 py-1";

/** The one way to choose from a list. */
export function Select({ className = "", ...rest }: ComponentProps<"select">) {
  return <select {...rest} className={`${LOOK} ${className}`} />;
}

/** The one way to type something. */
export function Input({ className = "", ...rest }: ComponentProps<"input">) {
  return <input {...rest} className={`${LOOK} ${className}`} />;
}

/** The one way to switch something on and off. */
export function Check({ className = "", checked, onChange, ...rest }: Omit<ComponentProps<"input">, "type">) {
  const asked = useAsked(checked);
  return (
    <input
      {...rest}
      type="checkbox"
      checked={asked.value}
      aria-busy={asked.pending || undefined}
      className={`accent-chosen ${className}`}
      onChange={(event) => asked.ask(event.target.checked, () => onChange?.(event))}
    />
  );
}
