"""Waste that is too narrow to be weeded: slits between and within parts, tiny holes, lines drawn twice."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.films.repairs import How
from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.runs import Run
from gladstack.core.geometry.shapes import placed
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import LONG, first, measured, place_of, repair, severity_of, tiny_width, too_narrow
from gladstack.proof.places import around
from gladstack.recipe.edit.edits import Edit

_DOUBLE_MM, _DOUBLE_LONG = 0.2, 20.0
"""Two lines so near for so many times their distance were meant to be one."""


def _slits(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = read.film.material.least_waste_mm
    holes = {ring for _, ring, _ in read.measured(_laid_holes, tiny_holes, limit)}
    runs = [run for run in too_narrow(read.narrow[1], limit) if not run.tip and not set(run.rings) <= holes]
    every = (repair(read, f"Fill all {len(runs)}", "fill", limit, None),) if len(runs) > 1 else ()
    yield from (_slit(read, run, limit, every) for run in first(runs))


def _slit(read: CutRead, run: Run, limit: float, every: tuple[Fix[Edit], ...]) -> Finding[Edit]:
    film = read.film
    double = run.mm < _DOUBLE_MM and run.length_mm > _DOUBLE_LONG * run.mm
    said = (
        f"Two cut lines of {film.layer.name} run {run.mm:.2f} mm apart over {run.length_mm:.1f} mm: one of them is enough."
        if double
        else f"The waste of {film.layer.name} is only {run.mm:.2f} mm wide here over {run.length_mm:.1f} mm; "
        f"below {limit:g} mm, waste of {film.material.spoken} tears or stays."
    )
    here = repair(read, "Fill it", "fill", limit, run.at)
    return Finding(
        "double-line" if double else "thin-waste", said, severity_of(run.mm, limit), place=place_of(run),
        measure=measured(run, limit), helps="Fill it, so that it needs no weeding.",
        fixes=(here, *every),
    )  # fmt: skip


def _holes(read: CutRead) -> Iterator[Finding[Edit]]:
    film, limit = read.film, read.film.material.least_waste_mm
    holes = read.measured(_laid_holes, tiny_holes, limit)
    found = sorted(holes, key=lambda one: one[0])
    ways: tuple[tuple[str, How], ...] = (("Fill", "fill"), ("Widen", "widen"))
    every = tuple(repair(read, f"{said} all {len(found)}", how, limit, None) for said, how in ways if len(found) > 1)
    for wide, _, hole in first(found):
        at = hole.point_on_surface()
        here = tuple(repair(read, f"{said} it", how, limit, (at.x, at.y)) for said, how in ways)
        yield Finding[Edit](
            "tiny-hole",
            f"A hole of {film.layer.name} is {wide:.2f} mm across; below {limit:g} mm, waste of {film.material.spoken} "
            "tears or stays.",
            severity_of(wide, limit),
            place=Whereabouts(at=(at.x, at.y), outlines=(around(hole.exterior),)),
            measure=Measure(round(wide, 3), limit, "mm"),
            helps="Fill it, widen it, or cut the decal larger.",
            fixes=(*here, *every),
        )


def _laid_holes(found: tuple[tuple[float, int, Polygon], ...], matrix: Matrix) -> tuple[tuple[float, int, Polygon], ...]:
    return tuple((wide, ring, placed(MultiPolygon([hole]), matrix).geoms[0]) for wide, ring, hole in found)


def tiny_holes(cut: MultiPolygon, limit: float) -> tuple[tuple[float, int, Polygon], ...]:
    """The holes that are narrow all over: how wide, the number of the ring, and the hole.

    Rings are counted with each part's outer edge before its holes.
    """
    rings, part = shapely.get_rings(np.array(cut.geoms, dtype=object), return_index=True)
    left, top, right, bottom = shapely.bounds(rings).T
    may_be = np.maximum(right - left, bottom - top) <= LONG * limit
    may_be[np.unique(part, return_index=True)[1]] = False
    holes = [(int(k), Polygon(rings[k])) for k in np.flatnonzero(may_be)]
    return tuple((wide, k, hole) for k, hole in holes if (wide := tiny_width(hole, limit)) is not None)


SLITS = CutCheck(
    ("thin-waste", "double-line"), _slits, "proof", "the narrowest waste that comes out of the material", "weeding"
)
HOLES = CutCheck(("tiny-hole",), _holes, "proof", "the narrowest waste that comes out of the material", "weeding")
