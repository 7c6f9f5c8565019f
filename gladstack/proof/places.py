"""Places of findings, moved from an art's own mm to where it lies on the stack."""

from __future__ import annotations

from gladstack.core.base.findings import Whereabouts
from gladstack.core.base.plane import Box, Point
from gladstack.core.geometry.curves import IDENTITY, Matrix
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


def corners(box: Box) -> tuple[Point, ...]:
    """The corners of a box."""
    left, top, right, bottom = box
    return (left, top), (right, top), (right, bottom), (left, bottom)
