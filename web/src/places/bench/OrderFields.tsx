import { Input } from "@/entry/Entry";
import { Fold } from "@/parts/Fold";
import type { JobPanelProps } from "@/places/bench/JobPanel";
import type { Job } from "@/state/job";

type Order = NonNullable<Job["order"]>;

/** For whom a job is, by when, and what else is to be known; it stands on the job's papers. */
export function OrderFields({ job, change }: Omit<JobPanelProps, "plan">) {
  const { order } = job.job;
  const set = (changes: Partial<Order>) =>
    change({ do: "edit", edit: (now) => ({ kind: "set-job", order: { ...now.job.order, ...changes } }) });
  return (
    <Fold title="For whom" figure={[order.whom, order.due].filter(Boolean).join(", ")} open={false}>
      <label className="block">
        <span className="heading block">Name</span>
        <Input
          key={order.whom}
          className="w-full"
          maxLength={120}
          defaultValue={order.whom}
          onBlur={(event) => event.target.value !== order.whom && set({ whom: event.target.value })}
        />
      </label>
      <label className="block">
        <span className="heading block">Wanted by</span>
        <Input
          type="date"
          key={order.due}
          className="measure"
          defaultValue={order.due ?? ""}
          onBlur={(event) => event.target.value !== (order.due ?? "") && set({ due: event.target.value || null })}
        />
      </label>
      <label className="block">
        <span className="heading block">Note</span>
        <textarea
          key={order.note}
          rows={2}
          maxLength={2000}
          className="w-full rounded border border-firm bg-table px-2 py-1"
          defaultValue={order.note}
          onBlur={(event) => event.target.value !== order.note && set({ note: event.target.value })}
        />
      </label>
    </Fold>
  );
}
