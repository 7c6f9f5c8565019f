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
from gladstack.core.geometry.edge_points import EdgePoints, FloatArray, Grid, IndexArray, grid_of

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


def widths_of(points: EdgePoints, limit_mm: float, *, inside: bool = True, facing_deg: float = FACING_DEG) -> Widths:
    """The widths at points of an edge, one at least, that are below a limit: of the areas, or of what lies between them."""
    grid = grid_of(points.at, limit_mm)
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
    count = len(at)
    mm = np.full(count, np.inf)
    partner = np.full(count, -1, np.int64)
    for i in range(count):
        if corner[i] == -sign:
            continue
        px, py, nx, ny = at[i, 0], at[i, 1], -sign * along[i, 1], sign * along[i, 0]
        column, row = int((px - low[0]) // side), int((py - low[1]) // side)
        best, which = np.inf, -1
        # The disc lies ahead, and so do all points that it can touch.
        for cy in range(max(0, row - 1), min(down, row + 2)):
            for cx in range(max(0, column - 1), min(columns, column + 2)):
                cell = cy * columns + cx
                for k in range(starts[cell], starts[cell + 1]):
                    j = order[k]
                    mx, my = -sign * along[j, 1], sign * along[j, 0]
                    if corner[j] == -sign or nx * mx + ny * my > facing:
                        continue
                    dx, dy = at[j, 0] - px, at[j, 1] - py
                    ahead = nx * dx + ny * dy
                    if ahead <= 1e-9 or mx * dx + my * dy >= 0.0:
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
