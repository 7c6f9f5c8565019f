import { type Answer, type Art as AnyArt, addPicture, type Edit, hasRegions, isRaster } from "@/api/client";
import { contrasting } from "@/geometry/contrast";
import { DRAWINGS, FilePicker } from "@/parts/FilePicker";
import { Findings } from "@/parts/Findings";
import { Panel, PanelItem } from "@/parts/Panel";
import { PlaceFields } from "@/places/art/PlaceFields";
import { RelateFields } from "@/places/art/RelateFields";
import { ReplaceSource } from "@/places/art/ReplaceSource";
import { FORMS } from "@/places/art/ShapeFields";
import { SimplifyFields } from "@/places/art/SimplifyFields";
import { Together } from "@/places/art/Together";
import { WholeDesign } from "@/places/art/WholeDesign";
import { Found } from "@/places/Found";
import { kindOf } from "@/places/kinds";
import { fromTheGround } from "@/state/arts";
import { useChange, useEdit, useOpenDesign } from "@/state/design";
import { chosenArts } from "@/state/mode";
import { addressOf } from "@/state/original";
import { sight } from "@/state/sight";
import { useView } from "@/state/view";

/** What lies on the stack: pictures, lettering and shapes, each with its place. */
export function Art() {
  const { recipe, built } = useOpenDesign();
  const { arts: chosen, chooseArts } = useView();
  const ids = chosenArts(recipe, chosen);
  const here = recipe.arts.filter((art) => ids.includes(art.id));
  const one = here.length === 1 ? here[0] : undefined;
  const Fields = one && kindOf(one).Fields;
  const inOrder = fromTheGround(built)
    .reverse()
    .flatMap(({ id }) => recipe.arts.find((art) => art.id === id) ?? []);
  const about = built.findings.filter((finding) => built.arts.some((art) => art.id === finding.about));
  return (
    <div className="flex flex-col gap-4">
      <Found />
      <Findings findings={about} most={2} />
      <section aria-labelledby="arts">
        <div className="mb-1 flex items-center gap-2">
          <h2 id="arts" className="heading mr-auto">
            On the stack
          </h2>
          <BringIn />
        </div>
        <ul aria-label="Art on the stack" className="border-t border-line">
          {inOrder.map((art) => (
            <li key={art.id} className="border-b border-line">
              <button
                type="button"
                aria-pressed={ids.includes(art.id)}
                className="grid w-full grid-cols-[30px_1fr_auto] items-center gap-2 py-1.5 pr-1 pl-1 text-left hover:bg-bench aria-pressed:bg-tint"
                onClick={(event) => {
                  const more = event.shiftKey || event.ctrlKey || event.metaKey;
                  const rest = chosen.filter((id) => id !== art.id);
                  if (more) chooseArts(chosen.includes(art.id) ? rest : [...chosen, art.id]);
                  else chooseArts(chosen.length === 1 && chosen[0] === art.id ? [] : [art.id]);
                }}
              >
                <ArtSign art={art} />
                <span className="truncate font-semibold">{built.arts.find((a) => a.id === art.id)?.name}</span>
                <span className="text-sm text-soft">{kindOf(art).text}</span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      {one && (
        <section aria-label="Chosen art" className="flex flex-col gap-3">
          <RelateFields key={`${one.id}-lies`} art={one} />
          {Fields && <Fields key={one.id} art={one} />}
          {hasRegions(one) && <ReplaceSource key={`${one.id}-source`} art={one} />}
          {hasRegions(one) && <SimplifyFields key={`${one.id}-nodes`} art={one} />}
          <PlaceFields key={`${one.id}-place`} art={one} only={recipe.arts.length === 1} />
        </section>
      )}
      {here.length > 1 && <Together arts={here} />}
      {here.length === 0 && (
        <p className="text-soft">Choose a piece of art here or on the light table; more than one with Shift.</p>
      )}
      <WholeDesign />
    </div>
  );
}

/** A small sign for a piece of art: its colour and kind. */
function ArtSign({ art }: { art: AnyArt }) {
  const { built } = useOpenDesign();
  if (isRaster(art)) {
    return <img src={addressOf(art)} alt="" className="h-7 w-7 object-contain" />;
  }
  const key = kindOf(art).film(
    art,
    built.arts.find((a) => a.id === art.id),
  );
  const film = built.layers.find((layer) => layer.film === key);
  const colour = film?.colour ?? key ?? null;
  return (
    <span
      aria-hidden
      className={`grid h-7 w-7 place-items-center rounded-sm border ${colour ? "border-firm" : "border-dashed border-ink"}`}
      style={{ background: colour ?? "transparent" }}
    />
  );
}

/** Lettering, a plain shape or another picture, brought onto the stack. */
function BringIn() {
  const { id, built } = useOpenDesign();
  const edit = useEdit();
  const chooseArts = useView((view) => view.chooseArts);
  const middle = () => {
    const box = sight() ?? built.box;
    return {
      ...UNTURNED,
      x_mm: Number(((box.left + box.right) / 2).toFixed(2)),
      y_mm: Number(((box.top + box.bottom) / 2).toFixed(2)),
    };
  };
  // What is new is seen on what it lies on.
  const lain = built.layers.filter((layer) => layer.area_mm2 > 0).map((layer) => layer.colour);
  const film = contrasting("#1d2b53", lain);
  const newest = (design: Answer | null) => {
    const added = design?.recipe.arts.at(-1);
    if (added) chooseArts([added.id]);
  };
  const change = useChange(id);
  const bring = async (file: File) =>
    newest(await change({ do: "send", send: (base, signal) => addPicture(id, base, file, "60mm", signal) }));
  const size = Math.max(10, Math.round(0.3 * Math.max(built.width_mm, built.height_mm)));
  const capitals = Math.max(5, Math.round(size / 2));
  return (
    <>
      <button
        type="button"
        className="act text-sm"
        onClick={() =>
          edit({
            kind: "add-art",
            art: {
              kind: "lettering",
              text: "Words",
              film,
              height_mm: capitals,
              // Its capitals, not their feet, come to lie in the middle.
              place: { ...middle(), y_mm: middle().y_mm + capitals / 2 },
            },
          }).then(newest)
        }
      >
        Lettering
      </button>
      <Panel label="Shape" trigger="Shape" triggerClass="act text-sm" side="bottom">
        {FORMS.map(({ form, text }) => (
          <PanelItem
            key={form}
            onSelect={() => edit({ kind: "add-art", art: newShape(form, size, film, middle()) }).then(newest)}
          >
            {text}
          </PanelItem>
        ))}
      </Panel>
      <FilePicker
        label="Picture for the stack"
        accept={DRAWINGS}
        className="act text-sm"
        onFile={(file) => bring(file)}
      >
        Picture
      </FilePicker>
    </>
  );
}

const UNTURNED = { turn_deg: 0, scale_x: 1, scale_y: 1, mirrored: false };

type AddedArt = Extract<Edit, { kind: "add-art" }>["art"];

function newShape(
  form: (typeof FORMS)[number]["form"],
  size: number,
  film: string,
  place: typeof UNTURNED & { x_mm: number; y_mm: number },
): AddedArt {
  const measures: Record<string, object> = {
    rectangle: { width_mm: size, height_mm: Math.round(0.7 * size) },
    ellipse: { width_mm: size, height_mm: size },
    polygon: { across_mm: size },
    star: { across_mm: size },
    heart: { width_mm: size, height_mm: Math.round(0.92 * size) },
    ring: { across_mm: size, band_mm: Math.max(1, Math.round(0.1 * size)) },
    ribbon: { width_mm: 2 * size, height_mm: Math.round(0.6 * size), fold_mm: Math.max(1, Math.round(0.15 * size)) },
  };
  return { kind: "shape", form: { form, ...measures[form] } as never, film, place };
}
