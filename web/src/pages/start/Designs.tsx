import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import { Input, Select } from "@/entry/Entry";
import { CardGrid } from "@/pages/start/CardGrid";
import { Picture } from "@/pages/start/DesignCard";
import { NoAnswer } from "@/parts/NoAnswer";
import { tell, useDesigns } from "@/state/design";
import { sought, useBin, useListActs } from "@/state/list";
import { goToDesign } from "@/state/route";

/** All designs, to be looked through; and what is in the bin. */
export function Designs() {
  const designs = useDesigns();
  const [words, setWords] = useState("");
  const [tag, setTag] = useState<string | null>(null);
  const [order, setOrder] = useState<"changed" | "name">("changed");
  const [binOpen, setBinOpen] = useState(false);
  const lines = designs.data ?? [];
  const tags = [...new Set(lines.flatMap((line) => line.tags))].sort((a, b) => a.localeCompare(b));
  const wanted = tag !== null && tags.includes(tag) ? tag : null;
  const found = sought(lines, words, wanted, order);
  return (
    <section aria-labelledby="designs">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 id="designs" className="text-lg font-semibold">
          Designs
        </h2>
        {lines.length > 0 && (
          <>
            <Input
              type="search"
              aria-label="Search designs"
              placeholder="Search"
              value={words}
              className="w-40 border-b-2 bg-transparent py-0.5 focus:border-chosen"
              onChange={(event) => setWords(event.target.value)}
            />
            <Select
              aria-label="Order"
              value={order}
              className="py-0.5"
              onChange={(event) => setOrder(event.target.value as typeof order)}
            >
              <option value="changed">last changed first</option>
              <option value="name">by name</option>
            </Select>
          </>
        )}
        <button
          type="button"
          className="quiet ml-auto text-sm"
          aria-expanded={binOpen}
          onClick={() => setBinOpen(!binOpen)}
        >
          {binOpen ? "Close the bin" : "Bin"}
        </button>
      </div>
      {binOpen && <Bin />}
      {tags.length > 0 && (
        <fieldset aria-label="Tags" className="mb-3 flex flex-wrap gap-1.5">
          {tags.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === wanted}
              className="rounded-full border border-firm px-2.5 py-0.5 text-sm aria-pressed:border-chosen aria-pressed:bg-tint aria-pressed:font-semibold aria-pressed:text-chosen"
              onClick={() => setTag(one === wanted ? null : one)}
            >
              {one}
            </button>
          ))}
        </fieldset>
      )}
      {designs.data?.length === 0 && <Examples />}
      {lines.length > 0 && found.length === 0 && (
        <p className="text-soft">
          No design has all of these words in its name or tags.{" "}
          <button
            type="button"
            className="quiet"
            onClick={() => {
              setWords("");
              setTag(null);
            }}
          >
            Show all
          </button>
        </p>
      )}
      {designs.isPending && <p className="text-soft">The designs are being fetched…</p>}
      <CardGrid lines={found} />
      <NoAnswer asked={designs}>The designs cannot be shown</NoAnswer>
    </section>
  );
}

/** What was deleted in the last 30 days. */
function Bin() {
  const bin = useBin();
  const { restore } = useListActs();
  return (
    <section aria-label="Bin" className="mb-5 rounded-lg border border-line bg-paper p-4">
      <p className="text-soft">
        {bin.data?.length === 0
          ? "The bin is empty. What you delete stays here for 30 days."
          : "What you deleted stays here for 30 days."}
      </p>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
        {bin.data?.map((line) => (
          <li key={line.id} className="overflow-hidden rounded-lg border border-line">
            <Picture line={line} />
            <p className="truncate px-2 pt-1 font-semibold">{line.name}</p>
            <button type="button" className="act m-2 text-sm" onClick={() => restore(line)}>
              Put back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const EXAMPLES = [
  { key: "picture", text: "A picture becomes a sticker" },
  { key: "lettering", text: "One word laid over another" },
  { key: "colouring-page", text: "A colouring page gets its colours" },
] as const;

/** What a first page without designs shows: what there is to do here, and three examples to open. */
function Examples() {
  const client = useQueryClient();
  const open = useMutation({
    mutationFn: (example: (typeof EXAMPLES)[number]["key"]) =>
      expectData(api.POST("/api/examples/{example}", { params: { path: { example } } })),
    onSuccess: ({ id }) => {
      void client.invalidateQueries({ queryKey: ["designs"] });
      goToDesign(id);
    },
    onError: tell,
  });
  return (
    <>
      <p className="mb-3 text-soft">
        Drop a picture on this page and each of its colours becomes a film to cut. Or open an example first:
      </p>
      <ul className="grid grid-cols-3 gap-4">
        {EXAMPLES.map(({ key, text }) => (
          <li key={key}>
            <button
              type="button"
              disabled={open.isPending}
              className="block w-full overflow-hidden rounded-lg border border-line bg-paper text-left hover:border-firm"
              onClick={() => open.mutate(key)}
            >
              <img src={`/examples/${key}.png`} alt="" className="h-36 w-full bg-table object-contain p-3" />
              <span className="block border-t border-line px-3 py-2 font-semibold">{text}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
