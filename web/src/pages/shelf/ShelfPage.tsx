import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { toast } from "sonner";
import { readFilms } from "@/api/client";
import { Check, Input } from "@/entry/Entry";
import { editLength, soldLength, soldSize, type Unit } from "@/geometry/lengths";
import { Cutters } from "@/pages/shelf/Cutters";
import { FilmForm } from "@/pages/shelf/FilmForm";
import { RatesForm } from "@/pages/shelf/RatesForm";
import { BackToDesign } from "@/parts/BackToDesign";
import { FilePicker } from "@/parts/FilePicker";
import { More, MoreFile, MoreItem, UnitItem } from "@/parts/More";
import { NoAnswer } from "@/parts/NoAnswer";
import { Home } from "@/parts/TopBar";
import { tell, useUnit } from "@/state/design";
import { type Material, type Shelf, type Stock, useShelf } from "@/state/job";
import { goTo } from "@/state/route";
import { useBenchUnit } from "@/state/units";

type ShelfFilm = Shelf["films"][number];

/** The shelf: every film as a swatch in its finish, with what is left of it. */
export function ShelfPage() {
  const { unit, measureIn } = useBenchUnit();
  const [search, setSearch] = useState("");
  const [open, setOpen] = useState<string | null>(null);
  const [retired, setRetired] = useState(false);
  const shelf = useShelf(useDeferredValue(search.trim()));
  const client = useQueryClient();
  const renew = () => client.invalidateQueries({ queryKey: ["shelf"] });
  const bring = useMutation({
    mutationFn: readFilms,
    onSuccess: (answer) => {
      toast.success(`The shelf has ${answer.total} films now.`);
      void renew();
    },
    onError: tell,
  });
  const films = shelf.data?.films.filter((one) => retired || !one.material.retired) ?? [];
  return (
    <main className="grid h-full grid-rows-[auto_1fr] narrow:block narrow:overflow-y-auto">
      <title>Shelf of films · Glad Stack</title>
      <header className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line bg-paper px-4 whitespace-nowrap narrow:py-2">
        <Home />
        <h1 className="text-[1.0625rem] font-semibold">Shelf of films</h1>
        <BackToDesign />
        <Input
          type="search"
          aria-label="Search the shelf"
          placeholder="Search by name, kind or colour"
          className="w-72 min-w-24 shrink"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <span className="measure text-sm text-soft">
          {shelf.data && (films.length === 1 ? "1 film" : `${films.length} films`)}
        </span>
        <label className="ml-auto flex items-center gap-1.5 text-sm">
          <Check className="h-4 w-4" checked={retired} onChange={(event) => setRetired(event.target.checked)} />
          Show retired
        </label>
        <FilePicker label="CSV of films" accept=".csv,text/csv" className="act" onFile={bring.mutate}>
          Read a CSV
        </FilePicker>
        <button type="button" className="act" onClick={() => setOpen("rates")}>
          Rates
        </button>
        <button type="button" className="act-main py-1!" onClick={() => setOpen("new")}>
          New film
        </button>
        <More>
          <UnitItem unit={unit} onUnit={measureIn} />
          <MoreFile href="/api/shelf.csv">Download as CSV</MoreFile>
          <MoreItem onDo={() => goTo("/help")}>Help</MoreItem>
        </More>
      </header>
      <div className="overflow-y-auto px-8 py-5 narrow:px-4">
        {open === "rates" && <RatesForm onDone={() => setOpen(null)} />}
        {open === "new" && <FilmForm film={null} onDone={() => setOpen(null)} onSaved={renew} />}
        <NoAnswer asked={shelf}>The shelf cannot be shown</NoAnswer>
        {shelf.data && films.length === 0 && (
          <p className="mt-12 text-center text-soft">
            {search ? "No film matches that." : "The shelf is empty. Add the films you have, or read them from a CSV."}
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(330px,100%),1fr))] gap-x-8 gap-y-1">
          {films.map((one) => (
            <FilmLine
              key={one.material.id}
              film={one}
              open={open === one.material.id}
              onOpen={(opened) => setOpen(opened ? one.material.id : null)}
              onSaved={renew}
            />
          ))}
        </ul>
        {shelf.data && <Cutters cutters={shelf.data.cutters} onSaved={renew} />}
      </div>
    </main>
  );
}

