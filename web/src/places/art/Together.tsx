import type { Art, Box } from "@/api/client";
import { useEdit, useOpenDesign } from "@/state/design";
import { movedBy } from "./useArt";

type Side = "left" | "centre" | "right" | "top" | "middle" | "bottom";

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

const ZERO: Box = { left: 0, top: 0, right: 0, bottom: 0 };

/** How far each box has to move so that one side of all lies as in the box around them. */
export function alignment(boxes: Box[], side: Side): { x: number; y: number }[] {
  const around = {
    left: Math.min(...boxes.map((b) => b.left)),
    top: Math.min(...boxes.map((b) => b.top)),
    right: Math.max(...boxes.map((b) => b.right)),
    bottom: Math.max(...boxes.map((b) => b.bottom)),
  };
  const at: Record<Side, (b: Box) => number> = {
    left: (b) => b.left,
    centre: (b) => (b.left + b.right) / 2,
    right: (b) => b.right,
    top: (b) => b.top,
    middle: (b) => (b.top + b.bottom) / 2,
    bottom: (b) => b.bottom,
  };
  const across = side === "left" || side === "centre" || side === "right";
  return boxes.map((box) => {
    const by = at[side](around) - at[side](box);
    return across ? { x: by, y: 0 } : { x: 0, y: by };
  });
}

/** How far each box has to move so that the gaps between them are equal; the outermost two stay. */
export function spread(boxes: Box[], axis: "x" | "y"): { x: number; y: number }[] {
  const [low, high] = axis === "x" ? (["left", "right"] as const) : (["top", "bottom"] as const);
  const order = boxes.map((_, k) => k).sort((a, b) => (boxes[a]?.[low] ?? 0) - (boxes[b]?.[low] ?? 0));
  const first = boxes[order[0] ?? 0] ?? ZERO;
  const last = boxes[order[order.length - 1] ?? 0] ?? ZERO;
  const taken = boxes.reduce((sum, box) => sum + box[high] - box[low], 0);
  const gap = (last[high] - first[low] - taken) / Math.max(1, boxes.length - 1);
  const moves = boxes.map(() => ({ x: 0, y: 0 }));
  let at = first[low];
  for (const k of order) {
    const box = boxes[k] ?? ZERO;
    const by = at - box[low];
    moves[k] = axis === "x" ? { x: by, y: 0 } : { x: 0, y: by };
    at += box[high] - box[low] + gap;
  }
  return moves;
}
