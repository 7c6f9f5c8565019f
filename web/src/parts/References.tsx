import { Check } from "@/entry/Entry";
import { Panel } from "@/parts/Panel";

interface ReferencesProps {
  label: string;
  /** What it means that none is chosen. */
  none: string;
  refs: string[];
  options: { key: string; text: string; colour?: string }[];
  onRefs(refs: string[]): unknown;
}

/** Any number of films or pieces of art, ticked in a panel. */
export function References({ label, none, refs, options, onRefs }: ReferencesProps) {
  const chosen = options.filter((option) => refs.includes(option.key));
  const told = chosen.map((option) => option.text).join(", ") || none;
  return (
    <Panel
      label={`${label}: ${told}`}
      trigger={<span className="truncate">{told}</span>}
      triggerClass="flex min-w-0 items-center rounded border border-firm bg-table px-2 py-1 text-left hover:border-ink"
    >
      <p className="mb-1 font-semibold">{label}</p>
      {options.map((option) => (
        <label key={option.key} className="flex cursor-pointer items-center gap-2 rounded px-1 py-1 hover:bg-bench">
          <Check
            checked={refs.includes(option.key)}
            onChange={(event) =>
              onRefs(event.target.checked ? [...refs, option.key] : refs.filter((ref) => ref !== option.key))
            }
          />
          {option.colour && (
            <span className="h-5 w-5 shrink-0 rounded-sm border border-firm" style={{ background: option.colour }} />
          )}
          <span className="truncate">{option.text}</span>
        </label>
      ))}
      <p className="mt-1 text-sm text-soft">None ticked: {none}.</p>
    </Panel>
  );
}
