"""Proving designs: what will go wrong, before a blade touches film."""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from gladstack.commands.build import from_picture, from_recipe
from gladstack.commands.jobs import shop_of
from gladstack.core.base.errors import RecipeError
from gladstack.core.base.units import parse_length
from gladstack.core.films.thickness import area_by_count
from gladstack.proof.check import OnFilm
from gladstack.proof.finding import Finding
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_of, proof_of_plan, proof_on_film
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.shop.jobs.job import Job, JobDesign, JobFilm
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

_DESIGN = "design"
_SEVERITIES = {"stop": "will fail", "mind": "may fail", "note": "good to know"}


def proof(options: argparse.Namespace) -> int:
    """Tells all that is found; 1 if something will fail."""
    path: Path = options.source
    recipe, held = from_recipe(path) if path.suffix.lower() == ".json" else from_picture(path, options)
    shop, memo = shop_of(options.data), Memo()
    begin = time.perf_counter()
    stages = Stages(memo)
    built = build(recipe, Assets(picture=held.__getitem__, file=held.__getitem__), memo)
    films = tuple(
        JobFilm(design=_DESIGN, film=layer.film, material=_material(options.material, shop)) for layer in built.layers
    )
    job = Job(
        name=recipe.name, designs=(JobDesign(design=_DESIGN, name=recipe.name),), films=films if options.material else ()
    )
    slip = None if options.slip is None else parse_length(options.slip)
    read = on_film(built, job, shop, stages, slip)
    designs = {_DESIGN: built}
    found: list[Finding[Any]] = [
        *proof_of(built, stages),
        *proof_on_film(read),
        *proof_of_plan(plan(job, designs, shop), designs),
    ]
    spent = time.perf_counter() - begin
    if options.json:
        print(json.dumps(proof_data(read, found, spent), ensure_ascii=False, indent=1))
    else:
        for one in found:
            print(f"{_SEVERITIES[one.severity]}: {one.text} {one.helps}".rstrip())
        print(f"{len(found)} findings in {spent:.2f} s" if found else "No problems found.", file=sys.stderr)
    return 1 if any(one.severity == "stop" for one in found) else 0


def _material(name: str | None, shop: Shop) -> str | None:
    """The id of a material by that or by its name. Raises RecipeError."""
    if name is None:
        return None
    found = next((m for m in shop.materials if name.casefold() in (m.id.casefold(), m.name.casefold())), None)
    if found is None:
        raise RecipeError(f"There is no film “{name}” on the shelf.", "Name one of it by its name or id.")
    return found.id


def proof_data(read: OnFilm, found: Sequence[Finding[Any]], seconds: float) -> dict[str, Any]:
    """The proof as plain values; lengths in mm, areas in mm2."""
    areas = area_by_count(read.at_least)
    return {
        "findings": [_finding(one) for one in found],
        "films": [
            {"film": f.film, "name": f.layer.name, "material": f.material.name, "least_part_mm": f.material.least_part_mm,
             "least_waste_mm": f.material.least_waste_mm}
            for f in read.films
        ],
        "drift": [
            {"film": f.film, "slip_mm": read.slip_mm, "worst_mm2": round(drift.mm2, 4)}
            for f, drift in zip(read.films, read.drift, strict=True)
        ],
        "thickness": {
            "most": len(areas),
            "area_by_count_mm2": {str(k): round(mm2, 4) for k, mm2 in areas.items()},
        },
        "seconds": round(seconds, 3),
    }  # fmt: skip


def _finding(one: Finding[Any]) -> dict[str, Any]:
    place, measure = one.place, one.measure
    at = place.at if place else None
    if place and at is None and (corners := place.outlines[0] if place.outlines else None):
        at = corners[0]
    if place and at is None and place.box:
        left, top, right, bottom = place.box
        at = ((left + right) / 2, (top + bottom) / 2)
    return {
        "code": one.code, "severity": one.severity, "film": one.about, "at": list(at) if at else None,
        "figure": measure.figure if measure else None, "unit": measure.unit if measure else None,
        "limit": measure.limit if measure else None, "limit_from": measure.limit_from if measure else None,
        "text": one.text, "fixes": [fix.label for fix in one.fixes],
    }  # fmt: skip
