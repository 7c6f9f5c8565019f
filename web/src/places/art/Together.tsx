import type { Art } from "@/api/client";
import { alignment, type Side, spread, ZERO } from "@/geometry/boxes";
import { useEdit, useOpenDesign } from "@/state/design";
import { movedBy } from "@/state/moves";

const ROWS: { side: Side; text: string }[] = [
  { side: "left", text: "Left edges" },
  { side: "centre", text: "Centres" },
  { side: "right", text: "Right edges" },
  { side: "top", text: "Top edges" },
  { side: "middle", text: "Middles" },
  { side: "bottom", text: "Bottom edges" },
];

/** Several pieces of art, lined up with each other or spread evenly. */
export function Together({ arts }: { arts: Art[] }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const boxes = arts.map((art) => built.arts.find((a) => a.id === art.id)?.box ?? ZERO);
  const place = (by: { x: number; y: number }[]) =>
    edit(
      movedBy(
        arts.map((art) => art.id),
        by,
      ),
    );
  return (
    <section aria-label="Together" className="flex flex-col gap-2">
      <h3 className="heading">Line up {arts.length} pieces</h3>
      <div className="grid grid-cols-3 gap-1.5">
        {ROWS.map(({ side, text }) => (
          <button key={side} type="button" className="act text-sm" onClick={() => place(alignment(boxes, side))}>
            {text}
          </button>
        ))}
      </div>
      {arts.length > 2 && (
        <>
          <h3 className="heading">Spread with even gaps</h3>
          <div className="flex gap-1.5">
            <button type="button" className="act text-sm" onClick={() => place(spread(boxes, "x"))}>
              Side by side
            </button>
            <button type="button" className="act text-sm" onClick={() => place(spread(boxes, "y"))}>
              One above another
            </button>
          </div>
        </>
      )}
    </section>
  );
}
