import { useEffect, useMemo, useRef, useState } from "react";
import { showLength } from "@/geometry/lengths";
import { Board, type BoardProps, type OnBoard } from "@/places/cut/Board";
import { JobSheetPages } from "@/places/cut/JobSheetPages";
import { type CutSheet, useCutting } from "@/state/cutting";
import { useUnit } from "@/state/design";
import type { JobAnswer, Plan } from "@/state/job";

interface CutStageProps {
  job: JobAnswer;
  plan: Plan | undefined;
  /** Why the films could not be laid, if so. */
  fault: Error | null;
  design: number | null;
}

/** The strip under the blade, and the pages of the job sheet under it. */
export function CutStage({ job, plan, fault, design }: CutStageProps) {
  const cutting = useCutting(job.id);
  // Before it is begun, the first films as they are planned.
  const begins = useMemo(() => plan?.sheets.slice(0, 2).map(planned), [plan]);
  const sheets = cutting.data?.sheets ?? begins;
  const at = sheets?.findIndex((sheet) => sheet.stage !== "done") ?? 0;
  const now = sheets?.at(at);
  return (
    <section aria-label="At the cutter" className="grid min-h-0 min-w-0 grid-rows-[minmax(0,1fr)_auto] bg-bench">
      {sheets && now ? (
        <Under
          key={now.number}
          sheet={now}
          next={at < 0 ? undefined : sheets[at + 1]}
          of={(cutting.data ?? plan)?.sheets.length ?? 0}
          begun={Boolean(cutting.data)}
        />
      ) : (
        <Waiting fault={fault} />
      )}
      <JobSheetPages job={job} design={design} />
    </section>
  );
}

function Waiting({ fault }: { fault: Error | null }) {
  return (
    <p className="grid place-content-center px-10 text-center text-soft">{fault?.message ?? "Laying the films…"}</p>
  );
}

/** A film that would be cut, as it is planned. */
function planned(sheet: Plan["sheets"][number]): Film {
  const { material, parts, boxes, lines, marks, slug, piece, ...rest } = sheet;
  return {
    ...rest,
    material: material.name,
    colour: material.colour,
    kind: piece.kind,
    force_g: material.blade.force_g,
    speed_mm_s: material.blade.speed_mm_s,
    stage: "waiting",
    contours: sheet.lifts,
    to_cut: sheet.lifts,
    figures: null,
    outline: [...parts.map((part) => part.path), boxes, lines, marks, slug].join(""),
    again: "",
    drawn: "",
    scored: "",
    x_mm: null,
    y_mm: null,
    pen: 0,
    pen_name: null,
    trouble: null,
  };
}

type Film = OnBoard &
  Pick<
    CutSheet,
    | "mirrored"
    | "length_mm"
    | "length_used_mm"
    | "force_g"
    | "speed_mm_s"
    | "figures"
    | "outline"
    | "again"
    | "drawn"
    | "scored"
    | "x_mm"
    | "y_mm"
  >;

const PAD = 26;

/** The film under the blade and the board that tells of it, side by side or one over the other, as the film is shaped. */
function Under({ sheet, ...rest }: { sheet: Film } & Omit<BoardProps, "sheet" | "beside">) {
  const [frame, size] = useSize();
  const beside = lengthShown(sheet) / sheet.width_mm < size.w / size.h;
  return (
    <div
      ref={frame}
      className={`grid min-h-0 min-w-0 ${beside ? "grid-cols-[minmax(0,1fr)_21rem]" : "grid-rows-[minmax(0,1fr)_auto]"} narrow:grid-cols-1 narrow:grid-rows-[minmax(0,1fr)_auto]`}
    >
      <Strip sheet={sheet} />
      <Board sheet={sheet} beside={beside} {...rest} />
    </div>
  );
}

/** An element's size in px, as it changes. */
function useSize() {
  const element = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ w: 800, h: 360 });
  useEffect(() => {
    const here = element.current;
    if (!here) return;
    const watch = new ResizeObserver(() => setSize({ w: here.clientWidth, h: here.clientHeight }));
    watch.observe(here);
    return () => watch.disconnect();
  }, []);
  return [element, size] as const;
}

