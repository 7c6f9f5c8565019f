import { showLength } from "@/geometry/lengths";
import type { CutSheet } from "@/state/cutting";
import { useUnit } from "@/state/design";

/** What the board tells of a film: what it is, and how to lay it in. */
export type OnBoard = Pick<
  CutSheet,
  | "number"
  | "name"
  | "colour"
  | "material"
  | "kind"
  | "width_mm"
  | "face_down"
  | "stage"
  | "contours"
  | "to_cut"
  | "pen"
  | "pen_name"
  | "trouble"
>;

export interface BoardProps {
  sheet: OnBoard;
  next: OnBoard | undefined;
  of: number;
  /** Whether cutting has begun; else the film is the first that there is to cut. */
  begun: boolean;
  /** Whether it stands beside the film, or lies under it. */
  beside: boolean;
}

/** The film at the cutter, what is to be done and what comes next, to be read from across the room. */
export function Board({ sheet, next, of, begun, beside }: BoardProps) {
  return (
    <section
      aria-label="At the cutter, in large"
      className={`flex min-w-0 gap-x-10 gap-y-4 overflow-hidden px-5 py-4 narrow:gap-y-1 narrow:py-2 ${beside ? "flex-col" : "flex-wrap items-end"}`}
    >
      <div className="min-w-0">
        <p className="measure text-2xl text-soft narrow:text-lg">
          {sheet.number} of {of}
        </p>
        <p className="flex items-center gap-3 text-5xl leading-tight font-semibold narrow:text-2xl">
          <span
            aria-hidden
            className="h-10 w-10 shrink-0 narrow:h-6 narrow:w-6 rounded-sm border border-firm"
            style={{ background: sheet.colour }}
          />
          <span className="min-w-0 truncate">{sheet.name}</span>
        </p>
      </div>
      <p className={`text-4xl leading-tight narrow:text-xl ${sheet.stage === "trouble" ? "text-fail" : ""}`}>
        {begun ? sayStage(sheet) : "Comes first"}
      </p>
      {next && sheet.stage !== "trouble" && (
        <div className={`min-w-0 text-2xl leading-snug text-soft narrow:text-lg ${beside ? "mt-auto" : ""}`}>
          <p>Next: {next.name}</p>
          <Laid sheet={next} />
        </div>
      )}
    </section>
  );
}

function Laid({ sheet }: { sheet: OnBoard }) {
  const unit = useUnit();
  return (
    <p className="measure text-xl narrow:text-base">
      {sheet.material}, {showLength(sheet.width_mm, unit)} wide{sheet.face_down && ", face down"}
    </p>
  );
}

/** How a film stands, in few words. */
export function sayStage({ stage, contours, to_cut, pen, pen_name, trouble }: OnBoard): string {
  const cut = contours - to_cut;
  switch (stage) {
    case "waiting":
      return "Load this film";
    case "ready":
      if (pen > 0) return `Put ${pen_name ?? "the pen"} in`;
      return cut > 0 ? `Ready: ${cut} of ${contours} cut` : "Ready to cut";
    case "cutting":
      return `${cut} of ${contours} cut`;
    case "paused":
      return `Held at ${cut} of ${contours}`;
    case "trouble":
      return trouble ?? "It stopped";
    case "cut":
      return "Take it out";
    case "done":
      return "All is cut";
    default:
      return unknown(stage);
  }
}

function unknown(stage: never): string {
  return String(stage);
}
