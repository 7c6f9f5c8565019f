"""The files of a plan: a sheet each as SVG, and all of it as plan.json for other programs."""

from __future__ import annotations

import json
import textwrap
from collections.abc import Mapping, Sequence
from typing import Any

from gladstack.core.base.findings import Told
from gladstack.core.base.plane import Box
from gladstack.core.base.units import format_length
from gladstack.core.write.pdf import Paper
from gladstack.core.write.svg import SvgLayer, stack_svg
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films
from gladstack.shop.files.formats import OUTPUTS, PLAIN, sheet_files
from gladstack.shop.papers.steps import lying, work
from gladstack.shop.plan.checks import measured
from gladstack.shop.plan.planned import PlacedPart, Plan, SheetPlan
from gladstack.shop.shelf.formats import Format


def plan_json(plan: Plan, seconds: float, told: Sequence[Told] = ()) -> dict[str, Any]:
    """The plan for other programs; lengths in mm."""
    return {
        "name": plan.job.name,
        "cutter": plan.job.cutter,
        "sheets": [_sheet(s) for s in plan.sheets],
        "designs": [
            {
                "name": d.name,
                "design": d.design,
                "copies": d.copies,
                "films": len(plan.films_of(d.design)),
                "parts": sum(len(f.cutting.outline.parts) for f in plan.films_of(d.design)),
            }
            for d in plan.job.designs
        ],
        "length_used_mm": round(sum(s.length_used_mm for s in plan.sheets), 3),
        "naive_length_mm": plan.naive_length_mm,
        "seams": [
            {
                "design": design,
                "film": film,
                "x": list(own.x),
                "y": list(own.y),
                "overlap_mm": register.overlap_mm,
                "x_overlaps_mm": list(own.overlaps(0, register.overlap_mm)),
                "y_overlaps_mm": list(own.overlaps(1, register.overlap_mm)),
            }
            for (design, film), register in plan.registers.items()
            if (own := register.seams.get(film)) is not None
        ],
        "invariants": measured(plan),
        "findings": [told_json(one) for one in told],
        "seconds": round(seconds, 3),
    }


def _sheet(sheet: SheetPlan) -> dict[str, Any]:
    furniture = sheet.furniture
    return {
        "file": sheet.file,
        "name": sheet.name,
        "material": sheet.material.id,
        "material_name": sheet.material.name,
        "colour": sheet.material.colour,
        "kind": sheet.material.kind,
        "mirrored": sheet.mirrored,
        "layout": sheet.layout,
        "width_mm": sheet.width_mm,
        "length_mm": sheet.length_mm,
        "margin_mm": sheet.margin_mm,
        "spacing_mm": sheet.spacing_mm,
        "stock": {
            "kind": sheet.piece.kind, "id": sheet.piece.id, "width_mm": sheet.piece.width_mm,
            "length_mm": sheet.piece.reach_mm,
        },
        "length_used_mm": sheet.length_used_mm,
        "film_used": round(sheet.film_used, 6),
        "cost": round(sheet.cost, 4),
        "parts": [_part(p) for p in sheet.parts],
        "path": {
            "lifts": sheet.path.lifts,
            "cut_mm": round(sheet.path.cut_mm, 3),
            "travel_mm": round(sheet.path.travel_mm, 3),
            "travel_before_mm": round(sheet.path.travel_before_mm, 3),
            "seconds": round(sheet.times.whole_s, 2),
            "seconds_before": round(sheet.times.before_s, 2),
        },
        "weed_lines": [[[a, b], [c, d]] for (a, b), (c, d) in furniture.lines],
        "weed_boxes": [_rect(b) for b in furniture.boxes],
        "marks": [_rect(b) for b in furniture.mark_boxes],
        "offcuts": [_rect(b) for b in furniture.kept],
    }  # fmt: skip


def _part(part: PlacedPart) -> dict[str, Any]:
    bit = part.bit
    return {
        "design": bit.film.design,
        "film": bit.film.film,
        "part": bit.part,
        "copy": bit.copy,
        "tile": bit.tile,
        "cluster": part.cluster or None,
        "matrix": [round(v, 12) for v in part.matrix],
    }