/** How much of a film's length is drawn: of a roll, what is used of it. */
function lengthShown(sheet: Film): number {
  const long = sheet.kind === "roll" ? Math.max(sheet.length_used_mm, sheet.length_mm) : sheet.length_mm;
  return Math.max(long, extent(sheet.again));
}

/** The film in the cutter, to scale: what is planned in outline, what is cut drawn over it, and where the blade is. */
function Strip({ sheet }: { sheet: Film }) {
  const unit = useUnit();
  const [frame, size] = useSize();
  const shown = lengthShown(sheet);
  const px = Math.max(0.05, Math.min((size.w - 2 * PAD - 40) / shown, (size.h - 2 * PAD - 20) / sheet.width_mm));
  const thin = 1 / px;
  return (
    <div ref={frame} className="relative min-h-0 min-w-0 overflow-hidden">
      <svg
        role="img"
        aria-label={`${sheet.name} under the blade: ${sheet.contours - sheet.to_cut} of ${sheet.contours} contours cut`}
        width={size.w}
        height={size.h}
        viewBox={`${-PAD / px} ${-PAD / px} ${size.w / px} ${size.h / px}`}
      >
        {sheet.kind === "roll" && (
          <rect x={shown} y={0} width={60 / px} height={sheet.width_mm} fill={sheet.colour} opacity={0.35} />
        )}
        <rect width={shown} height={sheet.width_mm} fill={sheet.colour} stroke="#8f897b" strokeWidth={thin} />
        {sheet.face_down && (
          <>
            <defs>
              <pattern
                id="carrier"
                width={6 / px}
                height={6 / px}
                patternUnits="userSpaceOnUse"
                patternTransform="rotate(45)"
              >
                <line y2={6 / px} stroke="#fbfaf7" strokeOpacity={0.35} strokeWidth={1.2 / px} />
              </pattern>
            </defs>
            <rect width={shown} height={sheet.width_mm} fill="url(#carrier)" />
          </>
        )}
        <rect
          x={thin * 2}
          y={thin * 2}
          width={shown - thin * 4}
          height={sheet.width_mm - thin * 4}
          fill="#fbfaf7"
          opacity={0.72}
        />
        <path d={sheet.outline} fill="none" stroke="#8f897b" strokeWidth={thin} />
        <path
          d={sheet.again}
          fill="none"
          stroke="#8f897b"
          strokeWidth={thin}
          strokeDasharray={`${4 * thin} ${3 * thin}`}
        />
        <path
          d={sheet.scored}
          fill="none"
          stroke="#a8321a"
          strokeWidth={1.6 * thin}
          strokeDasharray={`${5 * thin} ${3 * thin}`}
        />
        <path d={sheet.drawn} fill="none" stroke="#6d3468" strokeWidth={1.8 * thin} strokeLinejoin="round" />
        {sheet.x_mm !== null && sheet.y_mm !== null && (
          <g aria-hidden>
            <line
              x1={sheet.x_mm}
              x2={sheet.x_mm}
              y1={-10 * thin}
              y2={sheet.width_mm + 10 * thin}
              stroke="#25231e"
              strokeWidth={1.4 * thin}
            />
            <circle cx={sheet.x_mm} cy={sheet.y_mm} r={5 * thin} fill="#25231e" />
          </g>
        )}
        {sheet.stage === "cut" && sheet.figures && sheet.figures.largest_mm > 0.05 && sheet.figures.x_mm !== null && (
          <circle
            cx={sheet.figures.x_mm}
            cy={sheet.figures.y_mm ?? 0}
            r={12 * thin}
            fill="none"
            stroke="#a8321a"
            strokeWidth={2 * thin}
          />
        )}
      </svg>
      <p className="measure absolute top-2 left-4 text-sm text-soft">
        <span className="font-semibold text-ink">
          {sheet.number}. {sheet.name}
        </span>
        , {showLength(sheet.width_mm, unit)} wide{sheet.face_down && ", face down"}
        {sheet.mirrored && ", mirrored"} · {sheet.force_g} g, {sheet.speed_mm_s.toFixed(0)} mm/s
      </p>
    </div>
  );
}

/** How far along a path reaches. */
function extent(path: string): number {
  let far = 0;
  for (const found of path.matchAll(/[ML]([\d.]+) /g)) far = Math.max(far, Number(found[1]));
  return far;
}
