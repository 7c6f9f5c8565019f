"""The files a maker takes away: sheets, the layered decal, the order of assembly, and a summary for other programs."""

from __future__ import annotations

import io
import json
import textwrap
import zipfile
from typing import Any

from gladstack.core.base.units import format_length
from gladstack.core.plan.placement import put_on_sheet, registration_marks
from gladstack.core.write.svg import SvgLayer, sheet_svg, stack_svg
from gladstack.recipe.build.build import Built, BuiltLayer, require_layers

_MARKS = (
    "Registration marks: three crosses, the same on every sheet. Lay each film so that its crosses cover those below; "
    "the corner without a cross is the lower right of the decal."
)
_ZIP_DATE = (2000, 1, 1, 0, 0, 0)


def sheet_name(layer: BuiltLayer) -> str:
    """The file name of a layer's sheet, numbered from the ground up."""
    return f"sheets/{layer.slug}.svg"


def sheet_file(built: Built, layer: BuiltLayer) -> str:
    """One sheet as SVG text, mirrored if its film is heat-transfer."""
    marks = put_on_sheet(registration_marks(built.frame), layer.placement) if built.recipe.marks else ()
    notes = f"{layer.name}, {layer.sheet.method} film" + (", mirrored" if layer.sheet.mirrored else "")
    group = SvgLayer(layer.slug, layer.name, layer.colour, put_on_sheet(layer.outline.rings, layer.placement))
    return sheet_svg(f"{built.recipe.name}: {layer.name}", notes, layer.sheet.width_mm, layer.sheet.height_mm, group, marks)


def stack_file(built: Built) -> str:
    """The whole decal as SVG text, a group for each layer, bottom first."""
    groups = [SvgLayer(layer.slug, layer.name, layer.colour, layer.outline.rings) for layer in _cut_layers(built)]
    return stack_svg(built.recipe.name, built.box, groups, "Cut shapes from the ground up.")


def summary(built: Built) -> dict[str, Any]:
    """Figures of the whole design, its layers from the ground up, and the joint of every pair that meets."""
    return {
        "name": built.recipe.name,
        "width_mm": round(built.width_mm, 4),
        "height_mm": round(built.height_mm, 4),
        "colours": len(built.colours),
        "flat": built.flat,
        "wrong_area_ratio": built.wrong_area_ratio,
        "max_thickness": built.max_thickness,
        "layers": [
            {
                "name": layer.name,
                "film": layer.film,
                "colour": layer.colour,
                "area_mm2": round(layer.cut.area, 4),
                "cut_length_mm": round(layer.outline.length_mm, 3),
                "nodes": layer.outline.nodes,
                "sheet": sheet_name(layer),
                "mirrored": layer.sheet.mirrored,
                "method": layer.sheet.method,
                "fits": layer.placement.fits,
            }
            for layer in built.layers
        ],
        "joints": [{"lower": j.lower, "upper": j.upper, "kind": j.joint.kind.value, "mm": j.joint.mm} for j in built.joints],
        "notices": [{"code": n.code, "text": n.text, "about": n.about} for n in built.notices],
        "seconds": {stage: round(spent, 4) for stage, spent in built.seconds.items()},
    }


def assembly_order(built: Built) -> str:
    """One page of plain text: what to cut, and in which order the films go together."""
    recipe, layers = built.recipe, _cut_layers(built)
    unit = recipe.unit
    rows = [
        recipe.name,
        "=" * min(78, len(recipe.name)),
        f"Finished size {format_length(built.width_mm, unit)} × {format_length(built.height_mm, unit)}, "
        f"{len(layers)} film{'s' if len(layers) != 1 else ''}, at most {built.max_thickness} on one another.",
        "",
        "Cut",
        "---",
    ]
    for layer in layers:
        flags = " (mirrored)" if layer.sheet.mirrored else ""
        size = f"{format_length(layer.sheet.width_mm, unit)} × {format_length(layer.sheet.height_mm, unit)}"
        rows.append(f"  {sheet_name(layer)}: {layer.name} {layer.colour}, {layer.sheet.method} film{flags}, sheet {size}")
    rows += ["", *_steps(built, layers)]
    if recipe.marks:
        rows += ["", *_wrapped(_MARKS)]
    if built.notices:
        rows += ["", "Mind", "----", *(line for n in built.notices for line in _wrapped(f"- {n.text}"))]
    return "\n".join(rows) + "\n"


def _steps(built: Built, layers: list[BuiltLayer]) -> list[str]:
    pressed = [layer for layer in layers if layer.sheet.mirrored]
    taped = [layer for layer in layers if not layer.sheet.mirrored]
    rows: list[str] = []
    if pressed:
        rows += ["Press, bottom first", "-------------------"]
        rows += _wrapped("The sheets are cut mirrored, carrier side down; weed, turn over, press short, peel the carrier.")
        rows += [f"  {k}. {layer.name} {layer.colour}" for k, layer in enumerate(pressed, 1)]
        rows += _wrapped("Press the last one for the full time, not the first: a base pressed too long shrinks.")
    if pressed and taped:
        rows += [""]
    if taped:
        rows += ["Gather on transfer tape, top first", "----------------------------------"]
        rows += _wrapped("Lift the top film onto the tape, then with the same tape each film below it, in register.")
        rows += [f"  {k}. {layer.name} {layer.colour}" for k, layer in enumerate(reversed(taped), 1)]
        rows += _wrapped("The last one lies on the ground: lay the gathered stack down and peel off the tape.")
    return rows


def _wrapped(text: str) -> list[str]:
    return textwrap.wrap(text, 78, subsequent_indent="  ")


def _cut_layers(built: Built) -> list[BuiltLayer]:
    return [layer for layer in built.layers if not layer.cut.is_empty]


def pack_files(built: Built, *, with_summary: bool = False) -> dict[str, bytes]:
    """Every file to take away, by its relative path. Raises RecipeError if there is nothing to cut."""
    require_layers(built)
    files = {"stack.svg": stack_file(built), "assembly.txt": assembly_order(built)}
    files |= {sheet_name(layer): sheet_file(built, layer) for layer in _cut_layers(built)}
    if with_summary:
        files["stack.json"] = json.dumps(summary(built), indent=1, ensure_ascii=False) + "\n"
    return {path: text.encode() for path, text in files.items()}


def pack_zip(built: Built) -> bytes:
    """The files as a ZIP; the same design always gives the same bytes."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, data in sorted(pack_files(built).items()):
            archive.writestr(zipfile.ZipInfo(path, _ZIP_DATE), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()
