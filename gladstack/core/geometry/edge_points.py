"""Points along the edges of an area, and a grid in which those near a place are found."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon

from gladstack.core.base.compiled import jit

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

_STEPS_A_WIDTH = 6.0
_SHORTEST_STEP_MM, _LONGEST_STEP_MM = 0.03, 0.25
_CORNER = math.radians(15.0)
_MOST_CELLS = 4e6


@dataclass(frozen=True)
class EdgePoints:
    """Points along the edges of an area, in mm: where each is, the way its edge runs, and how much of it each stands for.

    Areas lie to the left. `after` is the next point of the same ring, `ring` which ring, `part` which part it is of. At a
    corner several points lie on one another, turned from one edge to the next: `corner` is 1 where it points into the area,
    -1 where it points out of it, 0 along edges.
    """

    at: FloatArray
    along: FloatArray
    length: FloatArray
    after: IndexArray
    ring: IndexArray
    part: IndexArray
    corner: IndexArray


def step_for(limit_mm: float) -> float:
    """How far apart points must lie along edges to find what is narrower than a limit, mm."""
    return min(_LONGEST_STEP_MM, max(_SHORTEST_STEP_MM, limit_mm / _STEPS_A_WIDTH))


def edge_points(shape: MultiPolygon, step_mm: float) -> EdgePoints:
    """Points along all edges of a shape, no farther apart than `step_mm`."""
    polygons = shapely.orient_polygons(np.array(shape.geoms, dtype=object)) if shape.geoms else np.array([], dtype=object)
    rings, part_of_ring = shapely.get_rings(polygons, return_index=True)
    corners, ring = shapely.get_coordinates(rings, return_index=True)
    at, along, length, after, of, corner = _along(corners, ring, step_mm)
    return EdgePoints(at, along, length, after, of, part_of_ring[of], corner)


@jit
def _along(corners: Any, ring: Any, step: float) -> Any:
    """What `EdgePoints` has but parts, from the corners of closed rings and the number of the ring each is of."""
    count = max(0, len(corners) - 1)
    long, heading = np.empty(count), np.empty(count)
    start, of = np.empty(count, np.int64), np.empty(count, np.int64)
    edges = 0
    for i in range(count):
        x, y = corners[i + 1, 0] - corners[i, 0], corners[i + 1, 1] - corners[i, 1]
        if ring[i] == ring[i + 1] and (x != 0.0 or y != 0.0):
            long[edges], heading[edges], start[edges], of[edges] = math.hypot(x, y), math.atan2(y, x), i, ring[i]
            edges += 1
    turn, fan = np.empty(edges), np.zeros(edges, np.int64)
    first, total = 0, 0
    for e in range(edges):
        if of[e] != of[first]:
            first = e
        onward = e + 1 if e + 1 < edges and of[e + 1] == of[e] else first
        turn[e] = (heading[onward] - heading[e] + math.pi) % (2.0 * math.pi) - math.pi
        if abs(turn[e]) > _CORNER:
            fan[e] = math.ceil(abs(turn[e]) / _CORNER)
        total += math.ceil(long[e] / step) + fan[e]
    at, along, length = np.empty((total, 2)), np.empty((total, 2)), np.zeros(total)
    after, whose, corner = np.empty(total, np.int64), np.empty(total, np.int64), np.zeros(total, np.int64)
    k, begin = 0, 0
    for e in range(edges):
        if k and whose[k - 1] != of[e]:
            begin = k
        a, b = corners[start[e]], corners[start[e] + 1]
        own = math.ceil(long[e] / step)
        for m in range(own + fan[e]):
            share = (m + 0.5) / own if m < own else 1.0
            angle = heading[e] + (turn[e] * (m - own + 0.5) / fan[e] if m >= own else 0.0)
            at[k, 0], at[k, 1] = a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])
            along[k, 0], along[k, 1] = math.cos(angle), math.sin(angle)
            if m < own:
                length[k] = long[e] / own
            else:
                corner[k] = -1 if turn[e] > 0.0 else 1
            whose[k], after[k] = of[e], k + 1
            k += 1
        after[k - 1] = k
        if e + 1 == edges or of[e + 1] != of[e]:
            after[k - 1] = begin
    return at, along, length, after, whose, corner


@dataclass(frozen=True)
class Grid:
    """Points in square cells of `side` mm, by row and column from `low`: those of cell c are order[starts[c]:starts[c + 1]].

    Whatever lies no farther than `side` from a place is in its cell or one of the eight around it.
    """

    low: FloatArray
    side: float
    across: int
    down: int
    order: IndexArray
    starts: IndexArray


def grid_of(at: FloatArray, reach_mm: float) -> Grid:
    """A grid of one point or more in which all within a reach are found."""
    low = np.array([at[:, 0].min(), at[:, 1].min()])
    wide, high = at[:, 0].max() - low[0], at[:, 1].max() - low[1]
    # A large decal and a narrow limit would make more cells than there is room for.
    side = max(reach_mm, math.sqrt(wide * high / _MOST_CELLS), max(wide, high) / _MOST_CELLS)
    across, down = int(wide // side) + 1, int(high // side) + 1
    order, starts = _in_cells(at, low, side, across, down)
    return Grid(low, side, across, down, order, starts)


@jit
def _in_cells(at: Any, low: Any, side: float, across: int, down: int) -> Any:
    starts = np.zeros(across * down + 1, np.int64)
    cell = np.empty(len(at), np.int64)
    for i in range(len(at)):
        column, row = int((at[i, 0] - low[0]) // side), int((at[i, 1] - low[1]) // side)
        cell[i] = min(row, down - 1) * across + min(column, across - 1)
        starts[cell[i] + 1] += 1
    for c in range(across * down):
        starts[c + 1] += starts[c]
    order, put = np.empty(len(at), np.int64), starts[:-1].copy()
    for i in range(len(at)):
        order[put[cell[i]]] = i
        put[cell[i]] += 1
    return order, starts
