import type { Lettering, ShapeArt } from "@/api/client";
import { Select } from "@/entry/Entry";
import { FilmField } from "@/parts/FilmField";
import { LengthField } from "@/parts/LengthField";
import { References } from "@/parts/References";
import { useOpenDesign } from "@/state/design";
import { useArtChange } from "./useArt";

/** The film of an art, or what it opens; and whether only the part within something else is kept. */
export function BelongsTo({ art }: { art: Lettering | ShapeArt }) {
  const { built, recipe } = useOpenDesign();
  const { change } = useArtChange<Lettering | ShapeArt>(art);
  const others = built.arts.filter((other) => other.id !== art.id);
  return (
    <section className="flex flex-col gap-2">
      <div className="grid grid-cols-[84px_1fr] items-center gap-2">
        <span className="heading">Film</span>
        <FilmField
          label="Film"
          film={art.film ?? null}
          none="A hole"
          onFilm={(film) => change({ film })}
          onNone={() => change({ film: null })}
        />
        {art.film === null && (
          <>
            <span className="heading">Cut out of</span>
            <Select
              aria-label="Cut out of"
              value={art.opens?.[0] ?? ""}
              onChange={(event) => change({ opens: event.target.value ? [event.target.value] : [] })}
            >
              <option value="">everything, down to the ground</option>
              {[...built.layers].reverse().map((layer) => (
                <option key={layer.film} value={layer.film}>
                  {layer.name}
                </option>
              ))}
            </Select>
            <span className="heading">Margin</span>
            <LengthField
              label="Margin"
              hideLabel
              signed
              mm={art.margin_mm}
              onCommit={(margin_mm) => change({ margin_mm: margin_mm })}
            />
          </>
        )}
        {others.length > 0 && (
          <>
            <span className="heading">Leave holes for</span>
            <References
              label="Leave holes for"
              none="no art"
              refs={art.without}
              onRefs={(without) => change({ without })}
              options={others.map((other) => ({ key: other.id, text: other.name }))}
            />
            <span className="heading">Keep inside</span>
            <Select
              aria-label="Keep inside"
              value={art.inside ?? ""}
              onChange={(event) => change({ inside: event.target.value || null })}
            >
              <option value="">nothing: all of it stays</option>
              {others.map((other) => (
                <option key={other.id} value={other.id}>
                  {recipe.arts.find((a) => a.id === other.id)?.kind === "picture"
                    ? `picture ${other.name}`
                    : other.name}
                </option>
              ))}
            </Select>
          </>
        )}
      </div>
    </section>
  );
}
