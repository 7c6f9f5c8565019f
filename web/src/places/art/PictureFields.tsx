import type { PictureArt } from "@/api/client";
import { SelectField } from "@/parts/SelectField";
import { useOpenDesign } from "@/state/design";
import { addressOf } from "@/state/original";
import { useView } from "@/state/view";
import { useArtChange } from "./useArt";

/** A picture as it was brought in, how wide it becomes, and what it is made of. */
export function PictureFields({ art }: { art: PictureArt }) {
  const { built } = useOpenDesign();
  const goTo = useView((view) => view.goTo);
  const { change } = useArtChange(art);
  const colours = built.colours.filter((colour) => colour.art === art.id).length;
  const others = built.arts.filter((other) => other.id !== art.id);
  return (
    <div className="flex flex-col gap-3">
      <figure className="flex items-center gap-4">
        <img
          src={addressOf(art)}
          alt={art.corners ? "Set straight" : "As it was brought in"}
          className="h-24 w-24 rounded border border-line bg-table object-contain p-1"
        />
        <figcaption className="min-w-0">
          <span className="block font-semibold break-words">{art.filename || "Pasted picture"}</span>
          <span className="block text-soft">
            {built.flat
              ? built.lossy
                ? "Flat colours, softened by JPEG"
                : "Flat colours"
              : "Not made of flat colours"}
          </span>
        </figcaption>
      </figure>
      <button type="button" className="act self-start" onClick={() => goTo("Colours")}>
        {colours} colours found: look at them
      </button>
      {others.length > 0 && (
        <SelectField
          label="Keep inside"
          value={art.inside ?? ""}
          options={[
            { value: "", text: "nothing: all of it is kept" },
            ...others.map((other) => ({ value: other.id, text: other.name })),
          ]}
          onChange={(inside) => change({ inside: inside || null })}
        />
      )}
    </div>
  );
}
