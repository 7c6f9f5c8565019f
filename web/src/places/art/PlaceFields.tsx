import { useState } from "react";
import type { Art, Box } from "@/api/client";
import { Check } from "@/entry/Entry";
import { readLength, showLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { useArtActs } from "@/state/artActs";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";
import { artEdit, boxIn, edgeOf, movedBy, settled } from "@/state/moves";
import { useArtBox, useArtChange } from "./useArt";

/** Where an art lies, how large it is, how it is turned; and copying or taking it away. */
export function PlaceFields({ art, only }: { art: Art; only: boolean }) {
  const box = useArtBox(art.id);
  const unit = useUnit();
  const edit = useEdit();
  const acts = useArtActs();
  const { change } = useArtChange(art);
  const [locked, setLocked] = useState(true);
  const { built } = useOpenDesign();
  const page = built.arts.find((candidate) => candidate.id === art.id)?.page ?? null;
  const { place } = art;
  const upright = place.turn_deg % 180 === 0;
  const [width, height] = [box.right - box.left, box.bottom - box.top];

  const move = (side: "left" | "top") => async (text: string) => {
    const mm = readLength(text, unit);
    if (mm === null) return unread(text);
    return edit((design) => {
      const by = mm + edgeOf(design, art.id, side) - boxIn(design, art.id)[side];
      return settled(movedBy([art.id], [side === "left" ? { x: by, y: 0 } : { x: 0, y: by }]), design);
    });
  };
  const resize = (axis: "x" | "y") => async (text: string) => {
    const mm = readLength(text, unit);
    if (mm === null || mm <= 0) return unread(text);
    return edit((design) => {
      const now = boxIn(design, art.id);
      const size = axis === "x" ? now.right - now.left : now.bottom - now.top;
      if (size <= 0) return null;
      const factor = mm / size;
      // The top-left corner of the box stays where it is.
      if (locked || !upright) return { kind: "scale-art", art: art.id, factor, x_mm: now.left, y_mm: now.top };
      const fx = axis === "x" ? factor : 1;
      const fy = axis === "y" ? factor : 1;
      const stretched = artEdit(art.id, art.kind, ({ place: lies }) => ({
        place: {
          ...lies,
          scale_x: lies.scale_x * fx,
          scale_y: lies.scale_y * fy,
          x_mm: now.left + (lies.x_mm - now.left) * fx,
          y_mm: now.top + (lies.y_mm - now.top) * fy,
        },
      }));
      return settled(stretched, design);
    });
  };
  const plain = place.scale_x === 1 && place.scale_y === 1;
  return (
    <section aria-label="Place" className="flex flex-col gap-2 border-t border-line pt-3">
      <div className="flex justify-between">
        <LengthField label="From left" mm={box.left - built.box.left} signed onCommit={move("left")} />
        <LengthField label="From top" mm={box.top - built.box.top} signed onCommit={move("top")} />
        <NumberField
          label="Turned"
          value={place.turn_deg}
          suffix="°"
          onCommit={(turn_deg) => change((now) => ({ place: { ...now.place, turn_deg } }))}
        />
      </div>
      <div className="flex items-end justify-between">
        <LengthField label="Width" mm={width} onCommit={resize("x")} />
        <LengthField label="Height" mm={height} onCommit={resize("y")} />
        <label className="flex items-center gap-1.5 pb-1 text-sm">
          <Check
            checked={locked || !upright}
            disabled={!upright}
            onChange={(event) => setLocked(event.target.checked)}
          />
          In proportion
        </label>
      </div>
      {page && <PageSize art={art} page={page} box={box} />}
      {!plain && (
        <p className="measure flex items-center gap-2 text-sm text-soft">
          Stretched to {(place.scale_x * 100).toFixed(1)} % × {(place.scale_y * 100).toFixed(1)} % of its own measures
          <button
            type="button"
            className="quiet"
            onClick={() => change((now) => ({ place: { ...now.place, scale_x: 1, scale_y: 1 } }))}
          >
            take that back
          </button>
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <button
          type="button"
          className="act text-sm"
          aria-pressed={place.mirrored}
          onClick={() => change((now) => ({ place: { ...now.place, mirrored: !now.place.mirrored } }))}
        >
          Mirror
        </button>
        <button type="button" className="act text-sm" onClick={() => acts.copy([art.id])}>
          Duplicate
        </button>
        <button type="button" className="act text-sm" disabled={only} onClick={() => acts.remove([art.id])}>
          Delete
        </button>
      </p>
    </section>
  );
}

const SAME_SHARE = 1.01;

/** The page that an art came on, where it is larger than what is seen of it: a second reading of its size. */
function PageSize({ art, page, box }: { art: Art; page: Box; box: Box }) {
  const unit = useUnit();
  const edit = useEdit();
  const [wide, high] = [page.right - page.left, page.bottom - page.top];
  if (wide <= SAME_SHARE * (box.right - box.left) && high <= SAME_SHARE * (box.bottom - box.top)) return null;
  const resize = async (text: string) => {
    const mm = readLength(text, unit);
    if (mm === null || mm <= 0) return unread(text);
    return edit({ kind: "scale-art", art: art.id, factor: mm / wide, x_mm: box.left, y_mm: box.top });
  };
  return (
    <div className="flex items-end gap-3 text-sm text-soft">
      <LengthField label="Width of its page" mm={wide} onCommit={resize} />
      <p className="measure pb-0.5">× {showLength(high, unit)}, margins included</p>
    </div>
  );
}
