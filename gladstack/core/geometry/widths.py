"""Local widths of an area, and of what lies between areas: the diameter of the disc that touches an edge at a point and the
edge across from it.

The discs are those of the medial axis, found from points of the edge as by shrinking balls (Ma, Bae, Choi 2012): of all
points across, the one that leaves the disc smallest. Only edges that face each other count, so that a corner is not taken
for something thin.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.edge_points import EdgePoints, FloatArray, Grid, IndexArray

FACING_DEG = 30.0
"""Edges that open towards each other by more than this do not face each other."""


@dataclass(frozen=True)
class Widths:
    """How wide an area (or what is between areas) is at points of its edge, as far as a limit; infinite where it is wider.

    `across` is the point across from each (-1: none). The grid is that of the points.
    """

    points: EdgePoints
    grid: Grid
    mm: FloatArray
    across: IndexArray
    inside: bool

    def middles(self, some: IndexArray) -> FloatArray:
        """The middles of the discs of some points that have one."""
        half = (0.5 if self.inside else -0.5) * self.mm[some]
        along = self.points.along[some]
        middles = self.points.at[some]
        middles[:, 0] -= half * along[:, 1]
        middles[:, 1] += half * along[:, 0]
        return middles


def widths_of(
    points: EdgePoints, grid: Grid, limit_mm: float, *, inside: bool = True, facing_deg: float = FACING_DEG
) -> Widths:
    """The widths at points of an edge, one at least, that are below a limit: of the areas, or of what lies between them.

    The grid is one of the points in which all within the limit are found.
    """
    mm, across = _narrowest(
        points.at, points.along, points.length, points.corner, 1.0 if inside else -1.0,
        grid.low, grid.side, grid.across, grid.down, grid.order, grid.starts, limit_mm, -math.cos(math.radians(facing_deg)),
    )  # fmt: skip
    return Widths(points, grid, mm, across, inside)


@jit
def _narrowest(
    at: Any, along: Any, length: Any, corner: Any, sign: float,
    low: Any, side: float, columns: int, down: int, order: Any, starts: Any, limit: float, facing: float,
) -> Any:  # fmt: skip
    """For each point the smallest disc that touches it and a point that faces it, and which that is.

    Corners that point away from where the discs lie are left out.
    """
    mm, partner = np.full(len(at), np.inf), np.full(len(at), -1, np.int64)
    cones = _cones(along, order, starts)
    near = np.empty(9, np.int64)
    for own in range(columns * down):
        cells = _facing_cells(own, starts, cones, columns, down, facing, near)
        if cells == 0:
            continue
        for i in order[starts[own] : starts[own + 1]]:
            if corner[i] == -sign:
                continue
            px, py, ax, ay = at[i, 0], at[i, 1], along[i, 0], along[i, 1]
            nx, ny = -sign * ay, sign * ax
            best, which = np.inf, -1
            for n in range(cells):
                # The disc lies ahead, and so do all points that it can touch.
                for k in range(starts[near[n]], starts[near[n] + 1]):
                    j = order[k]
                    if ax * along[j, 0] + ay * along[j, 1] > facing or corner[j] == -sign:
                        continue
                    dx, dy = at[j, 0] - px, at[j, 1] - py
                    ahead = nx * dx + ny * dy
                    if ahead <= 1e-9 or sign * (along[j, 0] * dy - along[j, 1] * dx) >= 0.0:
                        continue
                    wide = (dx * dx + dy * dy) / ahead
                    if wide < best:
                        best, which = wide, j
            if which < 0:
                continue
            # The nearest place of the edge across lies between its points.
            ux, uy = along[which, 0], along[which, 1]
            dx, dy = at[which, 0] - px, at[which, 1] - py
            du, nu, nd = dx * ux + dy * uy, nx * ux + ny * uy, nx * dx + ny * dy
            dd = dx * dx + dy * dy
            half = 0.5 * length[which]
            t = -du
            if abs(nu) > 1e-9:
                # Where |d + t u|^2 / (n (d + t u)) is least: nu t^2 + 2 nd t + 2 du nd - dd nu = 0.
                root = nd * nd - nu * (2.0 * du * nd - dd * nu)
                t = (-nd + math.sqrt(root)) / nu if root > 0.0 else 0.0
            t = min(half, max(-half, t))
            ahead = nd + t * nu
            if ahead > 0.0:
                best = min(best, (dd + 2.0 * t * du + t * t) / ahead)
            if best < limit:
                mm[i], partner[i] = best, which
    return mm, partner


@jit
def _cones(along: Any, order: Any, starts: Any) -> Any:
    """Around which way the edges in each cell run, and the cosine and sine of how far off any of them does at most.

    A cell's are where its points begin: most cells of a large decal are empty.
    """
    out = np.empty((len(order), 4))
    for c in range(len(starts) - 1):
        if starts[c] == starts[c + 1]:
            continue
        x, y = 0.0, 0.0
        for k in range(starts[c], starts[c + 1]):
            x, y = x + along[order[k], 0], y + along[order[k], 1]
        long = math.hypot(x, y)
        if long < 1e-9:
            x, y, long = 1.0, 0.0, 1.0
        x, y, least = x / long, y / long, 1.0
        for k in range(starts[c], starts[c + 1]):
            least = min(least, x * along[order[k], 0] + y * along[order[k], 1])
        k = starts[c]
        out[k, 0], out[k, 1], out[k, 2], out[k, 3] = x, y, least, math.sqrt(max(0.0, 1.0 - least * least))
    return out


@jit
def _facing_cells(own: int, starts: Any, cones: Any, columns: int, down: int, facing: float, out: Any) -> int:
    """Fills in which cells, of one and those around it, hold edges that may face those in it: mostly none does."""
    count = 0
    if starts[own] == starts[own + 1]:
        return count
    row, column = own // columns, own % columns
    for cy in range(max(0, row - 1), min(down, row + 2)):
        for cx in range(max(0, column - 1), min(columns, column + 2)):
            cell = cy * columns + cx
            if starts[cell] < starts[cell + 1] and _may_face(cones, starts[own], starts[cell], facing):
                out[count] = cell
                count += 1
    return count


@jit
def _may_face(cones: Any, a: int, b: int, facing: float) -> bool:
    """Whether of two of some cones any two ways may be apart by an angle whose cosine is `facing` or less."""
    # By the sum of three angles: between their middles, and how wide both are.
    half, off = cones[a, 2] * cones[b, 2] - cones[a, 3] * cones[b, 3], cones[a, 0] * cones[b, 0] + cones[a, 1] * cones[b, 1]
    if cones[a, 2] <= -cones[b, 2] or off <= -half:
        return True
    wide = cones[a, 3] * cones[b, 2] + cones[a, 2] * cones[b, 3]
    return bool(off * half - math.sqrt(max(0.0, 1.0 - off * off)) * wide <= facing + 1e-9)


def reach_over(widths: Widths, some: IndexArray, over_mm: float) -> npt.NDArray[np.bool_]:
    """Whether the discs of some points that have one reach over an edge by more than so much."""
    grid = widths.grid
    return np.asarray(
        _covers(
            widths.points.at, grid.low, grid.side, grid.across, grid.down, grid.order, grid.starts,
            widths.middles(some), widths.mm[some] / 2 - over_mm,
        )
    )  # fmt: skip


@jit
def _covers(
    at: Any, low: Any, side: float, columns: int, down: int, order: Any, starts: Any, middles: Any, radius: Any
) -> Any:
    """Whether any point lies in each of some discs, none of them larger than a cell."""
    out = np.zeros(len(middles), np.bool_)
    for i in range(len(middles)):
        if radius[i] < 0.0:
            continue
        x, y = middles[i, 0], middles[i, 1]
        column, row = int((x - low[0]) // side), int((y - low[1]) // side)
        for cy in range(max(0, row - 1), min(down, row + 2)):
            for cx in range(max(0, column - 1), min(columns, column + 2)):
                cell = cy * columns + cx
                for k in range(starts[cell], starts[cell + 1]):
                    dx, dy = at[order[k], 0] - x, at[order[k], 1] - y
                    if dx * dx + dy * dy <= radius[i] * radius[i]:
                        out[i] = True
    return out
