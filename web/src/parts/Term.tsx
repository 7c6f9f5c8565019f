import { Tooltip } from "radix-ui";

const TERMS = {
  joint: "How two films meet: edge to edge, one a little under the other, apart, or one whole under the other.",
  ground: "What is decorated: a shirt, a mug, a window. It is only shown, never cut.",
  claim: "Say which film an area belongs to: choose the film, then click the area.",
} as const;

/** A word of the trade, explained where it is met: on hover and on focus. */
export function Term({ word, children }: { word: keyof typeof TERMS; children: string }) {
  return (
    <Tooltip.Provider delayDuration={200}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>
          <button
            type="button"
            data-explains=""
            className="cursor-help text-left underline decoration-firm decoration-dotted underline-offset-3"
          >
            {children}
          </button>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            side="bottom"
            align="start"
            sideOffset={4}
            collisionPadding={12}
            className="z-50 max-w-72 rounded bg-ink px-3 py-2 text-sm text-white shadow-lg"
          >
            {TERMS[word]}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
