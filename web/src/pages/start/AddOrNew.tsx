import { Modal } from "@/parts/Modal";

interface AddOrNewProps {
  files: readonly File[];
  /** Whether a design is open that they may be added to. */
  open: boolean;
  /** All of them come onto one design: the open one, or a new one. */
  onAdd(): void;
  /** A new design begins with each. */
  onNew(): void;
  /** What a single one may replace, by name. */
  replaceable: readonly { id: string; name: string }[];
  onReplace(art: string): void;
  onCancel(): void;
}

/** What becomes of pictures and drawings that were dropped or pasted, where that is not plain. */
export function AddOrNew({ files, open, onAdd, onNew, replaceable, onReplace, onCancel }: AddOrNewProps) {
  const [first] = files;
  const one = files.length === 1;
  const named = first?.name ? `“${first.name}”` : "this picture";
  return (
    <Modal title={one ? `Where does ${named} go?` : `Where do these ${files.length} files go?`} onClose={onCancel}>
      <div className="flex flex-wrap gap-2">
        <button type="button" className={open ? "act-main" : "act order-1"} onClick={onAdd}>
          {open ? `Add ${one ? "it" : "them"} to this design` : "All onto one new design"}
        </button>
        {replaceable.map(({ id, name }) => (
          <button key={id} type="button" className="act" onClick={() => onReplace(id)}>
            Replace {name} by it
          </button>
        ))}
        <button type="button" className={open ? "act" : "act-main"} onClick={onNew}>
          {one ? "Start a new design" : "A new design of each"}
        </button>
        <button type="button" className="quiet order-2 px-2" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
