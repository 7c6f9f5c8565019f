import { Slider } from "radix-ui";
import { useEffect, useRef, useState } from "react";

interface SlideProps {
  label: string;
  value: number;
  least?: number;
  most: number;
  step: number;
  /** The thumb is taken hold of. */
  onHold?(): void;
  /** The value under the thumb while it moves. */
  onSlide(value: number): void;
  /** The value it is let go at. */
  onSettle(value: number): unknown;
}

/** A slider whose effect is shown while it moves. */
export function Slide({ label, value, least = 0, most, step, onHold, onSlide, onSettle }: SlideProps) {
  const [held, setHeld] = useState<number | null>(null);
  // What is tried out comes back as the value while the thumb is still held: where it started is kept apart.
  const start = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a value that has arrived ends the holding
  useEffect(() => setHeld(null), [value]);
  return (
    <Slider.Root
      aria-label={label}
      className="relative mb-1 flex h-5 flex-1 touch-none items-center"
      value={[Math.min(most, held ?? value)]}
      min={least}
      max={most}
      step={step}
      onPointerDown={onHold}
      onValueChange={([next = value]) => {
        start.current ??= value;
        setHeld(next);
        onSlide(next);
      }}
      onValueCommit={([next = value]) => {
        const from = start.current;
        start.current = null;
        if (next === from) setHeld(null);
        else onSettle(next);
      }}
    >
      <Slider.Track className="relative h-0.5 flex-1 bg-firm">
        <Slider.Range className="absolute h-full bg-chosen" />
      </Slider.Track>
      <Slider.Thumb aria-label={label} className="block h-3.5 w-3.5 rounded-full border-2 border-chosen bg-white" />
    </Slider.Root>
  );
}
