"""Strokes as shapes: caps, joins and dashes after SVG 2, section 13."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean

FloatArray = npt.NDArray[np.float64]

_SHORT = 4.0
_HARDLY_A_TURN, _DOT = 1e-6, 1e-7
"""The sine of a turn at which pointed and flat joins are the same."""


@dataclass(frozen=True)
class Pen:
    """How a path is stroked; lengths in the units of its points."""

    width: float
    cap: Literal["butt", "round", "square"] = "butt"
    join: Literal["miter", "round", "bevel"] = "miter"
    miter_limit: float = 4.0
    dashes: tuple[float, ...] = ()
    dash_offset: float = 0.0


def stroked(paths: Sequence[tuple[FloatArray, bool]], pen: Pen, tolerance: float) -> MultiPolygon:
    """The area that a pen covers along flattened `paths` (points, closed), within `tolerance`.

    A path that has no length is a dot: round or square, as the pen's caps are, and nothing with butt caps.
    """
    if pen.width <= 0:
        return MultiPolygon()
    half = pen.width / 2
    segments = max(6, math.ceil(math.pi / 2 / (2 * math.acos(max(0.0, 1 - min(tolerance / half, 1.0))) + 1e-9)))
    cap = {"butt": "flat", "round": "round", "square": "square"}[pen.cap]
    join = "round" if pen.join == "round" else "bevel"
    out: list[BaseGeometry] = []
    for points, closed in paths:
        course = _without_repeats(points)
        if len(course) < 2:
            if pen.cap != "butt":
                out.append(shapely.buffer(shapely.Point(course[0]), half, quad_segs=segments, cap_style=cap))
            continue
        for line, ring in _dashed(course, closed, pen):
            # Closed to and fro, a line ends in the joins of its turns, not in caps.
            around, there_and_back = ring and len(line) > 3, ring and len(line) <= 3
            kind = shapely.LinearRing(line) if around else LineString(line)
            ends = ("round" if join == "round" else "flat") if there_and_back else cap
            out.append(shapely.buffer(kind, half, quad_segs=segments, cap_style=ends, join_style=join))
            if not ring and pen.cap == "butt":
                out.extend(_short_ends(line, half))
            if pen.join == "miter":
                out.extend(_mitres(line, ring, half, pen.miter_limit))
    return clean(overlay.union_all(out)) if out else MultiPolygon()


def _without_repeats(points: FloatArray) -> FloatArray:
    return np.asarray(points[np.concatenate([[True], np.any(np.diff(points, axis=0) != 0, axis=1)])])


def _short_ends(line: FloatArray, half: float) -> list[Polygon]:
    """What the first and the last stretch cover, if they are short: beside a corner an outline loses its inside."""
    out = []
    for a, b in ((line[0], line[1]), (line[-2], line[-1])):
        way = b - a
        length = float(np.hypot(*way))
        if 0 < length < _SHORT * half:
            across = np.array([-way[1], way[0]]) / length * half
            out.append(Polygon([a + across, b + across, b - across, a - across]))
    return out


def _mitres(line: FloatArray, ring: bool, half: float, limit: float) -> list[Polygon]:
    """What pointed joins cover beyond flat ones: a kite at each corner that is not sharper than the limit allows. A sharper
    one stays flat (SVG 2, 13.5.5); where the way turns right round there is no corner.
    """
    course = _without_repeats(np.vstack([line, line[1]]) if ring else line)
    ways = np.diff(course, axis=0)
    ways /= np.hypot(*ways.T)[:, None]
    before, after, corner = ways[:-1], ways[1:], course[1:-1]
    turn = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    straight = np.sum(before * after, axis=1)
    # The pointed join is 1 / sin(angle / 2) half-widths long.
    with np.errstate(divide="ignore"):
        length = np.sqrt(2 / np.maximum(1 + straight, 0))
    pointed = (length <= limit) & (np.abs(turn) > _HARDLY_A_TURN)
    before, after, corner, turn, length = before[pointed], after[pointed], corner[pointed], turn[pointed], length[pointed]
    side = np.where(turn > 0, -1.0, 1.0)[:, None] * half
    first = corner + side * np.column_stack([-before[:, 1], before[:, 0]])
    last = corner + side * np.column_stack([-after[:, 1], after[:, 0]])
    middle = first + last - 2 * corner
    tip = corner + middle / np.hypot(*middle.T)[:, None] * (length * half)[:, None]
    return [Polygon(kite) for kite in np.stack([corner, first, tip, last], axis=1)]


def dash_count(length: float, pen: Pen) -> int:
    """How many dashes a path of some length has."""
    total = sum(_pattern(pen))
    return math.ceil(length / total * len(_pattern(pen)) / 2) if total > 0 else 0


def _pattern(pen: Pen) -> list[float]:
    pattern = [d for d in pen.dashes if d >= 0]
    return pattern * 2 if len(pattern) % 2 else pattern


def _dashed(points: FloatArray, closed: bool, pen: Pen) -> list[tuple[FloatArray, bool]]:
    """The path as it is, or its dashes as open lines."""
    pattern = np.array(_pattern(pen))
    total = float(pattern.sum())
    if total <= 0:
        return [(points, closed)]
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    first = -(pen.dash_offset % total)
    repeats = np.arange(math.ceil((along[-1] - first) / total))
    ends = np.cumsum(pattern)
    starts = ends - pattern
    begin = (first + repeats[:, None] * total + starts[::2]).ravel()
    end = (first + repeats[:, None] * total + ends[::2]).ravel()
    # A dash of no length is a dot as long as the line goes on there, if it has caps.
    dot = (begin == end) & (begin >= 0) & (begin < along[-1]) & (pen.cap != "butt")
    begin, end = np.clip(begin, 0.0, along[-1]), np.clip(end, 0.0, along[-1])
    end = np.where(dot, begin + _DOT * along[-1], end)
    real = end > begin
    begin, end = begin[real], end[real]
    cuts = [np.stack([np.interp(at, along, points[:, k]) for k in (0, 1)], axis=1) for at in (begin, end)]
    inner = np.searchsorted(along, begin, side="right"), np.searchsorted(along, end, side="left")
    dashes = [
        np.vstack([cuts[0][k], points[i:j], cuts[1][k]])
        for k, (i, j) in enumerate(zip(*(index.tolist() for index in inner), strict=True))
    ]
    # On a closed path a dash that runs over its beginning is one.
    if closed and len(dashes) > 1 and begin[0] == 0 and end[-1] == along[-1]:
        dashes = [np.vstack([dashes[-1], dashes[0]]), *dashes[1:-1]]
    return [(dash, False) for dash in dashes]
