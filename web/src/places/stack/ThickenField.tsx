import type { Layer } from "@/api/client";
import { Check } from "@/entry/Entry";
import { readLength, STEP, showLength, toMillimetres } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";

/** How much thicker a film's shape is made all round: typed or stepped, with what it comes to before and after. */
export function ThickenField({ layer }: { layer: Layer }) {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const unit = useUnit();
  const { film } = layer;
  const own = recipe.films?.find((choice) => choice.film === film);
  const [mm, keeps] = [own?.thicken_mm ?? 0, own?.keep_size ?? false];
  // What pictures and files give to films has to stay in register: it is not stretched.
  const lettered = recipe.arts.some((art) => "film" in art && art.film === film);
  const set = (to: number, keep_size = keeps) =>
    edit({ kind: "thicken-film", film, mm: Number(to.toFixed(4)), keep_size });
  const step = (by: number) =>
    edit(({ recipe: { films = [] } }) => {
      const now = films.find((choice) => choice.film === film);
      const to = Number(((now?.thicken_mm ?? 0) + by).toFixed(4));
      return { kind: "thicken-film", film, mm: to, keep_size: now?.keep_size ?? false };
    });
  return (
    <div className="flex flex-col gap-1">
      <div className="flex flex-wrap items-end gap-1.5">
        <LengthField
          label="Thicken by"
          signed
          mm={mm}
          onCommit={async (text) => {
            const to = readLength(text, unit);
            return to === null ? unread(text) : set(to);
          }}
        />
        <button
          type="button"
          className="act px-2 text-sm"
          aria-label={`Thinner by ${STEP[unit]} ${unit}`}
          onClick={() => step(-toMillimetres(STEP[unit], unit))}
        >
          −{STEP[unit]}
        </button>
        <button
          type="button"
          className="act px-2 text-sm"
          aria-label={`Thicker by ${STEP[unit]} ${unit}`}
          onClick={() => step(toMillimetres(STEP[unit], unit))}
        >
          +{STEP[unit]}
        </button>
        {lettered && (
          <label className="flex items-center gap-1.5 pb-1 text-sm">
            <Check checked={keeps} disabled={mm === 0} onChange={(event) => set(mm, event.target.checked)} />
            Keep its size
          </label>
        )}
      </div>
      {mm !== 0 && (
        <p className="measure text-sm text-soft">
          {keeps
            ? "As wide and high as before; only its strokes change."
            : `Wider and higher by ${showLength(2 * mm, unit)}; the decal is ${showLength(built.width_mm, unit)} wide now.`}{" "}
          The dashed line on the stage is where it was.
        </p>
      )}
    </div>
  );
}
