import { useRef, useState } from "react";
import { toast } from "sonner";
import type { LineArt, PictureArt } from "@/api/client";
import { readLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { Modal } from "@/parts/Modal";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";
import { addressOf } from "@/state/original";
import { type Corner, reaches } from "./corners";
import { between, cornersOf, type Sides, type Size, stepPx, toldBySides, toldByWidth, WHOLE } from "./frame";

/** Only a part of a picture is taken: framed on it, and as wide as is typed. */
export function FramePart({ art }: { art: PictureArt | LineArt }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="act text-sm" aria-pressed={art.frame !== null} onClick={() => setOpen(true)}>
        {art.frame ? "Part of it" : "Take a part of it…"}
      </button>
      {open && <FrameSheet art={art} onClose={() => setOpen(false)} />}
    </>
  );
}

function FrameSheet({ art, onClose }: { art: PictureArt | LineArt; onClose(): void }) {
  const edit = useEdit();
  const unit = useUnit();
  const { built } = useOpenDesign();
  const [size, setSize] = useState<Size | null>(null);
  const [drawn, setDrawn] = useState<Sides | null>(null);
  const [typed, setTyped] = useState<number | null>(null);
  const frame = drawn ?? (size && art.frame ? toldBySides(art.frame, size) : WHOLE);
  const mm = art.width_mm / (art.frame ? art.frame.right - art.frame.left : 1);
  const width = typed ?? mm * (frame.right - frame.left);
  const take = async (part: Sides | null) => {
    const made = await edit({ kind: "frame-picture", art: art.id, frame: part, width_mm: part ? width : null });
    if (made === null) return;
    onClose();
    // In a part, what lay round the motif may not go all round any more.
    const ground = built.colours.find((one) => one.art === art.id && one.role === "background")?.colour;
    const now = made.built?.colours.find((one) => one.art === art.id && one.colour === ground);
    if (now?.role !== "film") return;
    toast.info("What was dropped behind the picture is a film in this part of it.", {
      action: { label: "Drop it", onClick: () => void edit({ kind: "drop-colour", art: art.id, colour: now.colour }) },
    });
  };
  const whole = frame.left === 0 && frame.top === 0 && frame.right === 1 && frame.bottom === 1;
  return (
    <Modal title="Take a part of the picture" width="w-[46rem]" onClose={onClose}>
      <p className="mb-3 text-soft">
        Draw a frame round the part that is wanted, then say how wide that part is to be.
      </p>
      <FrameOn
        picture={addressOf({ ...art, frame: null })}
        frame={frame}
        size={size}
        onSize={setSize}
        onChange={setDrawn}
      />
      <div className="mt-4 flex flex-wrap items-end gap-3">
        <LengthField
          label="Width of this part"
          mm={width}
          onCommit={async (text) => {
            const wanted = readLength(text, unit);
            if (wanted === null || wanted <= 0) return unread(text);
            setTyped(wanted);
            return true;
          }}
        />
        <span className="grow" />
        <button
          type="button"
          className="act-main"
          disabled={!size || whole}
          onClick={() => size && take(toldByWidth(frame, size))}
        >
          Take this part
        </button>
        {art.frame && (
          <button type="button" className="act" onClick={() => take(null)}>
            Take the whole picture
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

interface FrameOnProps {
  picture: string;
  frame: Sides;
  size: Size | null;
  onSize(size: Size): void;
  onChange(frame: Sides): void;
}

/** The picture with a frame on it: drawn anew anywhere on the picture, or changed by one of its corners. */
function FrameOn({ picture, frame, size, onSize, onChange }: FrameOnProps) {
  const page = useRef<HTMLDivElement>(null);
  const [fixed, setFixed] = useState<Corner | null>(null);
  const at = (event: { clientX: number; clientY: number }): Corner => {
    const box = page.current?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  };
  const corners = cornersOf(frame);
  const outline = corners.map(({ x, y }) => `${x},${y}`).join(" ");
  const hold = (event: React.PointerEvent, from: Corner) => {
    event.preventDefault();
    page.current?.setPointerCapture(event.pointerId);
    setFixed(from);
  };
  return (
    <div
      ref={page}
      className="relative mx-auto w-fit cursor-crosshair touch-none select-none"
      onPointerDown={(event) => hold(event, at(event))}
      onPointerMove={(event) => fixed && size && onChange(between(fixed, at(event), size))}
      onPointerUp={() => setFixed(null)}
      onPointerCancel={() => setFixed(null)}
    >
      <img
        src={picture}
        alt="As it was brought in"
        className="block max-h-[50vh] max-w-full"
        draggable={false}
        onLoad={({ currentTarget: { naturalWidth: width, naturalHeight: height } }) => onSize({ width, height })}
      />
      <svg viewBox="0 0 1 1" preserveAspectRatio="none" className="absolute inset-0 h-full w-full" aria-hidden>
        <path d={`M0 0H1V1H0Z M${outline}Z`} fillRule="evenodd" className="fill-ink/50" />
        {["stroke-white stroke-[4]", "stroke-chosen stroke-2"].map((line) => (
          <polygon key={line} points={outline} className={`fill-none ${line}`} vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      {corners.map(({ x, y }, k) => {
        const across = corners[(k + 2) % 4] as Corner;
        return (
          <button
            key={NAMES[k]}
            type="button"
            aria-label={`${NAMES[k]} of the frame, ${Math.round(100 * x)} % across, ${Math.round(100 * y)} % down`}
            className="absolute h-6 w-6 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full border-2 border-white bg-chosen shadow"
            style={{ left: `${100 * x}%`, top: `${100 * y}%` }}
            onPointerDown={(event) => {
              event.stopPropagation();
              hold(event, across);
            }}
            onKeyDown={(event) => {
              const by = reaches(event.key, event.shiftKey);
              if (!by || !size) return;
              event.preventDefault();
              const px = { x: Math.sign(by.x) * stepPx(size.width), y: Math.sign(by.y) * stepPx(size.height) };
              const far = event.shiftKey ? 10 : 1;
              onChange(between(across, { x: x + (far * px.x) / size.width, y: y + (far * px.y) / size.height }, size));
            }}
          />
        );
      })}
    </div>
  );
}
