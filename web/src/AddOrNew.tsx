import { Dialog } from "radix-ui";

interface AddOrNewProps {
  file: File;
  onAdd(): void;
  onNew(): void;
  onCancel(): void;
}

/** What becomes of a picture that was dropped or pasted while a design is open. */
export function AddOrNew({ file, onAdd, onNew, onCancel }: AddOrNewProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onCancel()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/3 left-1/2 z-50 w-[26rem] -translate-x-1/2 rounded-lg border border-line bg-paper p-5 shadow-lg"
        >
          <Dialog.Title className="text-lg font-semibold break-words">
            Where does {file.name ? `“${file.name}”` : "this picture"} go?
          </Dialog.Title>
          <div className="mt-4 flex flex-wrap gap-2">
            <button type="button" className="act-main" onClick={onAdd}>
              Add it to this design
            </button>
            <button type="button" className="act" onClick={onNew}>
              Start a new design
            </button>
            <button type="button" className="quiet px-2" onClick={onCancel}>
              Cancel
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
