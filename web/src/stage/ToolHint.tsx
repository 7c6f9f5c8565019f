import { never } from "@/geometry/kinds";
import type { Tool } from "@/state/tools";

/** What the pointer does with the tool in hand, in one sentence. */
export function ToolHint({ tool, hole }: { tool: Tool; hole: boolean }) {
  return (
    <>
      {hole ? inHole(tool) : sentence(tool)}{" "}
      <span className="opacity-70">
        {tool.kind === "claim" ? "Alt takes a thin line, and drags the table." : "Alt drags the table."} Esc puts the
        tool down.
      </span>
    </>
  );
}

function inHole(tool: Tool): string {
  if (tool.kind === "mend" && tool.step === "bridge") return "Drag across the hole, from one side to the other.";
  return `Draw a ${tool.by} round what of the hole is to be closed.`;
}

function sentence(tool: Tool): string {
  if (tool.kind === "claim") {
    if (tool.by === "box") return "Draw a box round regions.";
    if (tool.by === "lasso") return "Draw a lasso round regions.";
    return "Click regions, or drag over several; keys 1 to 9 take a film.";
  }
  switch (tool.step) {
    case "bridge":
      return "Drag from one end of the break to the other.";
    case "brush":
      return tool.mode === "add" ? "Paint what the film lacks." : "Wipe off what the film has too much of.";
    case "cut-away":
      return `Draw a ${tool.by} round what is to go.`;
    case "take-over":
      return `Draw a ${tool.by} round what is to be taken over.`;
    case "smooth":
    case "straighten":
    case "push":
      return "Drag from one point of an edge to another.";
    default:
      return never(tool.step);
  }
}
