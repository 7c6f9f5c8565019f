import { useDraft } from "@/parts/useDraft";

interface TextFieldProps {
  label: string;
  value: string;
  onCommit(value: string): unknown;
  className?: string;
  placeholder?: string;
  allowEmpty?: boolean;
}

/** A line of text that is changed in place: Enter or leaving keeps it, Escape takes it back. */
export function TextField({ label, value, onCommit, className = "", placeholder, allowEmpty = false }: TextFieldProps) {
  const { draft, refused, field, type, commit, reset } = useDraft(value, false);
  const settle = () => {
    const text = draft.trim();
    if (text === value || (!text && !allowEmpty)) reset();
    else commit(text, onCommit);
  };
  return (
    <input
      type="text"
      aria-label={label}
      {...field}
      // Why it was refused is its title.
      aria-describedby={undefined}
      title={refused ?? value}
      placeholder={placeholder}
      value={draft}
      maxLength={120}
      className={`rounded border border-transparent bg-transparent px-1 hover:border-line focus:border-firm focus:bg-table aria-invalid:border-fail ${className}`}
      onChange={(event) => type(event.target.value)}
      // What was refused is not sent again by leaving it.
      onBlur={() => refused === null && settle()}
      onKeyDown={(event) => {
        if (event.key === "Enter") settle();
        if (event.key === "Escape") reset();
      }}
    />
  );
}
