import { memo } from "react";
import { lengthDigits, showLength } from "@/geometry/lengths";
import { Parts, type StripProps } from "@/places/bench/Parts";
import { useUnit } from "@/state/design";
import { type Sheet, useBench } from "@/state/job";

/** How much of the screen the film that stays on its roll takes. */
export const TAIL_PX = 58;
const RULE_PX = 16;
const EDGE_PX = 34;

/** How long a strip is, in mm: a whole sheet or offcut, or what comes off the roll. */
export function shownLength(sheet: Sheet): number {
  return sheet.piece.kind === "roll" ? sheet.length_used_mm : sheet.length_mm;
}

/** One film drawn off its roll, or as its sheet or offcut, true to scale, with all that is cut from it. */
export function Strip({ sheet, pxPerMm, change, locked, upTo }: StripProps) {
  const unit = useUnit();
  const grid = useBench((bench) => bench.grid);
  const long = shownLength(sheet) + (sheet.piece.kind === "roll" ? TAIL_PX / pxPerMm : 0);
  const roll = sheet.piece.kind === "roll";
  const end = roll ? sheet.length_used_mm : sheet.length_mm;
  const from = sheet.bought ? "film to buy" : roll ? "roll" : sheet.piece.kind;
  const hair = 0.9 / pxPerMm;
  return (
    <li className="mb-5" aria-label={`Sheet ${sheet.number}: ${sheet.name}, ${sheet.material.name}`}>
      <p className="mb-1 flex items-baseline gap-2">
        <span
          aria-hidden
          className="inline-block h-3 w-3 self-center rounded-full border border-firm"
          style={{ background: sheet.material.colour }}
        />
        <span className="font-semibold">
          {sheet.number} {sheet.name}
        </span>
        <span className="text-soft">
          {sheet.material.name}, {from}
          {sheet.face_down ? ", face down" : ""}
          {sheet.mirrored ? ", mirrored" : ""}
        </span>
        <span className="measure ml-auto text-sm text-soft">
          {sheet.parts.length} {sheet.parts.length === 1 ? "part" : "parts"} on {showLength(end, unit)} ×{" "}
          {showLength(sheet.width_mm, unit)}, {Math.round(sheet.film_used * 100)} % used
          {sheet.cost > 0 && `, costs ${sheet.cost.toFixed(2)}`}
          {sheet.weed_seconds > 0.5 && `, boxes and lines add ${Math.round(sheet.weed_seconds)} s`}
        </span>
      </p>
      <svg
        role="application"
        aria-label={`${sheet.name} on its film`}
        width={long * pxPerMm + EDGE_PX}
        height={sheet.width_mm * pxPerMm + RULE_PX}
        viewBox={`${-10 / pxPerMm} 0 ${long + EDGE_PX / pxPerMm} ${sheet.width_mm + RULE_PX / pxPerMm}`}
        className="block max-w-none touch-none"
      >
        <defs>
          <pattern
            id={`carrier-${sheet.number}`}
            width={5 / pxPerMm}
            height={5 / pxPerMm}
            patternUnits="userSpaceOnUse"
          >
            <path
              d={`M0 ${5 / pxPerMm}L${5 / pxPerMm} 0`}
              stroke="#25231e"
              strokeOpacity="0.22"
              strokeWidth={0.7 / pxPerMm}
            />
          </pattern>
          <pattern
            id={`grid-${sheet.number}`}
            width={unit === "mm" ? 10 : 25.4}
            height={unit === "mm" ? 10 : 25.4}
            patternUnits="userSpaceOnUse"
          >
            <path
              d={unit === "mm" ? "M10 0H0V10" : "M25.4 0H0V25.4"}
              fill="none"
              stroke="#25231e"
              strokeOpacity="0.16"
              strokeWidth={hair}
            />
          </pattern>
          <linearGradient id={`roll-${sheet.number}`} x1="0" x2="1">
            <stop offset="0" stopColor="#fff" stopOpacity="0.2" />
            <stop offset="0.4" stopColor="#fff" stopOpacity="0.65" />
            <stop offset="1" stopColor="#25231e" stopOpacity="0.28" />
          </linearGradient>
        </defs>
        <rect width={end} height={sheet.width_mm} fill="#fff" />
        <rect width={end} height={sheet.width_mm} fill={sheet.material.colour} fillOpacity="0.17" />
        {sheet.face_down && <rect width={end} height={sheet.width_mm} fill={`url(#carrier-${sheet.number})`} />}
        {grid && <rect width={end} height={sheet.width_mm} fill={`url(#grid-${sheet.number})`} />}
        <rect width={end} height={sheet.width_mm} fill="none" stroke="#8f897b" strokeWidth={hair} />
        {roll && <RollEnd sheet={sheet} pxPerMm={pxPerMm} />}
        <Kept sheet={sheet} pxPerMm={pxPerMm} />
        <Furniture sheet={sheet} hair={hair} />
        <Parts sheet={sheet} pxPerMm={pxPerMm} change={change} locked={locked} upTo={upTo} />
        {roll && <CutOff sheet={sheet} pxPerMm={pxPerMm} />}
        <Rule mm={end} at={sheet.width_mm} pxPerMm={pxPerMm} />
      </svg>
    </li>
  );
}

