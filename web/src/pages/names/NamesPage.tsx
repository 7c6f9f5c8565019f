import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, expectData, formOf, sent } from "@/api/client";
import type { components } from "@/api/schema";
import { Check, Input, Select } from "@/entry/Entry";
import { showLength } from "@/geometry/lengths";
import { Readings } from "@/pages/names/Readings";
import { FilePicker } from "@/parts/FilePicker";
import { More, MoreItem, UnitItem } from "@/parts/More";
import { SelectField } from "@/parts/SelectField";
import { Home } from "@/parts/TopBar";
import { useHanded } from "@/state/arrival";
import { tell, useDesigns } from "@/state/design";
import { goTo, goToDesign } from "@/state/route";
import { useBenchUnit } from "@/state/units";

type Schemas = components["schemas"];
type NamesRow = Schemas["NamesRowView"];
type Fit = NamesRow["fit"];
type Reading = Schemas["ReadingView"];
type Mended = Schemas["MendedRow"];

const FITS: { value: Fit; text: string }[] = [
  { value: "narrower", text: "made narrower" },
  { value: "smaller", text: "made smaller" },
  { value: "two-lines", text: "set in two lines" },
  { value: "as-is", text: "left as they are" },
  { value: "alike", text: "all as tall as each other" },
];
const REST_MS = 350;

