import { Modal } from "@/parts/Modal";
import guide from "../../../../docs/guide.md?raw";
import { keysOf } from "./sections";

const KEYS = keysOf(guide);

/** The keys of the guide on one sheet. */
export function KeysSheet({ onClose }: { onClose(): void }) {
  return (
    <Modal title="Keys" width="w-[34rem]" onClose={onClose}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {KEYS.map(([key, does]) => (
          <div key={key} className="contents">
            <dt className="font-semibold whitespace-nowrap">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="act mt-4" onClick={onClose}>
        Close
      </button>
    </Modal>
  );
}