interface FilmLineProps {
  film: ShelfFilm;
  open: boolean;
  onOpen(open: boolean): void;
  onSaved(): unknown;
}

function FilmLine({ film, open, onOpen, onSaved }: FilmLineProps) {
  const { material, pieces } = film;
  const kind = useShelf().data?.kinds.find((one) => one.kind === material.kind);
  return (
    <li className={open ? "col-span-full" : ""}>
      <button
        type="button"
        aria-expanded={open}
        className="grid w-full grid-cols-[72px_1fr] gap-3 border-b border-line py-2 text-left hover:bg-paper"
        onClick={() => onOpen(!open)}
      >
        <Swatch material={material} />
        <span className="min-w-0">
          <span className="block truncate font-semibold">
            {material.name}
            {material.retired && <span className="font-normal text-soft"> (retired)</span>}
          </span>
          <span className="block text-sm text-soft">
            {kind?.says}
            {material.face === "back" && ", cut mirrored"}
          </span>
          {kind?.in_pieces === false ? (
            <span className="measure block text-sm">draws {editLength(Number(material.line_mm), "mm")} wide</span>
          ) : (
            <Stocks pieces={pieces} />
          )}
        </span>
      </button>
      {open && <FilmForm film={material} pieces={pieces} onDone={() => onOpen(false)} onSaved={onSaved} />}
    </li>
  );
}

/** What is left: rolls by their length, sheets by number, offcuts drawn to scale. */
function Stocks({ pieces }: { pieces: Stock[] }) {
  const unit = useUnit();
  const rolls = pieces.filter((piece) => piece.kind === "roll");
  const sheets = pieces.filter((piece) => piece.kind === "sheet");
  const offcuts = pieces.filter((piece) => piece.kind === "offcut");
  if (pieces.length === 0) return <span className="block text-sm text-fail">none left</span>;
  return (
    <span className="measure mt-0.5 flex flex-wrap items-end gap-x-3 gap-y-1 text-sm">
      {rolls.map((piece) => (
        <span key={piece.id}>
          {rollText(piece.left, unit)} of {soldLength(piece.width_mm, unit)}
        </span>
      ))}
      {sheets.map((piece) => (
        <span key={piece.id}>
          {piece.left} of {soldSize(piece.width_mm, piece.length_mm, unit)}
        </span>
      ))}
      {offcuts.map((piece) => (
        <span key={piece.id} className="flex items-end gap-1 text-soft">
          <span
            aria-hidden
            className="inline-block border border-firm bg-bench"
            style={{ width: piece.length_mm / 9, height: piece.width_mm / 9 }}
          />
          {soldSize(piece.width_mm, piece.length_mm, unit)}
        </span>
      ))}
    </span>
  );
}

/** What is left of a roll: metres, or feet. */
function rollText(mm: number, unit: Unit): string {
  return unit === "mm" ? `${(mm / 1000).toFixed(2)} m` : `${(mm / 304.8).toFixed(1)} ft`;
}

const LOOKS: Record<string, string> = {
  matte: "none",
  gloss: "linear-gradient(115deg, #fff9 0 12%, #fff0 34% 66%, #fff6 88%)",
  metallic: "linear-gradient(100deg, #0003, #fff7 30%, #0002 55%, #fff6 80%, #0003)",
  glitter:
    "radial-gradient(circle at 20% 30%, #fffb 0 1.4px, #fff0 2px), radial-gradient(circle at 70% 65%, #fff9 0 1.2px, #fff0 2px)",
  foil: "linear-gradient(60deg, #fff9, #0003 25%, #fffb 45%, #0002 70%, #fff8)",
  flock: "repeating-radial-gradient(circle at 50% 50%, #0002 0 1px, #fff0 1px 3px)",
  patterned: "repeating-linear-gradient(45deg, #fff8 0 5px, #fff0 5px 11px)",
};

/** A film as it looks: its colour, in its finish. */
export function Swatch({ material }: { material: Material }) {
  return (
    <span
      aria-hidden
      className="h-12 w-18 rounded-sm border border-firm"
      style={{
        backgroundColor: material.colour,
        backgroundImage: LOOKS[material.finish.kind],
        backgroundSize: material.finish.kind === "glitter" ? "9px 9px" : undefined,
      }}
    />
  );
}
