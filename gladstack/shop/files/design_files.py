"""The files of one design on sheets of a given size, and what other programs are told of it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from gladstack.core.base.findings import Told
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.model.uses import USES
from gladstack.shop.files.formats import sheet_files
from gladstack.shop.files.job_files import assembly, stack_file, told_json
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.formats import Format


def design_files(built: Built, plan: Plan, told: Sequence[Told]) -> dict[str, bytes]:
    """Every file to take away, by its relative path, with what is `told` of design and plan."""
    files = sheet_files(plan, (Format.SVG,))
    texts = {
        "stack.svg": stack_file(built),
        "assembly.txt": assembly(plan, {plan.job.designs[0].design: built}, told),
        "stack.json": json.dumps(stack_json(built, plan, told), indent=1, ensure_ascii=False) + "\n",
    }
    return files | {path: text.encode() for path, text in texts.items()}


def stack_json(built: Built, plan: Plan, told: Sequence[Told]) -> dict[str, Any]:
    """Figures of the whole design, its layers from the ground up, and the joint of every pair that meets."""
    sheets = {s.parts[0].bit.film.film: s for s in plan.sheets}
    off = {film.film for film in plan.too_large}
    recipe = built.recipe
    return {
        "name": recipe.name,
        "width_mm": round(built.width_mm, 4),
        "height_mm": round(built.height_mm, 4),
        "page_mm": [round(built.box[2] - built.box[0], 4), round(built.box[3] - built.box[1], 4)],
        "arts": [{"id": art.id, "kind": art.kind, "name": art.title} for art in recipe.arts],
        "colours": len(built.colours),
        "flat": built.flat,
        "wrong_area_ratio": wrong_area_ratio(built),
        "lost_mm2": round(built.lost_mm2, 4),
        "lost_share": round(built.lost_share, 6),
        "max_thickness": most_films(built),
        "layers": [
            {
                "name": layer.name,
                "film": layer.film,
                "colour": layer.colour,
                "area_mm2": round(layer.cut.area, 4),
                "cut_length_mm": round(layer.outline.length_mm, 3),
                "nodes": layer.outline.nodes,
                "sheet": sheet.file if (sheet := sheets.get(layer.film)) else None,
                "mirrored": USES[use := recipe.use_of(layer.film)].mirrored,
                "method": USES[use].method,
                "fits": layer.film not in off,
            }
            for layer in built.layers
        ],
        "joints": [{"lower": j.lower, "upper": j.upper, "kind": j.joint.kind.value, "mm": j.joint.mm} for j in built.joints],
        "findings": [told_json(f) for f in told],
        "seconds": {stage: round(spent, 4) for stage, spent in built.seconds.items()},
    }
