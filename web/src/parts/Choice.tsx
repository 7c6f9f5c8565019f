import { useAsked } from "@/state/useAsked";

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: { value: T; text: string; hint?: string }[];
  onChange(value: T): unknown;
  stacked?: boolean;
}

/** One of a few, all of them in sight. */
export function Choice<T extends string>({ label, value, options, onChange, stacked }: ChoiceProps<T>) {
  const asked = useAsked(value);
  return (
    <fieldset aria-busy={asked.pending || undefined}>
      <legend className="heading mb-1">{label}</legend>
      <div className={stacked ? "flex flex-col gap-1" : "flex"}>
        {options.map((option) => (
          <label
            key={option.value}
            data-pending={(asked.pending && asked.value === option.value) || undefined}
            className={
              stacked
                ? "flex cursor-pointer items-baseline gap-2"
                : "cursor-pointer border border-r-0 border-firm px-2.5 py-1 first:rounded-l last:rounded-r last:border-r has-checked:bg-tint has-checked:font-semibold has-checked:text-chosen has-focus-visible:outline-2 has-focus-visible:outline-chosen"
            }
          >
            <input
              type="radio"
              name={label}
              className={stacked ? "accent-chosen" : "sr-only"}
              checked={asked.value === option.value}
              onChange={() => asked.ask(option.value, () => onChange(option.value))}
            />
            <span>
              {option.text}
              {option.hint && <span className="block text-sm text-soft">{option.hint}</span>}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
