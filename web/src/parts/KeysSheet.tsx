import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { isTyping } from "@/state/typing";

const KEYS: readonly (readonly [string, string])[] = [
  ["?", "this sheet"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
  ["Arrows", "move what is chosen by 0.5 mm, with Shift by 5 mm; with nothing chosen, move the table"],
  ["Delete", "delete the chosen art"],
  ["Ctrl D, Ctrl A", "duplicate the chosen art, choose all"],
  ["1 to 9", "choose a film while claiming or mending"],
  ["Alt ↑, Alt ↓", "move a film in the stack"],
  ["+, −, 0", "larger, smaller, fit the decal"],
  ["X", "a crosshair on the table: arrows move it, Enter points"],
  ["Esc", "put a tool down, or choose nothing"],
];

/** All keys on one sheet, on "?". */
export function KeysSheet() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "?" || isTyping(event)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-[34rem] -translate-x-1/2 rounded-lg border border-line bg-paper p-5 shadow-lg"
        >
          <Dialog.Title className="mb-3 text-lg font-semibold">Keys</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {KEYS.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="font-semibold whitespace-nowrap">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="act mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
