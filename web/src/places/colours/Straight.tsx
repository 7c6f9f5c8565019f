import { useRef, useState } from "react";
import type { LineArt, PictureArt } from "@/api/client";
import { Modal } from "@/parts/Modal";
import { useEdit } from "@/state/design";
import { type Corner, moved, reaches, START } from "./corners";

/** A photograph taken aslant is put straight: its four corners are drawn on it. */
export function Straight({ art }: { art: PictureArt | LineArt }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="act text-sm" aria-pressed={art.corners !== null} onClick={() => setOpen(true)}>
        {art.corners ? "Set straight" : "Set it straight…"}
      </button>
      {open && <StraightSheet art={art} onClose={() => setOpen(false)} />}
    </>
  );
}

function StraightSheet({ art, onClose }: { art: PictureArt | LineArt; onClose(): void }) {
  const edit = useEdit();
  const [corners, setCorners] = useState<readonly Corner[]>(art.corners ?? START);
  const take = async (next: readonly Corner[] | null) => {
    if ((await edit({ kind: "set-straight", art: art.id, corners: next && [...next] })) !== null) onClose();
  };
  return (
    <Modal title="Set the photograph straight" width="w-[46rem]" onClose={onClose}>
      <p className="mb-3 text-soft">
        Put each handle on a corner of what was photographed. What lies between them becomes a rectangle.
      </p>
      <CornersOn picture={`/api/pictures/${art.picture}`} corners={corners} onChange={setCorners} />
      <div className="mt-4 flex gap-2">
        <button type="button" className="act-main" onClick={() => take(corners)}>
          Set it straight
        </button>
        {art.corners && (
          <button type="button" className="act" onClick={() => take(null)}>
            Take it as it was photographed
          </button>
        )}
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}

const NAMES = ["Top left", "Top right", "Bottom right", "Bottom left"];

interface CornersOnProps {
  picture: string;
  corners: readonly Corner[];
  onChange(corners: Corner[]): void;
}

function CornersOn({ picture, corners, onChange }: CornersOnProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const at = (event: { clientX: number; clientY: number }): Corner => {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  };
  const outline = corners.map(({ x, y }) => `${x},${y}`).join(" ");
  return (
    <div ref={frame} className="relative mx-auto w-fit select-none">
      <img src={picture} alt="As it was photographed" className="block max-h-[50vh] max-w-full" draggable={false} />
      <svg viewBox="0 0 1 1" preserveAspectRatio="none" className="absolute inset-0 h-full w-full" aria-hidden>
        <path d={`M0 0H1V1H0Z M${outline}Z`} fillRule="evenodd" className="fill-ink/40" />
        {["stroke-white stroke-[4]", "stroke-chosen stroke-2"].map((line) => (
          <polygon key={line} points={outline} className={`fill-none ${line}`} vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      {corners.map(({ x, y }, k) => (
        <button
          key={NAMES[k]}
          type="button"
          aria-label={`${NAMES[k]} corner, ${Math.round(100 * x)} % across, ${Math.round(100 * y)} % down`}
          className="absolute h-6 w-6 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full border-2 border-white bg-chosen shadow"
          style={{ left: `${100 * x}%`, top: `${100 * y}%` }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(k);
          }}
          onPointerMove={(event) => held === k && onChange(moved(corners, k, at(event)))}
          onPointerUp={() => setHeld(null)}
          onPointerCancel={() => setHeld(null)}
          onKeyDown={(event) => {
            const by = reaches(event.key, event.shiftKey);
            if (!by) return;
            event.preventDefault();
            onChange(moved(corners, k, { x: x + by.x, y: y + by.y }));
          }}
        />
      ))}
    </div>
  );
}
