"""What must hold for a plan, measured on it: the six invariants of `plan()`."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.shapes import clean
from gladstack.core.plan.laying import moved
from gladstack.core.plan.tiles import gaps, given_back
from gladstack.shop.plan.furnish import polygon
from gladstack.shop.plan.planned import Plan, SheetPlan
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.supply import TO_BUY


def measured(plan: Plan) -> dict[str, Any]:
    """All that is measured; with everything right the lists are empty, the errors next to nothing."""
    apart = [(s.spacing_mm, least_distance(s)) for s in plan.sheets]
    return {
        "missing_parts": missing_parts(plan),
        "tiles_wrong_mm2": round(tiles_wrong(plan), 9),
        "least_distance_mm": _rounded(min((least for _, least in apart), default=None)),
        "spacing_short_mm": _rounded(max([0.0, *(spacing - least for spacing, least in apart)])),
        "outside_mm": _rounded(max((outside(s) for s in plan.sheets), default=0.0)),
        "weed_line_nearest_mm": _rounded(min((d for s in plan.sheets for d in line_distances(s)), default=None)),
        "origins_differ_mm": origins_differ(plan),
        "stock_overdrawn": overdrawn(plan),
    }


def _rounded(value: float | None) -> float | None:
    return None if value is None or not np.isfinite(value) else round(float(value), 6)


def missing_parts(plan: Plan) -> list[str]:
    """Parts that are not on the sheets as often as there are copies."""
    whole = Counter(
        (p.bit.film.design, p.bit.film.film, p.bit.part) for s in plan.sheets for p in s.parts if p.bit.tile is None
    )
    tiled = {
        (p.bit.film.design, p.bit.film.film, p.bit.part, p.bit.copy)
        for s in plan.sheets
        for p in s.parts
        if p.bit.tile is not None
    }
    out = []
    for film in plan.films:
        for k in range(len(film.cutting.outline.parts)):
            count = whole[film.design, film.film, k] + sum(
                (film.design, film.film, k, c) in tiled for c in range(film.copies)
            )
            if count != film.copies:
                out.append(f"{film.design} {film.film} {k}: {count} of {film.copies}")
    return out


def tiles_wrong(plan: Plan) -> float:
    """How far tiles put together at their seams are from the parts, at most, in mm2."""
    pieces: dict[tuple[str, str, int], list[BaseGeometry]] = {}
    for sheet in plan.sheets:
        for p in sheet.parts:
            if p.bit.tile is not None:
                pieces.setdefault((p.bit.film.design, p.bit.film.film, p.bit.copy), []).append(p.bit.polygon)
    worst = 0.0
    for film in plan.films:
        for copy in range(film.copies):
            own = pieces.get((film.design, film.film, copy))
            if own:
                parts = {p.bit.part for s in plan.sheets for p in s.parts if p.bit.film is film and p.bit.tile is not None}
                shape = MultiPolygon([g for k, g in enumerate(film.cutting.shape.geoms) if k in parts])
                if gone := _left_open(plan, film):
                    shape = clean(shape.difference(gone))
                worst = max(worst, given_back(shape, [MultiPolygon([g]) for g in own]))  # type: ignore[list-item]
    return worst


def _left_open(plan: Plan, film: WantedFilm) -> BaseGeometry | None:
    """The gaps at the seams of a film in register."""
    register = plan.registers.get((film.design, film.film))
    if register is None or (seams := register.seams.get(film.film)) is None:
        return None
    strips = gaps(film.extent, seams, register.overlap_mm)
    return shapely.union_all([shapely.box(*strip) for strip in strips]) if strips else None


def least_distance(sheet: SheetPlan) -> float:
    """The least distance between two parts of a sheet; those of one block or cluster keep the places they have."""
    names: dict[object, int] = {}
    groups = []
    for n, p in enumerate(sheet.parts):
        together = (p.bit.film.film, p.bit.copy, p.bit.tile) if sheet.layout != "nested" else (p.cluster or n)
        groups.append(names.setdefault(together, len(names)))
    shapes = np.array([p.shape for p in sheet.parts], dtype=object)
    return least_between(shapes, np.array(groups), max(sheet.spacing_mm, 1.0))


def least_between(shapes: np.ndarray, groups: np.ndarray, near_mm: float = 1.0) -> float:  # type: ignore[type-arg]
    """The least distance between two of some shapes that are in different groups (whole numbers).

    It is looked for within `near_mm`, then farther and farther: to ask for the nearest of each would compare far more.
    """
    if len(np.unique(groups)) < 2:
        return float("inf")
    tree = shapely.STRtree(shapes)
    while True:
        a, b = tree.query(shapes, predicate="dwithin", distance=near_mm)
        apart = (a < b) & (groups[a] != groups[b])
        if apart.any():
            return float(shapely.distance(shapes[a[apart]], shapes[b[apart]]).min())
        near_mm *= 2


def outside(sheet: SheetPlan) -> float:
    """How far anything cut reaches beyond the margins."""
    drawn = [p.shape for p in sheet.parts] + [
        polygon(c) for c in (*sheet.furniture.marks, *sheet.furniture.slug, *sheet.furniture.test)
    ]
    boxes = np.array([*(d.bounds for d in drawn), *sheet.furniture.boxes])
    m = sheet.margin_mm
    low = m - boxes[:, :2].min()
    high = max(boxes[:, 2].max() - (sheet.length_mm - m), boxes[:, 3].max() - (sheet.width_mm - m))
    return float(max(0.0, low, high))


def line_distances(sheet: SheetPlan) -> Sequence[float]:
    """How near weed lines come to what is cut."""
    if not sheet.furniture.lines:
        return []
    lines = shapely.linestrings(np.array(sheet.furniture.lines))
    marks = [polygon(c) for c in (*sheet.furniture.marks, *sheet.furniture.slug, *sheet.furniture.test)]
    tree = shapely.STRtree([p.shape for p in sheet.parts] + marks)
    _, distance = tree.query_nearest(lines, return_distance=True)
    return [float(d) for d in distance]


def origins_differ(plan: Plan) -> float:
    """How far apart films in register lie on their sheets; nothing, to the bit."""
    seen: dict[tuple[str, int, int | None, bool], set[Matrix]] = {}
    for sheet in plan.sheets:
        for p in sheet.parts:
            if (
                sheet.layout == "register"
                and not plan.registers[p.bit.film.design, p.bit.film.film].seams
                and not _shrinks(p.bit.film.onto_film)
            ):
                seen.setdefault((p.bit.film.design, p.bit.copy, p.bit.tile, sheet.mirrored), set()).add(p.matrix)
    return max((float(np.ptp(np.array(list(m)), axis=0).max()) for m in seen.values()), default=0.0)


def _shrinks(matrix: Matrix) -> bool:
    return abs(abs(matrix[0]) - 1) > 1e-12 or abs(matrix[3] - 1) > 1e-12


def overdrawn(plan: Plan) -> list[str]:
    """Pieces of stock of which more is taken than there is."""
    taken: Counter[str] = Counter()
    there: dict[str, float] = {}
    for sheet in plan.sheets:
        if sheet.piece.id != TO_BUY:
            taken[sheet.piece.id] += sheet.use.amount  # type: ignore[assignment]
            there.setdefault(sheet.piece.id, sheet.piece.left)
    return [id_ for id_, amount in taken.items() if amount > there[id_] + 1e-6]


def read_back(shape: BaseGeometry, matrix: Matrix) -> BaseGeometry:
    """A shape of a sheet back in the design."""
    a, b, c, d, e, f = matrix
    det = a * d - b * c
    back = (d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det)
    return moved(shape, back)
