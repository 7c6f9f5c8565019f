"""The files a maker takes away: sheets, the layered decal, the order of assembly, and a summary for other programs."""

from __future__ import annotations

import json
import textwrap
from typing import Any

from gladstack.core.base.units import format_length
from gladstack.core.plan.placement import put_on_sheet
from gladstack.core.write.svg import SvgLayer, sheet_svg, stack_svg
from gladstack.recipe.build.built import Built, require_layers
from gladstack.recipe.edit.base import art_name
from gladstack.shop.sheets import Plan, SheetPlan

_MARKS = (
    "Registration marks: three crosses, the same on every sheet. Lay each film so that its crosses cover those below; "
    "the corner without a cross is the lower right of the decal."
)


def sheet_file(plan: Plan, sheet: SheetPlan) -> str:
    """One sheet as SVG text, mirrored if its film is heat-transfer."""
    layer = sheet.layer
    marks = put_on_sheet(plan.marks, sheet.placement)
    notes = f"{layer.name}, {sheet.sheet.method} film" + (", mirrored" if sheet.sheet.mirrored else "")
    group = SvgLayer(
        layer.slug, layer.name, layer.colour, tuple(c for part in sheet.parts for c in (part.shell, *part.holes))
    )
    title = f"{plan.built.recipe.name}: {layer.name}"
    return sheet_svg(title, notes, sheet.sheet.width_mm, sheet.sheet.height_mm, group, marks)


def stack_file(built: Built) -> str:
    """The whole decal as SVG text, a group for each layer, bottom first."""
    cut = [layer for layer in built.layers if not layer.cut.is_empty]
    groups = [SvgLayer(layer.slug, layer.name, layer.colour, layer.outline.rings) for layer in cut]
    return stack_svg(built.recipe.name, built.frame, groups, "Cut shapes from the ground up.")


def summary(plan: Plan) -> dict[str, Any]:
    """Figures of the whole design, its layers from the ground up, and the joint of every pair that meets."""
    built = plan.built
    return {
        "name": built.recipe.name,
        "width_mm": round(built.width_mm, 4),
        "height_mm": round(built.height_mm, 4),
        "page_mm": [round(built.box[2] - built.box[0], 4), round(built.box[3] - built.box[1], 4)],
        "arts": [{"id": art.id, "kind": art.kind, "name": art_name(art)} for art in built.recipe.arts],
        "colours": len(built.colours),
        "flat": built.flat,
        "wrong_area_ratio": built.wrong_area_ratio,
        "lost_mm2": round(built.lost_mm2, 4),
        "lost_share": round(built.lost_share, 6),
        "max_thickness": built.max_thickness,
        "layers": [
            {
                "name": layer.name,
                "film": layer.film,
                "colour": layer.colour,
                "area_mm2": round(layer.cut.area, 4),
                "cut_length_mm": round(layer.outline.length_mm, 3),
                "nodes": layer.outline.nodes,
                "sheet": None if layer.cut.is_empty else sheet.file,
                "mirrored": sheet.sheet.mirrored,
                "method": sheet.sheet.method,
                "fits": sheet.placement.fits,
            }
            for sheet in plan.sheets
            for layer in (sheet.layer,)
        ],
        "joints": [{"lower": j.lower, "upper": j.upper, "kind": j.joint.kind.value, "mm": j.joint.mm} for j in built.joints],
        "findings": [
            {"code": f.code, "severity": f.severity, "text": f.text, "about": f.about, "helps": f.helps}
            for f in (*built.findings, *plan.findings)
        ],
        "seconds": {stage: round(spent, 4) for stage, spent in built.seconds.items()},
    }


def assembly_order(plan: Plan) -> str:
    """One page of plain text: what to cut, and in which order the films go together."""
    built, sheets = plan.built, plan.cut
    recipe = built.recipe
    unit = recipe.unit
    rows = [
        recipe.name,
        "=" * min(78, len(recipe.name)),
        f"Finished size {format_length(built.width_mm, unit)} × {format_length(built.height_mm, unit)}, "
        f"{len(sheets)} film{'s' if len(sheets) != 1 else ''}, at most {built.max_thickness} on one another.",
        "",
        "Cut",
        "---",
    ]
    for one in sheets:
        layer = one.layer
        flags = " (mirrored)" if one.sheet.mirrored else ""
        size = f"{format_length(one.sheet.width_mm, unit)} × {format_length(one.sheet.height_mm, unit)}"
        rows.append(f"  {one.file}: {layer.name} {layer.colour}, {one.sheet.method} film{flags}, sheet {size}")
    rows += ["", *_steps(sheets)]
    if recipe.marks:
        rows += ["", *wrapped(_MARKS)]
    findings = (*built.findings, *plan.findings)
    if findings:
        rows += ["", "Mind", "----", *(line for f in findings for line in wrapped(f"- {f.text} {f.helps}".rstrip()))]
    return "\n".join(rows) + "\n"


def _steps(sheets: list[SheetPlan]) -> list[str]:
    pressed = [s.layer for s in sheets if s.sheet.mirrored]
    taped = [s.layer for s in sheets if not s.sheet.mirrored]
    rows: list[str] = []
    if pressed:
        rows += ["Press, bottom first", "-------------------"]
        rows += wrapped("The sheets are cut mirrored, carrier side down; weed, turn over, press short, peel the carrier.")
        rows += [f"  {k}. {layer.name} {layer.colour}" for k, layer in enumerate(pressed, 1)]
        rows += wrapped("Press the last one for the full time, not the first: a base pressed too long shrinks.")
    if pressed and taped:
        rows += [""]
    if taped:
        rows += ["Gather on transfer tape, top first", "----------------------------------"]
        rows += wrapped("Lift the top film onto the tape, then with the same tape each film below it, in register.")
        rows += [f"  {k}. {layer.name} {layer.colour}" for k, layer in enumerate(reversed(taped), 1)]
        rows += wrapped("The last one lies on the ground: lay the gathered stack down and peel off the tape.")
    return rows


def wrapped(text: str) -> list[str]:
    """A paragraph in lines of a page."""
    return textwrap.wrap(text, 78, subsequent_indent="  ")


def pack_files(plan: Plan, *, with_summary: bool = False) -> dict[str, bytes]:
    """Every file to take away, by its relative path. Raises RecipeError if there is nothing to cut."""
    require_layers(plan.built)
    files = {"stack.svg": stack_file(plan.built), "assembly.txt": assembly_order(plan)}
    files |= {sheet.file: sheet_file(plan, sheet) for sheet in plan.cut}
    if with_summary:
        files["stack.json"] = json.dumps(summary(plan), indent=1, ensure_ascii=False) + "\n"
    return {path: text.encode() for path, text in files.items()}
