"""Contours in which a trailing blade has no room to turn."""

from __future__ import annotations

from collections.abc import Iterator

import shapely
from shapely import Polygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Point
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import dropped, first, repair
from gladstack.recipe.edit.edits import Edit


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = round(2 * max(read.film.material.blade.offset_mm, read.whole.cutter.blade_offset_mm), 3)
    found: list[tuple[float, Polygon, tuple[Fix[Edit], ...]]] = []
    for part in read.film.layer.cut.geoms:
        # What the design takes for small is told of by itself.
        if (wide := _across(Polygon(part.exterior))) < limit and part.area >= read.whole.built.recipe.small_mm2:
            found.append((wide, Polygon(part.exterior), (dropped(read.film.film, part),)))
        for ring in part.interiors:
            if (wide := _across(hole := Polygon(ring))) < limit:
                at, weeded = _middle(hole), max(limit, read.film.material.least_waste_mm)
                found.append(
                    (wide, hole, (repair(read, "Fill it", "fill", limit, at), repair(read, "Widen it", "widen", weeded, at)))
                )
    found.sort(key=lambda one: one[0])
    yield from (_finding(read, limit, *one) for one in first(found))


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


def _across(area: Polygon) -> float:
    left, top, right, bottom = area.bounds
    return float(max(right - left, bottom - top))


def _middle(area: Polygon) -> Point:
    at = area.point_on_surface()
    return at.x, at.y


CHECK = CutCheck(("no-room-to-turn",), _findings, "proof", "how far the blade's tip trails")
