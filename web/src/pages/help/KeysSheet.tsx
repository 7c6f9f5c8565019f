import { useEffect, useState } from "react";
import { Modal } from "@/parts/Modal";
import { isTyping } from "@/state/typing";
import guide from "../../../../docs/guide.md?raw";
import { keysOf } from "./sections";

const KEYS = keysOf(guide);

/** The keys of the guide on one sheet, on "?". */
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
  if (!open) return null;
  return (
    <Modal title="Keys" width="w-[34rem]" onClose={() => setOpen(false)}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {KEYS.map(([key, does]) => (
          <div key={key} className="contents">
            <dt className="font-semibold whitespace-nowrap">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="act mt-4" onClick={() => setOpen(false)}>
        Close
      </button>
    </Modal>
  );
}
