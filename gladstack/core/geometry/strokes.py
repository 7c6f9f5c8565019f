"""Strokes as shapes: caps, joins and dashes after SVG 2, section 13."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean

FloatArray = npt.NDArray[np.float64]


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
    """The area that a pen covers along flattened `paths` (points, closed), within `tolerance`."""
    if pen.width <= 0:
        return MultiPolygon()
    half = pen.width / 2
    segments = max(6, math.ceil(math.pi / 2 / (2 * math.acos(max(0.0, 1 - min(tolerance / half, 1.0))) + 1e-9)))
    cap = {"butt": "flat", "round": "round", "square": "square"}[pen.cap]
    join = {"miter": "mitre", "round": "round", "bevel": "bevel"}[pen.join]
    out: list[BaseGeometry] = []
    for points, closed in paths:
        course = points[np.concatenate([[True], np.any(np.diff(points, axis=0) != 0, axis=1)])]
        if len(course) < 2:
            if pen.cap != "butt" and not closed:
                out.append(shapely.buffer(shapely.Point(course[0]), half, quad_segs=segments, cap_style=cap))
            continue
        for line, ring in _dashed(course, closed, pen):
            kind = shapely.LinearRing(line) if ring and len(line) > 3 else LineString(line)
            out.append(
                shapely.buffer(kind, half, quad_segs=segments, cap_style=cap, join_style=join, mitre_limit=pen.miter_limit)
            )
    return clean(overlay.union_all(out)) if out else MultiPolygon()


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
    begin, end = np.clip(begin, 0.0, along[-1]), np.clip(end, 0.0, along[-1])
    real = end > begin
    begin, end = begin[real], end[real]
    cuts = [np.stack([np.interp(at, along, points[:, k]) for k in (0, 1)], axis=1) for at in (begin, end)]
    inner = np.searchsorted(along, begin, side="right"), np.searchsorted(along, end, side="left")
    return [
        (np.vstack([cuts[0][k], points[i:j], cuts[1][k]]), False)
        for k, (i, j) in enumerate(zip(*(index.tolist() for index in inner), strict=True))
    ]
