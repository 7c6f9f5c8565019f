"""Curves fitted to edges that no curve is known for; they keep to these between the points as well as at them."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base import tolerances
from gladstack.core.base.compiled import jit
from gladstack.core.geometry.curves import Chain, line_chain
from gladstack.core.geometry.fit import fit_polyline

FloatArray = npt.NDArray[np.float64]
BoolArray = npt.NDArray[np.bool_]

NEW_CORNER = np.radians(20.0)
"""A new edge that turns by more has a corner there; the rounds of offsets are flattened in much smaller turns."""
NEW_SPACING_MM = 0.2
_ON_THE_WAY_MM = 2e-3
"""Fitting passes over points that lie closer to one another than half of this."""
_BETWEEN = np.linspace(0, 1, 9)[1:-1]


def fit_edges(points: FloatArray, *, closed: bool) -> Chain:
    """Lines and curves along points (n, 2), within the fitting tolerance; corners stay."""
    curves, straight = fit_polyline(points, NEW_CORNER, NEW_SPACING_MM, tolerances.CURVE_FIT_MM, closed)
    for k in np.flatnonzero(_strays(curves, straight, points))[::-1]:
        lines = _edges_between(points, curves[k, 0], curves[k, 3])
        curves = np.concatenate([curves[:k], lines, curves[k + 1 :]])
        straight = np.concatenate([straight[:k], np.ones(len(lines), np.bool_), straight[k + 1 :]])
    return Chain(curves, straight)


def _strays(curves: FloatArray, straight: BoolArray, points: FloatArray) -> BoolArray:
    """Which curves leave the way of the points in between, though they pass by all of them: a few points hold no curve."""
    strays = np.zeros(len(curves), np.bool_)
    bent = np.flatnonzero(~straight)
    t = _BETWEEN[None, :, None]
    c = curves[bent, None]
    way = (1 - t) ** 3 * c[:, :, 0] + 3 * (1 - t) ** 2 * t * c[:, :, 1] + 3 * (1 - t) * t**2 * c[:, :, 2] + t**3 * c[:, :, 3]
    strays[bent] = ~_kept_to(way, curves[bent, 3], np.ascontiguousarray(points), 2 * tolerances.CURVE_FIT_MM)
    return strays


@jit
def _kept_to(ways: Any, ends: Any, points: Any, limit: float) -> Any:
    """Whether all points of each way (n, k, 2) lie within `limit` of the line along `points` (m, 2).

    The ways follow one another along the line, each to its own of `ends` (n, 2): the stretch up to there is looked at first.
    """
    out = np.ones(len(ways), np.bool_)
    begin, last = 0, len(points) - 2
    for k in range(len(ways)):
        end = begin
        while end < last and _distance(ends[k], points, end, end) > _ON_THE_WAY_MM:
            end += 1
        for i in range(ways.shape[1]):
            if _distance(ways[k, i], points, begin, end) > limit and _distance(ways[k, i], points, 0, last) > limit:
                out[k] = False
                break
        begin = end
    return out


@jit
def _distance(at: Any, points: Any, first: int, last: int) -> float:
    """How far a point lies from the edges `first` to `last` of a line."""
    least = np.inf
    for k in range(first, last + 1):
        ax, ay = points[k, 0], points[k, 1]
        dx, dy = points[k + 1, 0] - ax, points[k + 1, 1] - ay
        size = dx * dx + dy * dy
        share = 0.0 if size == 0.0 else min(1.0, max(0.0, ((at[0] - ax) * dx + (at[1] - ay) * dy) / size))
        least = min(least, np.hypot(at[0] - ax - share * dx, at[1] - ay - share * dy))
    return float(least)


def _edges_between(points: FloatArray, start: FloatArray, end: FloatArray) -> FloatArray:
    """The edges from one of the points to another as straight pieces (n, 4, 2), around the ring's end if need be."""
    first, last = (int(np.argmin(np.hypot(*(points - at).T))) for at in (start, end))
    way = points[first : last + 1] if last > first else np.vstack([points[first:], points[1 : last + 1]])
    return line_chain(np.vstack([start, *way[1:-1], end])).pieces
