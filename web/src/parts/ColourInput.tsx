import { useEffect, useRef, useState } from "react";

const REST_MS = 350;

interface ColourInputProps {
  colour: string;
  /** Takes the colour when it rests: one edit, however long it was dragged about. */
  onColour(colour: string): unknown;
  label?: string;
}

/** A colour chosen in the browser's own picker, which tells every shade it is dragged over. */
export function ColourInput({ colour, onColour, label }: ColourInputProps) {
  const [held, setHeld] = useState<string | null>(null);
  const rest = useRef<number | undefined>(undefined);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a colour that has arrived ends the holding
  useEffect(() => setHeld(null), [colour]);
  const waiting = useRef<(() => void) | null>(null);
  useEffect(() => () => waiting.current?.(), []);
  return (
    <input
      type="color"
      aria-label={label}
      value={held ?? colour}
      className="h-7 w-10 cursor-pointer border border-firm bg-transparent"
      onChange={(event) => {
        const next = event.target.value;
        setHeld(next);
        window.clearTimeout(rest.current);
        const settle = () => {
          window.clearTimeout(rest.current);
          waiting.current = null;
          void Promise.resolve(onColour(next)).then(() => setHeld((now) => (now === next ? null : now)));
        };
        waiting.current = settle;
        rest.current = window.setTimeout(settle, REST_MS);
      }}
    />
  );
}
