import { Select } from "@/entry/Entry";
import { useAsked } from "@/state/useAsked";

interface SelectFieldProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange(value: T): unknown;
  /** Whether its name stands over it, rather than beside it. */
  over?: boolean;
}

/** One of several, with its name. */
export function SelectField<T extends string>({ label, value, options, onChange, over = false }: SelectFieldProps<T>) {
  const asked = useAsked(value);
  return (
    <label className={over ? "inline-flex min-w-0 flex-col" : "grid grid-cols-[84px_1fr] items-center gap-2"}>
      <span className="heading">{label}</span>
      <Select
        value={asked.value}
        aria-busy={asked.pending || undefined}
        onChange={(event) => {
          const next = event.target.value as T;
          asked.ask(next, () => onChange(next));
        }}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </Select>
    </label>
  );
}
