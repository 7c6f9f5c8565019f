import { Choice } from "@/parts/Choice";
import type { PenGives } from "@/state/mode";
import { canClose } from "@/state/pen";
import { usePen } from "@/state/usePen";
import { useView } from "@/state/view";

const FILM: { value: PenGives; text: string } = { value: "film", text: "Film" };
const OPENING: { value: PenGives; text: string } = { value: "opening", text: "Opening" };
const CLAIM: { value: PenGives; text: string } = { value: "claim", text: "Claim" };

/** What comes of what the pen draws, and how it is ended; only art with `regions` can be claimed. */
export function PenFields({ regions }: { regions: boolean }) {
  const { adjust } = useView();
  const pen = usePen();
  if (!pen) return null;
  const { knots, gives } = pen.tool;
  return (
    <>
      <Choice
        label="It gives"
        value={gives}
        options={regions ? [FILM, OPENING, CLAIM] : [FILM, OPENING]}
        onChange={(to) => adjust({ gives: to })}
      />
      <div className="flex flex-wrap items-center gap-1.5">
        <button type="button" className="act text-sm" disabled={!canClose(knots)} onClick={() => pen.finish(true)}>
          Close the area
        </button>
        {gives !== "claim" && (
          <button type="button" className="act text-sm" disabled={knots.length < 2} onClick={() => pen.finish(false)}>
            End as a line
          </button>
        )}
        <button type="button" className="act text-sm" disabled={knots.length === 0} onClick={pen.takeBack}>
          Back a point
        </button>
      </div>
    </>
  );
}