/** A list of names for a design: pasted or loaded, every row looked at, those that do not fit mended. */
export function NamesPage({ id }: { id: string }) {
  const designs = useDesigns();
  const client = useQueryClient();
  const { unit, measureIn } = useBenchUnit();
  const [text, setText] = useState("");
  const [readings, setReadings] = useState<Reading[]>([]);
  const [fit, setFit] = useState<Fit | null>(null);
  const [mended, setMended] = useState<Record<number, Mended>>({});
  const wanted = useRested({ text, fit, mended });
  const list = useQuery({
    queryKey: ["names", id, wanted],
    queryFn: () =>
      expectData(api.POST("/api/designs/{design}/names", { params: { path: { design: id } }, body: wanted })),
    enabled: wanted.text.trim() !== "",
    placeholderData: (before) => before,
    retry: false,
  });
  const load = useMutation({
    mutationFn: (file: File) =>
      expectData(api.POST("/api/lists", { body: { file: sent(file) }, bodySerializer: formOf })),
    onSuccess: (found) => {
      setMended({});
      setReadings(found.readings);
      setText(found.readings[0]?.text ?? "");
    },
    onError: tell,
  });
  const handed = useHanded((state) => state.list);
  const takeIn = load.mutate;
  useEffect(() => {
    if (!handed) return;
    useHanded.getState().hand(null);
    takeIn(handed);
  }, [handed, takeIn]);
  const lay = useMutation({
    mutationFn: () =>
      expectData(api.POST("/api/designs/{design}/names/job", { params: { path: { design: id } }, body: wanted })),
    onSuccess: (job) => {
      void client.invalidateQueries({ queryKey: ["jobs"] });
      goTo(`/job/${job.id}`);
    },
    onError: tell,
  });
  const rows = text.trim() ? (list.data?.rows ?? []) : [];
  const looks = useLooks(id, rows);
  const tall = [...new Set(rows.flatMap((row) => Object.values(row.capitals_mm)))];
  const wrong = rows.filter((row) => row.problem && !row.left_out);
  const good = rows.filter((row) => !row.left_out && row.problem !== "empty" && row.problem !== "glyph");
  const mend = (row: number, more: Mended) => setMended((now) => ({ ...now, [row]: { ...now[row], ...more } }));
  const name = designs.data?.find((line) => line.id === id)?.name ?? "";
  return (
    <main className="desk">
      <header>
        <Home />
        <h1 className="min-w-0 flex-1 truncate text-[1.0625rem] font-semibold">Names for {name}</h1>
        <button type="button" className="act" onClick={() => goToDesign(id)}>
          Back to the design
        </button>
        <More>
          <UnitItem unit={unit} onUnit={measureIn} />
          <MoreItem onDo={() => goTo("/help")}>Help</MoreItem>
        </More>
      </header>
      <div className="desk-panel flex flex-col gap-3 px-4 pt-3 pb-6">
        <label className="flex flex-col gap-1">
          <span className="heading">The list: a name on each line, or a table with a header</span>
          <textarea
            className="h-56 rounded border border-firm bg-table px-2 py-1.5"
            placeholder={"Halloran\nÅsa\nMirela"}
            value={text}
            onChange={(event) => {
              setMended({});
              setText(event.target.value);
            }}
          />
        </label>
        <p className="text-sm text-soft">
          Numbers count by themselves: 1..50 makes fifty. A line that has nothing to show is left out of that decal.
        </p>
        <FilePicker
          label="List of names"
          accept=".csv,.tsv,.txt,text/csv,text/plain"
          className="act self-start"
          onFile={load.mutate}
        >
          Load a file
        </FilePicker>
        {readings.length > 1 && readings.some((reading) => reading.text === text) && (
          <Readings readings={readings} text={text} onChoose={setText} />
        )}
        <SelectField
          label="Long names"
          value={fit ?? list.data?.fit ?? "narrower"}
          options={FITS}
          onChange={(next) => setFit(next)}
        />
        {list.error && <p className="rounded bg-failtint px-3 py-1.5 text-failink">{list.error.message}</p>}
        {rows.length > 0 && (
          <p aria-live="polite">
            <strong className="font-semibold">{good.length}</strong> of {rows.length} names can be cut
            {wrong.length > 0 && `; ${wrong.length} to look at`}.
          </p>
        )}
        {tall.length > 0 && (
          <p className="measure">
            Capitals are {tall.map((mm) => showLength(mm, unit)).join(" and ")} tall in every name.
          </p>
        )}
        {rows.length > 0 && (
          <p className="measure text-sm text-soft">
            {looks.made < looks.all ? (
              <>
                {looks.made} of {looks.all} drawn{" "}
                <button type="button" className="quiet" onClick={looks.toggle}>
                  {looks.held ? "go on" : "stop"}
                </button>
              </>
            ) : (
              "All are drawn."
            )}
          </p>
        )}
        {good.length > 0 && (
          <button
            type="button"
            className="act-main self-start"
            disabled={lay.isPending || list.isFetching}
            onClick={() => lay.mutate()}
          >
            {lay.isPending ? "Laying…" : `Lay ${good.length} ${good.length === 1 ? "name" : "names"} on film`}
          </button>
        )}
        <p className="text-sm text-soft">
          A column “copies” says how many of each. Every name is cut by itself, in a box of its own to weed by.
        </p>
      </div>
      <section aria-label="Every name" className="desk-stage block! overflow-y-auto bg-bench p-4">
        {rows.length === 0 ? (
          <p className="mt-24 text-center text-soft">
            Paste the names on the left: each is shown here as it will be cut.
          </p>
        ) : (
          <ol className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-3">
            {[...wrong, ...rows.filter((row) => !wrong.includes(row))].map((row) => (
              <Card
                key={row.number}
                row={row}
                look={looks.of(row)}
                unit={unit}
                onMend={(more) => mend(row.number, more)}
              />
            ))}
          </ol>
        )}
      </section>
    </main>
  );
}

interface CardProps {
  row: NamesRow;
  look: string | undefined;
  unit: "mm" | "in";
  onMend(more: Mended): void;
}

