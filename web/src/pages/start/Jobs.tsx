import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import { Check, Input } from "@/entry/Entry";
import { NoAnswer } from "@/parts/NoAnswer";
import { tell, useDesigns } from "@/state/design";
import { type JobLine, useJobs } from "@/state/job";
import { goTo } from "@/state/route";
import { cuttable } from "@/state/versions";

const PAGE = 50;
const DAY = { day: "numeric", month: "long", year: "numeric" } as const;

/** Jobs: several designs, or many copies, cut together. */
export function Jobs() {
  const [words, setWords] = useState("");
  const [most, setMost] = useState(PAGE);
  const jobs = useJobs(words.trim(), most);
  const lines = jobs.data?.lines ?? [];
  const total = jobs.data?.total ?? 0;
  const [choosing, setChoosing] = useState(false);
  return (
    <section aria-labelledby="jobs" className="mt-9">
      <div className="mb-2 flex items-baseline gap-4">
        <h2 id="jobs" className="text-lg font-semibold">
          Jobs
        </h2>
        {(total > 0 || words !== "") && (
          <Input
            type="search"
            aria-label="Search jobs"
            placeholder="Search"
            value={words}
            maxLength={200}
            className="w-40 border-b-2 bg-transparent py-0.5 focus:border-chosen"
            onChange={(event) => {
              setWords(event.target.value);
              setMost(PAGE);
            }}
          />
        )}
        <button type="button" className="act text-sm" onClick={() => setChoosing(!choosing)}>
          {choosing ? "Cancel" : "Cut designs together"}
        </button>
      </div>
      {choosing && <NewJob onDone={() => setChoosing(false)} />}
      <NoAnswer asked={jobs}>The jobs cannot be shown</NoAnswer>
      <ul className="border-t border-line">
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </ul>
      {total > lines.length && (
        <p className="mt-2 flex items-baseline gap-3 text-soft">
          {lines.length} of {total} jobs
          <button type="button" className="act text-sm" onClick={() => setMost(most + PAGE)}>
            Show more
          </button>
        </p>
      )}
      {jobs.data && total === 0 && words.trim() === "" && (
        <p className="mt-1 text-soft">None yet. A job cuts several designs, or many copies, from the same film.</p>
      )}
      {jobs.data && total === 0 && words.trim() !== "" && (
        <p className="mt-1 text-soft">No job has all of these words in its name.</p>
      )}
    </section>
  );
}

function Line({ line }: { line: JobLine }) {
  // The sheets of one design are a place of that design.
  const path = line.own_of ? `/design/${line.own_of}/sheets` : `/job/${line.id}`;
  const order = [line.whom && `for ${line.whom}`, line.due && `by ${new Date(line.due).toLocaleDateString([], DAY)}`];
  const told = [line.own_of && "sheets of one design", ...order].filter(Boolean).join(", ");
  return (
    <li className="border-b border-line">
      <a
        href={path}
        className="flex flex-wrap items-baseline gap-x-3 px-1 py-1.5 hover:bg-bench"
        onClick={(event) => {
          if (event.metaKey || event.ctrlKey) return;
          event.preventDefault();
          goTo(path);
        }}
      >
        <span className="min-w-0 truncate font-semibold">{line.name}</span>
        <span className="measure ml-auto shrink-0 text-sm text-soft">
          {line.cut && "cut · "}
          {line.copies === 1 ? "one copy" : `${line.copies} copies`}
          {line.designs > 1 && ` of ${line.designs} designs`}
        </span>
        {told && <span className="w-full min-w-0 truncate text-sm text-soft">{told}</span>}
      </a>
    </li>
  );
}

function NewJob({ onDone }: { onDone(): void }) {
  const designs = useDesigns();
  const client = useQueryClient();
  const all = cuttable(designs.data ?? []);
  const [chosen, setChosen] = useState<string[]>([]);
  const begin = useMutation({
    mutationFn: () => {
      const first = all.find((line) => line.id === chosen[0])?.name ?? "Job";
      const name = chosen.length > 1 ? `${first.slice(0, 90)} and ${chosen.length - 1} more` : first;
      const body = { name, designs: chosen.map((design) => ({ design, copies: 1 })), layout: "nested" as const };
      return expectData(api.POST("/api/jobs", { body }));
    },
    onSuccess: (job) => {
      void client.invalidateQueries({ queryKey: ["jobs"] });
      onDone();
      goTo(`/job/${job.id}`);
    },
    onError: tell,
  });
  return (
    <div className="mb-3 rounded-lg border border-line bg-paper p-3">
      <p className="mb-2 text-soft">Tick what is to be cut together; copies are set on the bench.</p>
      <ul className="max-h-44 overflow-y-auto">
        {all.map((line) => (
          <li key={line.id}>
            <label className="flex items-center gap-2 py-0.5">
              <Check
                className="h-4 w-4"
                checked={chosen.includes(line.id)}
                onChange={(event) =>
                  setChosen(event.target.checked ? [...chosen, line.id] : chosen.filter((id) => id !== line.id))
                }
              />
              <span className="truncate">{line.name}</span>
            </label>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="act-main mt-3"
        disabled={chosen.length === 0 || begin.isPending}
        onClick={() => begin.mutate()}
      >
        Lay them on film
      </button>
    </div>
  );
}
