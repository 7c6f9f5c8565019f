"""The widest place of small parts and holes, and where edges touch in a point."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.plane import Point

_NEARLY_MM = 0.005
_WIDE = 3.0
_SAME_MM = 1e-6


def widest(area: Polygon, matters_mm: float) -> float:
    """How wide an area is where it is widest, in mm: the largest disc within it.

    It is only worked out where it may be below `matters_mm`; what is far larger is told by its box.
    """
    left, top, right, bottom = area.bounds
    side = min(right - left, bottom - top)
    # What has so much area for so little outline holds a larger disc.
    if area.area > _WIDE * matters_mm * area.length:
        return float(side)
    return float(2 * shapely.maximum_inscribed_circle(area, tolerance=_NEARLY_MM).length)


def touching(shape: MultiPolygon) -> list[Point]:
    """Where edges of an area touch each other in no more than a point."""
    points, ring = shapely.get_coordinates(shapely.get_rings(np.array(shape.geoms, dtype=object)), return_index=True)
    if not len(points):
        return []
    # The last point of a ring is its first again; and one may stand twice in a row where a curve begins.
    points = np.round(points / _SAME_MM)
    points = points[:-1][(ring[1:] == ring[:-1]) & (points[1:] != points[:-1]).any(axis=1)]
    # As one number for each: whole rows take many times as long to sort.
    _, first, count = np.unique(points[:, 0] + 1j * points[:, 1], return_index=True, return_counts=True)
    return [(float(x), float(y)) for x, y in points[first[count > 1]] * _SAME_MM]
