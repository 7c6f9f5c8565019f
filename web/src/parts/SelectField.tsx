interface SelectFieldProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange(value: T): unknown;
}

/** One of several, named beside it. */
export function SelectField<T extends string>({ label, value, options, onChange }: SelectFieldProps<T>) {
  return (
    <label className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="heading">{label}</span>
      <select
        className="min-w-0 rounded border border-firm bg-table px-2 py-1"
        value={value}
        onChange={(event) => onChange(event.target.value as T)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    </label>
  );
}
