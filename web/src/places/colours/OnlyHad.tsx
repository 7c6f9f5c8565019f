import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { api, expectData } from "@/api/client";
import { Panel } from "@/parts/Panel";
import { useEdit, useOpenDesign } from "@/state/design";

/** All colours of a picture reduced to films of the shelf in one step, with what changes shown before. */
export function OnlyHad({ art }: { art: string }) {
  return (
    <Panel label="Take only films I have" trigger="Only films I have" triggerClass="act text-sm" width="w-80">
      <Proposed art={art} />
    </Panel>
  );
}

function Proposed({ art }: { art: string }) {
  const { id, revision } = useOpenDesign();
  const edit = useEdit();
  const had = useQuery({
    queryKey: ["had", id, revision, art],
    queryFn: () =>
      expectData(api.GET("/api/designs/{design}/arts/{art}/had", { params: { path: { design: id, art } } })),
    retry: false,
  });
  if (had.isError) return <p className="text-fail">{had.error.message}</p>;
  if (!had.data) return <p className="text-soft">Looking along the shelf…</p>;
  const { films, edit: step } = had.data;
  if (!step) return <p className="text-soft">The shelf has no film for this use. Put some on it first.</p>;
  const names = new Map(films.map((one) => [one.film, one.material_name]));
  const kept = films.filter((one) => !one.into).length;
  return (
    <>
      <ul className="mb-3 flex flex-col gap-1.5">
        {films.map((one) => (
          <li key={one.film} className="grid grid-cols-[28px_14px_28px_1fr] items-center gap-1.5 text-sm">
            <span className="h-6 rounded-sm border border-firm" style={{ background: one.colour }} />
            <span aria-hidden className="text-center text-soft">
              →
            </span>
            <span className="h-6 rounded-sm border border-firm" style={{ background: one.material_colour }} />
            <span className="min-w-0">
              <span className="block truncate">
                {one.name}: {one.material_name}
              </span>
              <span className="measure block text-soft">
                {one.into
                  ? `one film with ${names.get(one.into)}`
                  : one.delta_e < 1
                    ? "exact match"
                    : `${one.delta_e.toFixed(0)} off in colour`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <Popover.Close className="act-main" onClick={() => edit(step)}>
        {kept === 1 ? "Take this film" : `Take these ${kept} films`}
      </Popover.Close>
    </>
  );
}
