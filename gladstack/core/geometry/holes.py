"""The widest place of small parts and holes, and where edges touch in a point."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.plane import Point

_NEARLY_MM = 0.005
_SAME_MM = 1e-6


def widest(area: Polygon, matters_mm: float) -> float:
    """How wide an area is where it is widest, in mm: the largest disc within it.

    It is only worked out where it may be below `matters_mm`; what is surely larger is told by its box.
    """
    left, top, right, bottom = area.bounds
    side = min(right - left, bottom - top)
    middle = area.centroid
    if area.contains(middle) and 2 * area.boundary.distance(middle) >= matters_mm:
        return float(side)
    return float(2 * shapely.maximum_inscribed_circle(area, tolerance=_NEARLY_MM).length)


def touching(shape: MultiPolygon) -> list[Point]:
    """Where edges of an area touch each other in no more than a point."""
    points, ring = shapely.get_coordinates(shapely.get_rings(np.array(shape.geoms, dtype=object)), return_index=True)
    if not len(points):
        return []
    # The last point of a ring is its first again; and one may stand twice in a row where a curve begins.
    x, y = np.round(points.T / _SAME_MM)
    other = (ring[1:] == ring[:-1]) & ((x[1:] != x[:-1]) | (y[1:] != y[:-1]))
    x, y = x[:-1][other], y[:-1][other]
    # Points that share one of their coordinates are few, and sorting them all by both takes long.
    order = np.argsort(x)
    alike = x[order[1:]] == x[order[:-1]]
    x, y = (one[order[np.append(alike, False) | np.append(False, alike)]] for one in (x, y))
    order = np.lexsort((y, x))
    x, y = x[order], y[order]
    again = np.append(False, (x[1:] == x[:-1]) & (y[1:] == y[:-1]))
    once = np.flatnonzero(again[1:] & ~again[:-1])
    return [(float(x[k]) * _SAME_MM, float(y[k]) * _SAME_MM) for k in once]
