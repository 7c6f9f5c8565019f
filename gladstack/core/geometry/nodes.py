"""Edges drawn by their nodes: a node taken to another place or turned into a curve or corner, and ways drawn with a pen."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.geometry.curves import flatten_pieces
from gladstack.core.geometry.mending import enclosed_by, redrawn, stroke

FloatArray = npt.NDArray[np.float64]

NodeForm = Literal["as-drawn", "smooth", "corner"]
"""How an edge runs through a node: as it was drawn, bent along; in one curve; or straight on both sides."""
_SETS_OUT = 0.15


def node_put(
    shape: MultiPolygon, before: Point, at: Point, after: Point, to: Point, form: NodeForm = "as-drawn"
) -> MultiPolygon:
    """`shape` with its edge, from the node `before` through the point `at` to the node `after`, led through `to` instead.

    Nothing beyond the two nodes moves. Raises MendError.
    """

    def draw(line: FloatArray) -> FloatArray:
        along = LineString(line)
        here = float(np.clip(along.project(shapely.Point(at)), 1e-9, along.length - 1e-9))
        if form == "corner":
            return np.array([line[0], to, line[-1]])
        if form == "smooth":
            return _in_one_curve(along, here, np.array(to, float))
        return _bent_along(line, here, np.array(to, float))

    return redrawn(shape, before, after, draw, at)


def _bent_along(line: FloatArray, here: float, to: FloatArray) -> FloatArray:
    """A line whose point at the length `here` goes to `to`; the rest follows in shares, so that straight sides stay so."""
    at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    node = np.array([np.interp(here, at, line[:, k]) for k in (0, 1)])
    beyond = int(np.searchsorted(at, here))
    points = np.insert(line, beyond, node, axis=0)
    lengths = np.insert(at, beyond, here)
    share = np.minimum(lengths / here, (at[-1] - lengths) / (at[-1] - here))
    return np.asarray(points + share[:, None] * (to - node))


def _in_one_curve(along: LineString, here: float, to: FloatArray) -> FloatArray:
    """Two curves that meet in `to` without a corner, and set out from the line's ends as it does there."""
    first, last = (np.array(along.interpolate(d).coords[0]) for d in (0.0, along.length))
    off = np.array(along.interpolate(_SETS_OUT * here).coords[0]) - first
    back = np.array(along.interpolate(along.length - _SETS_OUT * (along.length - here)).coords[0]) - last
    through = _unit(last - first)
    pieces = []
    for start, leaves, end, arrives in ((first, _unit(off), to, -through), (to, through, last, _unit(back))):
        reach = float(np.hypot(*(end - start))) / 3
        pieces.append([start, start + reach * leaves, end + reach * arrives, end])
    # No finer than need be: points that hardly leave the old edge would be taken for rounding.
    points, _ = flatten_pieces(np.array(pieces), np.zeros(2, bool), tolerances.FLATTEN_MM)
    return np.vstack([points, last])


def _unit(way: FloatArray) -> FloatArray:
    return np.asarray(way / max(float(np.hypot(*way)), 1e-12))


def drawn_way(anchors: Sequence[Point], handles: Sequence[Point], *, closed: bool) -> list[Point]:
    """The points of a way through anchors, each left towards its handle and reached from the opposite side.

    An anchor whose handle lies on it is a corner; between two of them the way is straight.
    """
    a, h = np.array(anchors, float), np.array(handles, float)
    into = 2 * a - h
    if closed:
        a, h, into = (np.vstack([one, one[:1]]) for one in (a, h, into))
    pieces = np.stack([a[:-1], h[:-1], into[1:], a[1:]], axis=1)
    straight = np.all(h[:-1] == a[:-1], axis=1) & np.all(into[1:] == a[1:], axis=1)
    points, _ = flatten_pieces(pieces, straight, tolerances.FLATTEN_MM)
    return [(x, y) for x, y in np.vstack([points, a[-1:]]).tolist()]


def drawn_area(anchors: Sequence[Point], handles: Sequence[Point], *, closed: bool, width_mm: float) -> MultiPolygon:
    """What a pen draws: the area a closed way goes round, or a line of a width. Raises MendError where that is nothing."""
    if len(anchors) != len(handles) or len(anchors) < 2:
        raise MendError("This is a point, not a way.", "Draw at least two points.")
    points = drawn_way(anchors, handles, closed=closed)
    return enclosed_by(points) if closed else stroke(points, width_mm)
