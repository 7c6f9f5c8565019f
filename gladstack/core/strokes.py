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
from shapely.ops import substring

from gladstack.core import overlay
from gladstack.core.joints import clean

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


def _dashed(points: FloatArray, closed: bool, pen: Pen) -> list[tuple[FloatArray, bool]]:
    """The path as it is, or its dashes as open lines."""
    pattern = [d for d in pen.dashes if d >= 0]
    if len(pattern) % 2:
        pattern = pattern * 2
    total = sum(pattern)
    if total <= 0:
        return [(points, closed)]
    line = LineString(points)
    at = -(pen.dash_offset % total)
    out: list[tuple[FloatArray, bool]] = []
    k = 0
    while at < line.length and len(out) < 20_000:
        length = pattern[k % len(pattern)]
        if k % 2 == 0 and at + length > 0 and length > 0:
            piece = substring(line, max(at, 0.0), min(at + length, line.length))
            if isinstance(piece, LineString) and piece.length > 0:
                out.append((np.asarray(piece.coords)[:, :2], False))
        at += length
        k += 1
    return out