def _rect(box: Box) -> list[float]:
    left, top, right, bottom = box
    return [round(left, 4), round(top, 4), round(right - left, 4), round(bottom - top, 4)]


def told_json(told: Told) -> dict[str, Any]:
    """What is told, for other programs."""
    return {"code": told.code, "severity": told.severity, "text": told.text, "about": told.about, "helps": told.helps}


def plan_files(
    plan: Plan, told: Sequence[Told], seconds: float, formats: Sequence[Format] = PLAIN, paper: Paper = "film"
) -> dict[str, bytes]:
    """Every file of a plan, by its relative path: its sheets in some formats, and plan.json with what is `told` of it."""
    files = sheet_files(plan, formats, paper)
    text = json.dumps(plan_json(plan, seconds, told), indent=1, ensure_ascii=False) + "\n"
    return {**files, "plan.json": text.encode()}


def decal_files(
    plan: Plan, designs: Mapping[str, Built], told: Sequence[Told], formats: Sequence[Format] = PLAIN
) -> dict[str, bytes]:
    """The decal of every design layer by layer, and a page of text: what to cut, in which order the films go together, and
    what is `told` of designs and plan.
    """
    files: dict[str, bytes] = {"assembly.txt": assembly(plan, designs, told).encode()}
    for d in plan.job.designs:
        stem = "stack" if len(plan.job.designs) == 1 else f"stack-{d.design}"
        built = designs[d.design]
        files[f"{stem}.svg"] = stack_file(built).encode()
        for kind in formats:
            if (written := OUTPUTS[kind].decal) is not None:
                files[f"{stem}{OUTPUTS[kind].ending}"] = written(built)
    return files


def stack_file(built: Built) -> str:
    """The whole decal as SVG text, a group for each layer, bottom first."""
    cut = [layer for layer in built.layers if not layer.cut.is_empty]
    groups = [SvgLayer(layer.slug, layer.name, layer.colour, layer.outline.rings) for layer in cut]
    return stack_svg(built.recipe.name, built.frame, groups, "Cut shapes from the ground up.")


def wrapped(text: str) -> list[str]:
    """A paragraph in lines of a page."""
    return textwrap.wrap(text, 78, subsequent_indent="  ")


_MARKS = (
    "Registration marks: the same on every sheet. Lay each film so that its marks cover those below; where there are three, "
    "the corner without a mark is the lower right of the decal."
)


def assembly(plan: Plan, designs: Mapping[str, Built], told: Sequence[Told]) -> str:
    """What to cut, in which order the films go together, and what is `told` of designs and plan."""
    unit = next(iter(designs.values())).recipe.unit
    how = lying(plan)
    rows = [plan.job.name, "=" * min(78, len(plan.job.name)), "", "Cut", "---"]
    for s in plan.sheets:
        size = f"{format_length(s.length_used_mm, unit)} of film {format_length(s.width_mm, unit)} wide"
        mirrored = ", mirrored" if s.mirrored else ""
        rows.append(f"  {s.file}: {s.name}, {s.material.name} ({s.piece.kind}{mirrored}), {size}")
    for d in plan.job.designs:
        films = plan.films_of(d.design)
        built = designs[d.design]
        size = f"{format_length(built.width_mm, unit)} × {format_length(built.height_mm, unit)}"
        copies = f"{d.copies} copies" if d.copies > 1 else "one copy"
        rows += ["", f"{d.name}: {copies}, {size}, at most {most_films(built)} films on one another"]
        made = work(films, plan.job, unit, how)
        rows += ["", made.heading, "-" * len(made.heading)]
        rows += [line for k, step in enumerate(made.steps, 1) for line in wrapped(f"  {k}. {step.text}")]
        rows += [line for told in (made.schedule.told if made.schedule else ()) for line in wrapped(f"Mind: {told}")]
    if any(f.marks(plan.job) for f in plan.films):
        rows += ["", *wrapped(_MARKS)]
    if lines := dict.fromkeys(f"- {f.text} {f.helps}".rstrip() for f in told):
        rows += ["", "Mind", "----", *(line for text in lines for line in wrapped(text))]
    return "\n".join(rows) + "\n"
