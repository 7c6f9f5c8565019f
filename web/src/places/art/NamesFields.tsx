import type { Lettering } from "@/api/client";
import { showLength } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { LengthField } from "@/parts/LengthField";
import { useOpenDesign, useUnit } from "@/state/design";
import { goTo } from "@/state/route";
import { useArtBox, useArtChange } from "./useArt";

const FIELD = /\{([^{}\n=]{1,60})(?:=([^{}\n]{0,200}))?\}/g;

/** Words that a list of names fills: marked as a field, how wide they may be, and the way to the list. */
export function NamesFields({ art }: { art: Lettering }) {
  const { id } = useOpenDesign();
  const { change } = useArtChange(art);
  const unit = useUnit();
  const box = useArtBox(art.id);
  const fields = [...art.text.matchAll(FIELD)].map((found) => found[1]);
  const text = art.text.trim();
  if (fields.length === 0)
    return (
      <Fold title="A list of names" open={false}>
        <button
          type="button"
          className="act self-start"
          disabled={text.includes("\n") || /[{}]/.test(text)}
          onClick={() => change({ text: `{name=${text.slice(0, 200)}}` })}
        >
          Make these words a field
        </button>
        <p className="text-sm text-soft">
          A list fills the field, and the decal is cut once for each name. Only some of the words: put them in braces,
          such as Team {"{name=Ada}"}.
        </p>
      </Fold>
    );
  return (
    <Fold title="A list of names" figure={fields.join(", ")} open>
      <span className="flex items-end gap-3">
        <LengthField
          label="Room for a name"
          mm={art.room_mm ?? box.right - box.left}
          onCommit={(room) => change({ room_mm: room })}
        />
        {art.room_mm !== null && (
          <button type="button" className="quiet pb-1 text-sm" onClick={() => change({ room_mm: null })}>
            as wide as shown ({showLength(box.right - box.left, unit)})
          </button>
        )}
      </span>
      <button type="button" className="act-main self-start" onClick={() => goTo(`/names/${id}`)}>
        Fill it from a list
      </button>
    </Fold>
  );
}