function Card({ row, look, unit, onMend }: CardProps) {
  const wrong = Boolean(row.problem) && !row.left_out;
  const put = (field: string, typed: string) => {
    if (typed !== row.values[field]) onMend({ values: { ...row.values, [field]: typed } });
  };
  return (
    <li
      className={`rounded-lg border p-2 ${wrong ? "border-fail bg-failtint" : "border-line bg-table"} ${row.left_out ? "opacity-50" : ""}`}
    >
      <div className="grid h-24 place-content-center overflow-hidden">
        {look ? (
          <img
            alt={`${Object.values(row.values).join(" ")}, as it will be cut`}
            src={look}
            className="max-h-24 max-w-full"
          />
        ) : (
          <span className="text-sm text-soft">{row.problem === "empty" ? "" : "…"}</span>
        )}
      </div>
      {Object.entries(row.values).map(([field, value]) => (
        <Input
          key={field}
          aria-label={`${field} in row ${row.number + 1}`}
          className="mt-1 w-full bg-paper py-0.5"
          defaultValue={value}
          onBlur={(event) => put(field, event.target.value.trim())}
          onKeyDown={(event) => event.key === "Enter" && put(field, event.currentTarget.value.trim())}
        />
      ))}
      {row.told && !row.left_out && (
        <p className={`mt-1 text-sm ${wrong ? "text-failink" : "text-soft"}`}>{row.told}</p>
      )}
      <p className="measure mt-1 flex items-center justify-between gap-2 text-sm text-soft">
        <span className="whitespace-nowrap">
          {row.number + 1}
          {row.copies > 1 && ` · ${row.copies} ×`}
          {row.problem !== "empty" && ` · ${showLength(row.width_mm, unit)}`}
        </span>
        <label className="flex items-center gap-1.5 whitespace-nowrap">
          <Check checked={row.left_out} onChange={(event) => onMend({ left_out: event.target.checked })} />
          Leave out
        </label>
      </p>
      <Select
        aria-label={`If row ${row.number + 1} is too long`}
        className="mt-1 w-full text-sm"
        value={row.fit}
        onChange={(event) => onMend({ fit: event.target.value as Fit })}
      >
        {FITS.map((one) => (
          <option key={one.value} value={one.value}>
            {one.text}
          </option>
        ))}
      </Select>
    </li>
  );
}

/** What is typed, once it has rested for a moment. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const timer = window.setTimeout(() => setRested(JSON.parse(text)), REST_MS);
    return () => window.clearTimeout(timer);
  }, [text]);
  return rested;
}

/** Pictures of all rows, two at a time, and stopped at will; a row drawn before is not drawn again. */
function useLooks(design: string, rows: NamesRow[]) {
  const [made, setMade] = useState<Record<string, string>>({});
  const [held, setHeld] = useState(false);
  const keyOf = (row: NamesRow) => JSON.stringify([row.values, row.fit, row.capitals_mm]);
  const open = rows.filter((row) => row.problem !== "empty");
  const missing = open.filter((row) => made[keyOf(row)] === undefined);
  const wanted = open.map(keyOf).join("\n");
  // biome-ignore lint/correctness/useExhaustiveDependencies: it begins anew when other rows are wanted, not with each picture
  useEffect(() => {
    if (held || !missing.length) return;
    const stop = new AbortController();
    const waiting = [...missing];
    const work = async (lane: number) => {
      for (let row = waiting.shift(); row && !stop.signal.aborted; row = waiting.shift()) {
        const body = { values: row.values, fit: row.fit, capitals_mm: row.capitals_mm, nth: lane };
        const params = { path: { design } };
        const got = await api
          .POST("/api/designs/{design}/names/look", { params, body, parseAs: "text", signal: stop.signal })
          .catch(() => null);
        if (stop.signal.aborted) return;
        const svg = typeof got?.data === "string" ? got.data : "";
        const key = keyOf(row);
        setMade((now) => ({ ...now, [key]: svg && `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}` }));
      }
    };
    void Promise.all([work(0), work(1)]);
    return () => stop.abort();
  }, [design, held, wanted]);
  return {
    made: open.length - missing.length,
    all: open.length,
    held,
    toggle: () => setHeld(!held),
    of: (row: NamesRow) => made[keyOf(row)] || undefined,
  };
}
