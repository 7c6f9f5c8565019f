"""Contours in which a trailing blade has no room to turn."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Point
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import dropped, first, repair
from gladstack.recipe.edit.edits import Edit


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = round(2 * max(read.film.material.blade.offset_mm, read.whole.cutter.blade_offset_mm), 3)
    cut, small_mm2 = read.film.layer.cut, read.whole.built.recipe.small_mm2
    found: list[tuple[float, Polygon, tuple[Fix[Edit], ...]]] = []
    for wide, k, hole in small_contours(cut, limit):
        part = cut.geoms[k]
        if hole is None:
            # What the design takes for small is told of by itself.
            if part.area >= small_mm2:
                found.append((wide, Polygon(part.exterior), (dropped(read.film.film, part),)))
            continue
        ring = Polygon(part.interiors[hole])
        at, weeded = _middle(ring), max(limit, read.film.material.least_waste_mm)
        fixes = (repair(read, "Fill it", "fill", limit, at), repair(read, "Widen it", "widen", weeded, at))
        found.append((wide, ring, fixes))
    found.sort(key=lambda one: one[0])
    yield from (_finding(read, limit, *one) for one in first(found))


def small_contours(cut: MultiPolygon, limit: float) -> tuple[tuple[float, int, int | None], ...]:
    """Contours that are less than a limit across: how far, of which part, and which hole in it (None: its outer edge)."""
    rings, part = shapely.get_rings(np.array(cut.geoms, dtype=object), return_index=True)
    left, top, right, bottom = shapely.bounds(rings).T
    across, first_of = np.maximum(right - left, bottom - top), np.searchsorted(part, part)
    return tuple(
        (float(across[k]), int(part[k]), int(k - first_of[k] - 1) if k > first_of[k] else None)
        for k in np.flatnonzero(across < limit)
    )


def _finding(read: CutRead, limit: float, wide: float, within: Polygon, fixes: tuple[Fix[Edit], ...]) -> Finding[Edit]:
    outline = tuple((float(x), float(y)) for x, y in shapely.get_coordinates(within.exterior)[:-1])
    return Finding(
        "no-room-to-turn",
        f"A contour of {read.film.layer.name} is {wide:.2f} mm across: a blade that trails by {limit / 2:g} mm cannot turn "
        "in it.",
        "mind",
        place=Whereabouts(at=_middle(within), outlines=(outline,)),
        measure=Measure(round(wide, 3), limit, "mm"),
        helps="Fill, widen or drop it, or make the decal larger.",
        fixes=fixes,
    )


def _middle(area: Polygon) -> Point:
    at = area.point_on_surface()
    return at.x, at.y


CHECK = CutCheck(("no-room-to-turn",), _findings, "proof", "how far the blade's tip trails")
