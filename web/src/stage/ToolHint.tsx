import type { ReactNode } from "react";
import { never } from "@/geometry/kinds";
import { type Claiming, isTakenUp, type Mending, type Mode, type NodeClick } from "@/state/mode";

/** What the hand does in its mode, in one sentence; `hole` says that the art is a hole in other films. */
export function ToolHint({ mode, hole }: { mode: Mode; hole: boolean }): ReactNode {
  switch (mode.kind) {
    case "claiming":
      return <Told how={claimed(mode)} rest="Alt takes a thin line, and drags the table. Esc puts the tool down." />;
    case "mending":
      return <Told how={hole ? inHole(mode) : mended(mode)} rest="Alt drags the table. Esc puts the tool down." />;
    case "picking":
      return `${mode.picks.length} picked. Click more, or Done in the panel; Esc leaves picking.`;
    case "holing":
      return "Click a hole to fill it, or once more to open it. Esc ends it.";
    case "slipping":
      return (
        <Told
          how="Drag the film off its place; what shows through glows."
          rest="Arrow keys move it by 0.1 mm. Esc lays it back."
        />
      );
    case "looking":
    case "arranging":
    case "writing":
      return null;
    default:
      return never(mode);
  }
}

/** Whether a mode says what it does. */
export function isHinted(mode: Mode): boolean {
  return isTakenUp(mode) && mode.kind !== "writing";
}

function Told({ how, rest }: { how: string; rest: string }) {
  return (
    <>
      {how} <span className="opacity-70">{rest}</span>
    </>
  );
}

function inHole(mode: Mending): string {
  if (mode.step === "bridge") return "Drag across the hole, from one side to the other.";
  return `Draw a ${mode.by} round what of the hole is to be closed.`;
}

function claimed(mode: Claiming): string {
  if (mode.by !== "touch") return `Draw a ${mode.by} round regions; the ink between areas is left alone.`;
  return "Click regions, or drag over several; keys 1 to 9 take a film.";
}

const CLICKED: Record<NodeClick, string> = {
  "take-out": "takes a node out",
  smooth: "makes the edge one curve there",
  corner: "makes a corner there",
};

function mended(mode: Mending): string {
  switch (mode.step) {
    case "bridge":
      return "Drag from one end of the break to the other.";
    case "brush":
      return mode.mode === "add" ? "Paint what the film lacks." : "Wipe off what the film has too much of.";
    case "cut-away":
      return `Draw a ${mode.by} round what is to go.`;
    case "take-over":
      return `Draw a ${mode.by} round what is to be taken over.`;
    case "move-edge":
      return "Drag an edge to where it belongs; what lies beside it follows.";
    case "draw-edge":
      return "Draw the way that an edge is to take, from one point of it to another.";
    case "nodes":
      return `Drag a node, or an edge between two; a click ${CLICKED[mode.node]}. Shift keeps it from snapping.`;
    case "draw-area":
      return "Click corners; drag for curves. The first point closes it, Enter ends a line, Backspace takes one back.";
    case "smooth":
    case "straighten":
    case "push":
      return "Drag from one point of an edge to another.";
    default:
      return never(mode.step);
  }
}
