import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import type { components } from "@/api/schema";
import { Input } from "@/entry/Entry";
import { Amount, Field, Refused } from "@/pages/shelf/Fields";

type Rates = components["schemas"]["Rates-Output"];

/** What the shop's work costs, set once. */
export function RatesForm({ onDone }: { onDone(): void }) {
  const rates = useQuery({ queryKey: ["rates"], queryFn: () => expectData(api.GET("/api/rates")) });
  return rates.data ? <Fields rates={rates.data} onDone={onDone} /> : null;
}

function Fields({ rates, onDone }: { rates: Rates; onDone(): void }) {
  const [draft, setDraft] = useState(rates);
  const client = useQueryClient();
  const set = (changes: Partial<Rates>) => setDraft((now) => ({ ...now, ...changes }));
  const save = useMutation({
    mutationFn: () => expectData(api.PUT("/api/rates", { body: draft })),
    onSuccess: () => {
      for (const stale of [["rates"], ["plan"]]) void client.invalidateQueries({ queryKey: stale });
      onDone();
    },
  });
  return (
    <form
      aria-label="Rates"
      className="mb-4 rounded-lg border border-line bg-paper p-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-5 gap-y-3">
        <Field label="Currency">
          <Input
            className="w-full"
            maxLength={8}
            value={draft.currency}
            onChange={(event) => set({ currency: event.target.value })}
          />
        </Field>
        <Amount label="Cutter, an hour" value={draft.cutter_hour} onChange={(cutter_hour) => set({ cutter_hour })} />
        <Amount label="Work by hand, an hour" value={draft.hand_hour} onChange={(hand_hour) => set({ hand_hour })} />
        <Amount label="Transfer tape, per m²" value={draft.tape_m2} onChange={(tape_m2) => set({ tape_m2 })} />
        <Amount label="What a decal goes on" value={draft.blank} onChange={(blank) => set({ blank })} />
        <Amount label="Margin, %" value={draft.margin_percent} onChange={(margin_percent) => set({ margin_percent })} />
      </div>
      <Refused fault={save.error} />
      <div className="mt-4 flex gap-2">
        <button type="submit" className="act-main" disabled={save.isPending}>
          Save the rates
        </button>
        <button type="button" className="act" onClick={onDone}>
          Close
        </button>
      </div>
    </form>
  );
}