/** What is left on the roll: the film that runs on, and the roll it comes from. */
function RollEnd({ sheet, pxPerMm }: { sheet: Sheet; pxPerMm: number }) {
  const at = sheet.length_used_mm;
  const tail = TAIL_PX / pxPerMm;
  const r = 11 / pxPerMm;
  return (
    <g>
      <rect x={at} width={tail - r} height={sheet.width_mm} fill={sheet.material.colour} fillOpacity="0.32" />
      <rect
        x={at + tail - 2 * r}
        width={2 * r}
        height={sheet.width_mm}
        rx={r / 2}
        fill={sheet.material.colour}
        stroke="#625d52"
        strokeWidth={0.8 / pxPerMm}
      />
      <rect
        x={at + tail - 2 * r}
        width={2 * r}
        height={sheet.width_mm}
        rx={r / 2}
        fill={`url(#roll-${sheet.number})`}
      />
    </g>
  );
}

function CutOff({ sheet, pxPerMm }: { sheet: Sheet; pxPerMm: number }) {
  const unit = useUnit();
  const x = sheet.length_used_mm;
  const size = 12 / pxPerMm;
  return (
    <g aria-hidden>
      <path
        d={`M${x} ${-4 / pxPerMm}V${sheet.width_mm + 6 / pxPerMm}`}
        stroke="#a8321a"
        strokeWidth={1.4 / pxPerMm}
        strokeDasharray={`${6 / pxPerMm} ${4 / pxPerMm}`}
      />
      <text
        transform={`translate(${x + size * 1.1} ${sheet.width_mm / 2}) rotate(90)`}
        textAnchor="middle"
        fontSize={size}
        fontWeight="600"
        fill="#6e1f0e"
        stroke="#fbfaf7"
        strokeWidth={3 / pxPerMm}
        paintOrder="stroke"
      >
        {sheet.bought ? "get" : "cut off"} {showLength(x, unit)}
      </text>
    </g>
  );
}

/** The rectangles of film that stay, with their size. */
function Kept({ sheet, pxPerMm }: { sheet: Sheet; pxPerMm: number }) {
  const unit = useUnit();
  const size = 11 / pxPerMm;
  return (
    <g>
      {sheet.kept.map(({ left, top, right, bottom }) => {
        const wide = right - left;
        const high = bottom - top;
        const turned = high > wide && wide * pxPerMm < 120;
        return (
          <g key={`${left} ${top}`}>
            <rect
              x={left}
              y={top}
              width={wide}
              height={high}
              fill="#fbfaf7"
              fillOpacity="0.55"
              stroke="#625d52"
              strokeWidth={0.8 / pxPerMm}
              strokeDasharray={`${2 / pxPerMm} ${3 / pxPerMm}`}
            />
            <text
              transform={`translate(${left + wide / 2} ${top + high / 2}) rotate(${turned ? 90 : 0})`}
              textAnchor="middle"
              dominantBaseline="middle"
              fontSize={Math.min(size, Math.min(wide, high) / 2)}
              fill="#625d52"
            >
              {lengthDigits(high, unit)} × {showLength(wide, unit)} stays
            </text>
          </g>
        );
      })}
    </g>
  );
}

const Furniture = memo(function Furniture({ sheet, hair }: { sheet: Sheet; hair: number }) {
  return (
    <g fill="none" stroke="#6d3468" strokeWidth={hair}>
      <path d={sheet.boxes} />
      <path d={sheet.lines} strokeWidth={hair * 1.3} />
      <path d={sheet.marks} fill="#6d3468" />
      <path d={sheet.slug} strokeWidth={hair} />
    </g>
  );
});

function Rule({ mm, at, pxPerMm }: { mm: number; at: number; pxPerMm: number }) {
  const unit = useUnit();
  const one = unit === "mm" ? 10 : 25.4 / 4;
  const every = unit === "mm" ? 5 : 4;
  const sparse = one * pxPerMm < 4 ? (unit === "mm" ? 5 : 4) : 1;
  const ticks = Array.from({ length: Math.floor(mm / (one * sparse)) + 1 }, (_, k) => k * sparse);
  return (
    <g>
      <path
        d={ticks.map((k) => `M${k * one} ${at}v${(k % every === 0 ? 7 : 4) / pxPerMm}`).join("")}
        stroke="#625d52"
        strokeWidth={0.8 / pxPerMm}
      />
      {ticks
        .filter((k) => k % (every * (one * every * pxPerMm < 26 ? 2 : 1)) === 0)
        .map((k) => (
          <text
            key={k}
            x={k * one + 2 / pxPerMm}
            y={at + 14 / pxPerMm}
            fontSize={9.5 / pxPerMm}
            fill="#625d52"
            className="measure"
          >
            {unit === "mm" ? k * one : k / 4}
          </text>
        ))}
    </g>
  );
}
