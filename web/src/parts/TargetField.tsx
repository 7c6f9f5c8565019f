import { NewColour } from "@/parts/FilmField";
import { Panel, PanelItem } from "@/parts/Panel";
import { useOpenDesign } from "@/state/design";
import type { Target } from "@/state/mode";

const WITHOUT: { becomes: Extract<Target, { film: null }>["becomes"]; text: string }[] = [
  { becomes: "open", text: "left open: what lies below shows" },
  { becomes: "hole", text: "a hole through everything" },
  { becomes: "dropped", text: "dropped: not worth cutting" },
  { becomes: "merged", text: "merged with its neighbour" },
  { becomes: "outer", text: "a double line: keep the outer" },
  { becomes: "inner", text: "a double line: keep the inner" },
  { becomes: "middle", text: "a double line: keep its middle" },
  { becomes: "own", text: "as it was" },
];

interface TargetFieldProps {
  label: string;
  target: Target;
  onTarget(target: Target): void;
}

/** What regions are to be: a film of the stack, a new one, or something without one. */
export function TargetField({ label, target, onTarget }: TargetFieldProps) {
  const { built } = useOpenDesign();
  const layer = built.layers.find((candidate) => candidate.film === target.film);
  const colour = layer?.colour ?? (target.film?.startsWith("#") ? target.film : null);
  const text =
    target.film === null ? WITHOUT.find((w) => w.becomes === target.becomes)?.text : (layer?.name ?? target.film);
  return (
    <Panel
      label={`${label}: ${text}`}
      triggerClass="flex min-w-0 flex-1 items-center gap-2 rounded border border-firm bg-table px-2 py-1 text-left hover:border-ink"
      trigger={
        <>
          <Swatch colour={colour} />
          <span className="truncate">{text}</span>
        </>
      }
    >
      <p className="mb-1 font-semibold">{label}</p>
      {[...built.layers].reverse().map((candidate) => (
        <PanelItem
          key={candidate.film}
          current={candidate.film === target.film}
          onSelect={() => onTarget({ film: candidate.film })}
        >
          <Swatch colour={candidate.colour} />
          <span className="truncate">{candidate.name}</span>
        </PanelItem>
      ))}
      <NewColour onColour={(film) => onTarget({ film })} />
      <div className="mt-2 border-t border-line pt-2">
        {WITHOUT.map(({ becomes, text: words }) => (
          <PanelItem
            key={becomes}
            current={target.film === null && target.becomes === becomes}
            onSelect={() => onTarget({ film: null, becomes })}
          >
            <Swatch colour={null} />
            <span>{words}</span>
          </PanelItem>
        ))}
      </div>
    </Panel>
  );
}

function Swatch({ colour }: { colour: string | null }) {
  return (
    <span
      aria-hidden
      className={`h-5 w-5 shrink-0 rounded-sm border ${colour ? "border-firm" : "border-dashed border-ink"}`}
      style={{ background: colour ?? "transparent" }}
    />
  );
}
