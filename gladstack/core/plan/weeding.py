"""Weed boxes round what is cut, and weed lines that divide the waste into strips a hand can pull.

Lines run through waste only, stop short of parts by a clearance and short of each other, so that the waste hangs together
and comes off in one pull. They run where they cross the least of the parts.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.plane import Box, Point
from gladstack.core.geometry import overlay
from gladstack.core.plan.sections import edges_of, sections_at

Line = tuple[Point, Point]

_SHORTEST_MM = 5.0
_PLACES = 25


def weed_box(shapes: Sequence[BaseGeometry], distance_mm: float, within: Box) -> Box | None:
    """The box round some shapes at a distance, no larger than `within`; None round nothing."""
    boxes = [s.bounds for s in shapes if not s.is_empty]
    if not boxes:
        return None
    left, top, right, bottom = np.array(boxes).T
    d = distance_mm
    return (
        max(within[0], float(left.min()) - d),
        max(within[1], float(top.min()) - d),
        min(within[2], float(right.max()) + d),
        min(within[3], float(bottom.max()) + d),
    )


def weed_lines(parts: Sequence[BaseGeometry], around: Box, strip_mm: float, clearance_mm: float) -> list[Line]:
    """Lines that divide the waste within a box into strips no wider than `strip_mm`, first across the film, then along it.

    `parts` are what must not be met: parts, marks, and all else that is cut.
    """
    grown = shapely.buffer(np.array([p for p in parts if not p.is_empty], dtype=object), clearance_mm + 0.01, quad_segs=8)
    blocked = MultiPolygon([q for p in shapely.get_parts(overlay.union_all(list(grown))) for q in shapely.get_parts(p)])
    across = _lines(blocked, around, 0, strip_mm, clearance_mm, [])
    return [*across, *_lines(blocked, around, 1, strip_mm, clearance_mm, across)]


def _lines(
    blocked: MultiPolygon, around: Box, axis: int, strip_mm: float, clearance_mm: float, others: Sequence[Line]
) -> list[Line]:
    """The lines at places of one axis; they stop short of the box and of `others`, which run the other way."""
    low, high = around[axis], around[axis + 2]
    begin, end = around[1 - axis] + clearance_mm, around[3 - axis] - clearance_mm
    count = math.ceil((high - low) / strip_mm - 1e-9) - 1
    if count < 1 or end - begin < _SHORTEST_MM:
        return []
    edges = edges_of(blocked, axis)
    step = (high - low) / (count + 1)
    slack = max(0.0, min(step / 3, (strip_mm - step) / 2 + step / 8))
    lines: list[Line] = []
    for k in range(1, count + 1):
        best: tuple[float, float, list[tuple[float, float]]] | None = None
        for c in low + k * step + np.linspace(-slack, slack, _PLACES):
            free = _free(sections_at(edges, float(c)), begin, end)
            free = [
                cut
                for piece in free
                for cut in _short_of(piece, float(c), axis, others, clearance_mm)
                if cut[1] - cut[0] >= _SHORTEST_MM
            ]
            # Few long lines are better than many short ones.
            worth = sum((b - a) for a, b in free) - 8.0 * len(free) - 0.05 * abs(c - low - k * step)
            if free and (best is None or worth > best[0]):
                best = worth, float(c), free
        if best is not None:
            _, c, free = best
            lines += [((c, a), (c, b)) if axis == 0 else ((a, c), (b, c)) for a, b in free]
    return lines


def _free(sections: np.ndarray, begin: float, end: float) -> list[tuple[float, float]]:  # type: ignore[type-arg]
    """What lies between sections, from `begin` to `end`."""
    out, at = [], begin
    for a, b in sections.tolist():
        if a > at:
            out.append((at, min(a, end)))
        at = max(at, b)
    if at < end:
        out.append((at, end))
    return [(a, b) for a, b in out if b > a and a >= begin - 1e-9 and b <= end + 1e-9]


def _short_of(
    piece: tuple[float, float], at: float, axis: int, others: Sequence[Line], clearance_mm: float
) -> list[tuple[float, float]]:
    """A piece of a line, parted where it would meet one of the others."""
    met = []
    for (ax, ay), (bx, by) in others:
        place, low, high = (ay, ax, bx) if axis == 0 else (ax, ay, by)
        if (
            low - clearance_mm < at < high + clearance_mm
            and piece[0] < place + clearance_mm
            and place - clearance_mm < piece[1]
        ):
            met.append(place)
    out, begin = [], piece[0]
    for place in sorted(met):
        out.append((begin, place - clearance_mm))
        begin = place + clearance_mm
    return [(a, b) for a, b in [*out, (begin, piece[1])] if b > a]
