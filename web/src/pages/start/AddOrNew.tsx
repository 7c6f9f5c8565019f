import { Modal } from "@/parts/Modal";

interface AddOrNewProps {
  file: File;
  onAdd(): void;
  onNew(): void;
  /** What it may replace, by name. */
  replaceable: readonly { id: string; name: string }[];
  onReplace(art: string): void;
  onCancel(): void;
}

/** What becomes of a picture that was dropped or pasted while a design is open. */
export function AddOrNew({ file, onAdd, onNew, replaceable, onReplace, onCancel }: AddOrNewProps) {
  return (
    <Modal title={`Where does ${file.name ? `“${file.name}”` : "this picture"} go?`} onClose={onCancel}>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="act-main" onClick={onAdd}>
          Add it to this design
        </button>
        {replaceable.map(({ id, name }) => (
          <button key={id} type="button" className="act" onClick={() => onReplace(id)}>
            Replace {name} by it
          </button>
        ))}
        <button type="button" className="act" onClick={onNew}>
          Start a new design
        </button>
        <button type="button" className="quiet px-2" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
