"""What a straight cut from one point of an edge to another parts off."""

from __future__ import annotations

from typing import Any

import numpy as np

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.edge_points import EdgePoints, FloatArray, IndexArray


def parted_off(points: EdgePoints, some: IndexArray, others: IndexArray) -> FloatArray:
    """The area, in mm2, of the smaller of the two pieces that a cut from each of some points to another leaves of its part.

    Nothing, where the two are of two rings: such a cut parts nothing off.
    """
    starts = np.searchsorted(points.ring, np.arange(points.ring[-1] + 2))
    part = points.part[starts[:-1]]
    rings = np.searchsorted(part, np.arange(part[-1] + 2))
    found: FloatArray = _parted(points.at, points.ring, points.part, points.after, starts, rings, some, others)
    return found / 2


@jit
def _parted(
    at: Any, ring: Any, part: Any, after: Any, starts: Any, rings: Any, some: Any, others: Any
) -> Any:  # fmt: skip
    """Twice the smaller area; it takes where each ring starts, and with which each part does."""
    # Twice the area between each point, the next and the origin (the shoelace formula), added up point by point.
    up_to, whole = np.zeros(len(at)), np.zeros(len(starts) - 1)
    for q in range(len(starts) - 1):
        for m in range(starts[q], starts[q + 1]):
            up_to[m] = whole[q]
            whole[q] += at[m, 0] * at[after[m], 1] - at[after[m], 0] * at[m, 1]
    out = np.zeros(len(some))
    for k in range(len(some)):
        first, last = min(some[k], others[k]), max(some[k], others[k])
        r = ring[first]
        if ring[last] != r:
            continue
        area = up_to[last] - up_to[first] + at[last, 0] * at[first, 1] - at[first, 0] * at[last, 1]
        # Within a hole only one way round has the part to its left.
        back = area < 0.0
        if back:
            area = whole[r] - area
        own, all_of_it = part[first], 0.0
        for q in range(rings[own], rings[own + 1]):
            all_of_it += whole[q]
            if q != r and whole[q] < 0.0:
                x, y = at[starts[q], 0], at[starts[q], 1]
                if _is_within(x, y, at, first, last) != (back and _is_within(x, y, at, starts[r], starts[r + 1] - 1)):
                    area += whole[q]
        out[k] = max(0.0, min(area, all_of_it - area))
    return out


@jit
def _is_within(x: float, y: float, at: Any, first: int, last: int) -> bool:
    """Whether a place lies within the closed line through some points (by how often a ray from it crosses that)."""
    inside = False
    px, py = at[last, 0], at[last, 1]
    for m in range(first, last + 1):
        qx, qy = at[m, 0], at[m, 1]
        if (py > y) != (qy > y) and x < px + (y - py) / (qy - py) * (qx - px):
            inside = not inside
        px, py = qx, qy
    return inside
