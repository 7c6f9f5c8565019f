"""Places of findings, moved from an art's own mm to where it lies on the stack."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from shapely import LinearRing

from gladstack.core.base.findings import Whereabouts
from gladstack.core.base.plane import Box, Point
from gladstack.core.films.drift import Drift
from gladstack.core.geometry.curves import IDENTITY, Matrix, transform_points
from gladstack.core.geometry.runs import Run
from gladstack.core.geometry.shapes import placed
from gladstack.recipe.art.mended import moved_point


def laid(place: Whereabouts, matrix: Matrix) -> Whereabouts:
    """A place told in an art's own mm, where it lies on the stack."""
    if matrix == IDENTITY:
        return place
    at = moved_point(place.at, matrix) if place.at else None
    outlines = tuple(tuple(moved_point(p, matrix) for p in line) for line in place.outlines)
    if place.box:
        outlines = (*outlines, tuple(moved_point(p, matrix) for p in corners(place.box)))
    return Whereabouts(at=at, outlines=outlines)


def around(ring: LinearRing) -> tuple[Point, ...]:
    """The corners of a ring, each once."""
    return tuple((float(x), float(y)) for x, y in ring.coords[:-1])


def corners(box: Box) -> tuple[Point, ...]:
    """The corners of a box."""
    left, top, right, bottom = box
    return (left, top), (right, top), (right, bottom), (left, bottom)


def laid_runs(runs: Sequence[Run], matrix: Matrix) -> tuple[Run, ...]:
    """Stretches that are narrow, laid by a matrix that keeps their size."""
    return tuple(laid_run(run, matrix) for run in runs)


def laid_run(run: Run, matrix: Matrix) -> Run:
    """One of them."""
    a, b = (moved_point(side, matrix) for side in run.sides)
    lines = tuple(transform_points(line, matrix) for line in run.lines)
    return replace(run, at=moved_point(run.at, matrix), sides=(a, b), lines=lines)


def laid_drift(drift: Drift, matrix: Matrix | None) -> Drift:
    """What a film bares if it slips, laid by a matrix that keeps its size; it slips the other way where that is turned."""
    if matrix is None:
        return drift
    a, b, c, d, _, _ = matrix
    return Drift(moved_point(drift.slip, (a, b, c, d, 0.0, 0.0)), drift.mm2, placed(drift.shape, matrix))
