import { useState } from "react";
import { hasRegions, isRaster, type RegionArt } from "@/api/client";
import { type Laid, type Replacing, replaceSource } from "@/api/sources";
import { readLength } from "@/geometry/lengths";
import { DRAWINGS, FilePicker, PICTURES } from "@/parts/FilePicker";
import { LengthField } from "@/parts/LengthField";
import { Modal } from "@/parts/Modal";
import { NumberField } from "@/parts/NumberField";
import { Standing } from "@/parts/Standing";
import { unread, useChange, useOpenDesign, useUnit } from "@/state/design";
import { middleOf, relaid, useLookAtReplacing, useReplacing } from "@/state/replacing";
import { LaidOver } from "./LaidOver";

/** Asks for another picture or file of the same motif. */
export function ReplaceSource({ art }: { art: RegionArt }) {
  const { id } = useOpenDesign();
  const ask = useReplacing((replacing) => replacing.ask);
  const what = isRaster(art) ? "picture" : "file";
  return (
    <FilePicker
      label={`Replace the ${what} by another`}
      accept={isRaster(art) ? PICTURES : DRAWINGS}
      className="act self-start text-sm"
      onFile={(file) => ask(id, art.id, file)}
    >
      Replace the {what}
    </FilePicker>
  );
}

/** Another source of an art as it would lie on the old one, and what finds its place in it again, before it is taken. */
export function ReplacingSheet() {
  const { id, recipe } = useOpenDesign();
  const { asked, end } = useReplacing();
  const art = asked?.design === id ? recipe.arts.find((one) => one.id === asked.art) : undefined;
  if (!asked || !art || !hasRegions(art)) return null;
  return <Sheet key={`${asked.file.name} ${asked.file.lastModified}`} art={art} file={asked.file} onEnd={end} />;
}

function Sheet({ art, file, onEnd }: { art: RegionArt; file: File; onEnd(): void }) {
  const { id, revision } = useOpenDesign();
  const change = useChange(id);
  const [laid, setLaid] = useState<Laid | null>(null);
  const [taking, setTaking] = useState(false);
  const { data: look, error, isFetching } = useLookAtReplacing(id, revision, art.id, file, laid);
  const take = async () => {
    if (!look) return;
    setTaking(true);
    const made = await change({
      do: "send",
      send: (base, signal) => replaceSource(id, base, look.edit, file, signal),
    });
    setTaking(false);
    if (made) onEnd();
  };
  return (
    <Modal title={`Replace ${art.filename || "this art"} by ${file.name}`} onClose={onEnd} width="w-[46rem]">
      {error && (
        <div role="alert">
          <p>{error.message}</p>
          {"remedy" in error && <p className="text-soft">{String(error.remedy)}</p>}
        </div>
      )}
      {!look && !error && (
        <p role="status" className="text-soft">
          <Standing text="Laying it on the old one…" />
        </p>
      )}
      {look && (
        <div className="grid gap-4 sm:grid-cols-[1fr_17rem]">
          <figure className="min-w-0">
            <LaidOver
              look={look.look}
              name={file.name}
              coming={isFetching}
              onMove={(by) => setLaid(relaid(look, { x_mm: by.x, y_mm: by.y }))}
            />
            <figcaption className="mt-1 text-sm text-soft">
              Lines: as it was. Colours: as it would be; drag them, or use the arrow keys.
              {look.strays.length > 0 && " Red rings: claims without a place."}
            </figcaption>
          </figure>
          <div className="flex flex-col gap-3">
            <Found look={look} />
            <ByHand look={look} onLay={setLaid} best={laid ? () => setLaid(null) : undefined} />
          </div>
        </div>
      )}
      <p className="mt-4 flex gap-2">
        <button type="button" className="act-main" disabled={!look || isFetching || taking} onClick={take}>
          {taking ? "Replacing…" : "Replace it"}
        </button>
        <button type="button" className="quiet px-2" onClick={onEnd}>
          Cancel
        </button>
      </p>
    </Modal>
  );
}

const AGREES_WELL = 0.7;

/** How well it lies, and what becomes of claims, mending and films. */
function Found({ look }: { look: Replacing }) {
  const kept = look.claims - look.strays.length;
  return (
    <div role="status" className="flex flex-col gap-1.5">
      <p className="measure font-semibold">{Math.round(look.agrees * 100)} % of the old edges lie on new ones.</p>
      {look.agrees < AGREES_WELL && <p className="text-failink">That is little: look whether it lies right.</p>}
      {look.claims > 0 && (
        <p className="measure">
          {kept === look.claims ? "All" : kept} of {look.claims} claims keep their place
          {look.strays.length > 0 && ". The others claim nothing until you put them back"}.
        </p>
      )}
      {look.steps.length > 0 && <p>Switched off, for what they mend has changed: {look.steps.join(", ")}.</p>}
      <Films text="Films in another colour" films={look.recoloured.map(({ was, now }) => [was, now])} />
      <Films text="New films" films={look.fresh.map((film) => [film])} />
      <Films text="Films that are gone" films={look.gone.map((film) => [film])} />
    </div>
  );
}

function Films({ text, films }: { text: string; films: readonly (readonly string[])[] }) {
  if (films.length === 0) return null;
  return (
    <div>
      <span className="block text-sm text-soft">{text}</span>
      <ul className="measure flex flex-wrap gap-x-3 gap-y-1 text-sm">
        {films.map((colours) => (
          <li key={colours.join(" ")} className="flex items-center gap-1">
            {colours.map((colour, k) => (
              <span key={colour} className="flex items-center gap-1">
                {k > 0 && "→"}
                <span
                  aria-hidden
                  className="h-3.5 w-3.5 rounded-sm border border-firm"
                  style={{ background: colour }}
                />
                {colour}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Where it lies, corrected by hand. */
function ByHand({ look, onLay, best }: { look: Replacing; onLay(laid: Laid): void; best?: () => void }) {
  const { laid } = look.edit;
  const unit = useUnit();
  const middle = middleOf(look, laid);
  const move = (axis: "x_mm" | "y_mm", now: number) => async (text: string) => {
    const mm = readLength(text, unit);
    if (mm === null) return unread(text);
    onLay(relaid(look, { [axis]: mm - now }));
  };
  return (
    <section aria-label="Where it lies" className="flex flex-col gap-2 border-t border-line pt-2">
      <h3 className="heading">Where it lies</h3>
      <div className="flex flex-wrap gap-3">
        <NumberField
          label="Size"
          value={laid.scale * 100}
          suffix=" %"
          onCommit={(percent) => percent > 0 && onLay(relaid(look, { scale: percent / 100 }))}
        />
        <NumberField
          label="Turned"
          value={laid.turn_deg}
          suffix="°"
          onCommit={(turn_deg) => onLay(relaid(look, { turn_deg }))}
        />
      </div>
      <div className="flex flex-wrap gap-3">
        <LengthField label="Middle, from left" mm={middle.x} signed onCommit={move("x_mm", middle.x)} />
        <LengthField label="Middle, from top" mm={middle.y} signed onCommit={move("y_mm", middle.y)} />
      </div>
      {best && (
        <button type="button" className="quiet self-start" onClick={best}>
          Lay it by itself again
        </button>
      )}
    </section>
  );
}
