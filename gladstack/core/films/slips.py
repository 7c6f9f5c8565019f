"""How much a film bares that slips, judged for all directions at once by points scattered over what is at risk.

A point of what is at risk lies in the film. It is bared where the film's edge passes over it, an odd number of times: where
an odd number of edges lie between it and the place that the slip brings there. For each point and each edge near it, these
are the directions of one arc.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.edge_points import edge_points, grid_of

FloatArray = npt.NDArray[np.float64]

POINTS = 20_000
_FINEST_MM = 0.004
_MOST_ROWS = 500_000
_FINER, _CHANCES = 8, 1000


def bared_each_way(risk: MultiPolygon, cut: MultiPolygon, slip_mm: float, ways: int) -> FloatArray:
    """The area of `risk` that `cut` bares, in mm2, for slips of so many mm in so many directions, from right through down.

    `cut` is as it was before the slip, and covers `risk`.
    """
    _, top, _, bottom = risk.bounds if not risk.is_empty else (0.0, 0.0, 0.0, 0.0)
    # Little that lies far apart, on a decal as long as a roll, would make more rows than there is room for.
    pitch = max(_FINEST_MM, math.sqrt(risk.area / POINTS), (bottom - top) / _MOST_ROWS)
    points = scattered(risk, pitch)
    edges = edge_points(cut, slip_mm)
    runs = edges.length > 0
    if not len(points) or not runs.any():
        return np.zeros(ways)
    at, half = edges.at[runs], edges.along[runs] * (edges.length[runs] / 2)[:, None]
    grid = grid_of(at, 1.5 * slip_mm)
    count = _bared(
        points, at - half, at + half, grid.low, grid.side, grid.across, grid.down, grid.order, grid.starts, slip_mm, ways
    )
    # An edge passes over a point by a slip that leads from the one to the other: the opposite way of looking for it.
    areas: FloatArray = np.roll(count, ways // 2) * pitch**2
    return areas


def scattered(shape: MultiPolygon, pitch_mm: float) -> FloatArray:
    """Points in a shape: one for each square of `pitch_mm`, somewhere in it, as by chance, but the same each time.

    Of points in rows, edges that run along some of them would take too many or too few.
    """
    rings = shapely.get_rings(np.array(shape.geoms, dtype=object)) if shape.geoms else []
    corners, ring = shapely.get_coordinates(rings, return_index=True)
    if not len(corners):
        return np.empty((0, 2))
    points: FloatArray = _in_rows(corners, ring, pitch_mm)
    return points


@jit
def _in_rows(corners: Any, ring: Any, pitch: float) -> Any:
    """Squares stand in rows, and each row is divided into some finer ones, in one of which a square has its point."""
    low, high, fine = corners[:, 1].min(), corners[:, 1].max(), pitch / _FINER
    rows = (int((high - low) // pitch) + 1) * _FINER
    starts = np.zeros(rows + 1, np.int64)
    for i in range(len(corners) - 1):
        if ring[i] == ring[i + 1]:
            first, last = _rows_between(corners[i, 1], corners[i + 1, 1], low, fine, rows)
            for r in range(first, last):
                starts[r + 1] += 1
    for r in range(rows):
        starts[r + 1] += starts[r]
    across, put = np.empty(starts[rows]), starts[:-1].copy()
    for i in range(len(corners) - 1):
        if ring[i] == ring[i + 1]:
            ax, ay, bx, by = corners[i, 0], corners[i, 1], corners[i + 1, 0], corners[i + 1, 1]
            first, last = _rows_between(ay, by, low, fine, rows)
            for r in range(first, last):
                across[put[r]] = ax + (low + (r + 0.5) * fine - ay) / (by - ay) * (bx - ax)
                put[r] += 1
    points, n = np.empty((1024, 2)), 0
    for r in range(rows):
        own = across[starts[r] : starts[r + 1]]
        own.sort()
        for k in range(0, len(own) - 1, 2):
            for column in range(math.floor(own[k] / pitch), math.floor(own[k + 1] / pitch) + 1):
                chance = _chance(r // _FINER, column)
                x = (column + (chance // _FINER) / _CHANCES) * pitch
                if chance % _FINER != r % _FINER or x < own[k] or x >= own[k + 1]:
                    continue
                if n == len(points):
                    more = np.empty((2 * n, 2))
                    more[:n] = points
                    points = more
                points[n, 0], points[n, 1] = x, low + (r + 0.5) * fine
                n += 1
    return points[:n].copy()


@jit
def _chance(row: int, column: int) -> int:
    """A number below `_FINER` times `_CHANCES` that looks like chance (the mixing steps of xorshift, Marsaglia 2003)."""
    x = (row * 73856093 + column * 19349663 + 2654435769) & 0xFFFFFFFF
    for _ in range(2):
        x ^= (x << 13) & 0xFFFFFFFF
        x ^= x >> 17
        x ^= (x << 5) & 0xFFFFFFFF
    return x % (_FINER * _CHANCES)


@jit
def _rows_between(y0: float, y1: float, low: float, pitch: float, rows: int) -> Any:
    """The rows that an edge crosses: from the first, to before the last."""
    first, last = math.ceil((min(y0, y1) - low) / pitch - 0.5), math.ceil((max(y0, y1) - low) / pitch - 0.5)
    return max(0, first), min(rows, last)


@jit
def _bared(
    points: Any, starts: Any, ends: Any, low: Any, side: float, across: int, down: int, order: Any, cells: Any,
    slip: float, ways: int,
) -> Any:  # fmt: skip
    """How many points are passed over by an odd number of edges, looking each way from them as far as the slip."""
    count = np.zeros(ways)
    odd = np.zeros(ways, np.bool_)
    step = 2.0 * math.pi / ways
    for i in range(len(points)):
        px, py = points[i, 0], points[i, 1]
        column, row = int((px - low[0]) // side), int((py - low[1]) // side)
        met = False
        for cy in range(max(0, row - 1), min(down, row + 2)):
            for cx in range(max(0, column - 1), min(across, column + 2)):
                for n in range(cells[cy * across + cx], cells[cy * across + cx + 1]):
                    k = order[n]
                    ax, ay, bx, by = starts[k, 0] - px, starts[k, 1] - py, ends[k, 0] - px, ends[k, 1] - py
                    dx, dy = bx - ax, by - ay
                    dd = dx * dx + dy * dy
                    if dd == 0.0:
                        continue
                    middle = -(ax * dx + ay * dy) / dd
                    room = middle * middle - (ax * ax + ay * ay - slip * slip) / dd
                    if room <= 0.0:
                        continue
                    # What of the edge lies within the slip.
                    root = math.sqrt(room)
                    t0, t1 = max(0.0, middle - root), min(1.0, middle + root)
                    if t0 >= t1:
                        continue
                    one = math.atan2(ay + t0 * dy, ax + t0 * dx) / step
                    other = math.atan2(ay + t1 * dy, ax + t1 * dx) / step
                    least, most = min(one, other), max(one, other)
                    if most - least > ways / 2:
                        least, most = most, least + ways
                    met = True
                    for way in range(math.ceil(least), math.ceil(most)):
                        odd[way % ways] = not odd[way % ways]
        if met:
            for way in range(ways):
                if odd[way]:
                    count[way] += 1.0
                    odd[way] = False
    return count
