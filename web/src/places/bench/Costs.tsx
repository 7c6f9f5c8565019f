import { Check } from "@/entry/Entry";
import { Fold } from "@/parts/Fold";
import { NumberField } from "@/parts/NumberField";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import type { JobEdit } from "@/state/job";
import { goTo } from "@/state/route";

/** What a job costs, line by line, and what to ask for it. */
export function Costs({ job, plan, change }: JobPanelProps) {
  const edit = (made: JobEdit) => change({ do: "edit", edit: made });
  const costs = plan?.costs;
  if (!costs) return null;
  const money = (amount: number) => `${amount.toFixed(2)} ${costs.currency}`.trim();
  return (
    <Fold title="What it costs" figure={money(costs.price)} open={false}>
      <table className="measure w-full text-sm">
        <tbody>
          {costs.lines.map((line) => (
            <tr key={line.what}>
              <td>{line.what}</td>
              <td className="text-soft">{line.said}</td>
              <td className="text-right">{money(line.amount)}</td>
            </tr>
          ))}
          <tr className="border-t border-line">
            <td colSpan={2}>In all</td>
            <td className="text-right">{money(costs.total)}</td>
          </tr>
          <tr className="font-semibold">
            <td colSpan={2}>Price, with the margin</td>
            <td className="text-right">{money(costs.price)}</td>
          </tr>
          {costs.count > 1 && (
            <tr>
              <td colSpan={2}>Each of {costs.count}</td>
              <td className="text-right">{money(costs.each)}</td>
            </tr>
          )}
          {costs.alone !== null && (
            <tr>
              <td colSpan={2}>One made by itself</td>
              <td className="text-right">{money(costs.alone)}</td>
            </tr>
          )}
        </tbody>
      </table>
      <div className="flex items-end gap-3">
        <NumberField
          label="Minutes by hand"
          value={Math.round(costs.hand_min)}
          places={0}
          onCommit={(hand_min) => edit({ kind: "set-job", hand_min })}
        />
        <span className="text-sm text-soft">
          About {Math.round(costs.model_min)} min: {costs.model}.
        </span>
      </div>
      <label className="flex items-center gap-2">
        <Check
          className="h-4 w-4"
          checked={job.job.priced}
          onChange={(event) => edit({ kind: "set-job", priced: event.target.checked })}
        />
        The price on the job sheet
      </label>
      <p className="text-sm text-soft">
        What an hour, tape and blanks cost is set on{" "}
        <button type="button" className="quiet" onClick={() => goTo("/shelf")}>
          the shelf
        </button>
        , under Rates.
      </p>
    </Fold>
  );
}
