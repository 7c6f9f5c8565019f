"""Where edges of polylines meet: told by a grid of cells, each edge held only against those in its own cells.

Consecutive edges of a line share a corner and do not meet there, unless the second runs back over the first.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit

FloatArray = npt.NDArray[np.float64]

_MOST_ENTRIES = 30_000_000
"""Beyond so many entries in the grid's cells, edges are so long and so many that they cannot but meet without number."""


def count_crossings(lines: Sequence[FloatArray], most: int = 0) -> int:
    """How often edges of `lines` (n, 2) cross or touch; counting ends as soon as there are more than `most`.

    Equal first and last points close a line: its first edge follows its last.
    """
    held = [p for p in lines if len(p) > 1]
    if not held:
        return 0
    edges, after = _without_points(*_edges(held))
    if len(edges) < 2:
        return 0
    low = edges.reshape(-1, 2).min(axis=0)
    size = max(float(np.ptp(edges.reshape(-1, 2), axis=0).max()), 1e-12)
    side = int(np.clip(np.sqrt(len(edges)), 1, 2000))
    scale = side / size * (1 - 1e-12)
    counts = np.zeros(side * side + 1, np.int64)
    _tally(edges, low, scale, side, counts)
    if int(counts.sum()) > _MOST_ENTRIES:
        return most + 1
    begins = np.cumsum(counts) - counts
    entries = np.empty(int(counts.sum()), np.int32)
    _enter(edges, low, scale, side, begins.copy(), entries)
    return int(_count(edges, after, low, scale, side, begins, entries, most))


def _edges(lines: Sequence[FloatArray]) -> tuple[FloatArray, npt.NDArray[np.int64]]:
    """All edges (n, 4), and the one that follows each in its line, -1 after its end."""
    points = np.concatenate(lines)
    ends = np.cumsum([len(p) for p in lines])
    firsts, lasts = np.concatenate([[0], ends[:-1]]), ends - 1
    real = np.ones(len(points), np.bool_)
    real[lasts] = False
    begin = np.flatnonzero(real)
    after = np.arange(1, len(begin) + 1)
    # A line's edges are numbered on from those before it: one fewer than its points for each line.
    ending = lasts - np.arange(1, len(lines) + 1)
    closed = np.all(points[firsts] == points[lasts], axis=1) & (ends - firsts > 2)
    after[ending] = np.where(closed, firsts - np.arange(len(lines)), -1)
    return np.concatenate([points[begin], points[begin + 1]], axis=1), after


def _without_points(edges: FloatArray, after: npt.NDArray[np.int64]) -> tuple[FloatArray, npt.NDArray[np.int64]]:
    """Edges of some length only; what followed one of none is followed by the next."""
    real = np.any(edges[:, :2] != edges[:, 2:], axis=1)
    if bool(np.all(real)):
        return edges, after
    for _ in range(64):
        skip = (after >= 0) & ~real[after]
        if not bool(np.any(skip)):
            break
        after = np.where(skip, after[after], after)
    number = np.cumsum(real) - 1
    kept = after[real]
    return edges[real], np.where(kept >= 0, number[kept], -1)


@jit
def _rows(edges: Any, k: int, low: Any, scale: float, side: int, column: int) -> tuple[int, int]:
    """The first and last row of cells that an edge passes within a column."""
    ax, ay = (edges[k, 0] - low[0]) * scale, (edges[k, 1] - low[1]) * scale
    bx, by = (edges[k, 2] - low[0]) * scale, (edges[k, 3] - low[1]) * scale
    if ax > bx:
        ax, ay, bx, by = bx, by, ax, ay
    y0, y1 = ay, by
    if bx > ax:
        left, right = max(ax, float(column)), min(bx, column + 1.0)
        y0 = ay + (by - ay) * (left - ax) / (bx - ax)
        y1 = ay + (by - ay) * (right - ax) / (bx - ax)
    first, last = int(min(y0, y1) - 1e-9), int(max(y0, y1) + 1e-9)
    return max(0, min(side - 1, first)), max(0, min(side - 1, last))


@jit
def _columns(edges: Any, k: int, low: Any, scale: float, side: int) -> tuple[int, int]:
    a, b = (edges[k, 0] - low[0]) * scale, (edges[k, 2] - low[0]) * scale
    return max(0, min(side - 1, int(min(a, b) - 1e-9))), max(0, min(side - 1, int(max(a, b) + 1e-9)))


@jit
def _tally(edges: Any, low: Any, scale: float, side: int, counts: Any) -> None:
    for k in range(edges.shape[0]):
        first, last = _columns(edges, k, low, scale, side)
        for column in range(first, last + 1):
            top, bottom = _rows(edges, k, low, scale, side, column)
            for row in range(top, bottom + 1):
                counts[row * side + column] += 1


@jit
def _enter(edges: Any, low: Any, scale: float, side: int, at: Any, entries: Any) -> None:
    for k in range(edges.shape[0]):
        first, last = _columns(edges, k, low, scale, side)
        for column in range(first, last + 1):
            top, bottom = _rows(edges, k, low, scale, side, column)
            for row in range(top, bottom + 1):
                entries[at[row * side + column]] = k
                at[row * side + column] += 1


@jit
def _side(ax: float, ay: float, bx: float, by: float, px: float, py: float) -> float:
    return (bx - ax) * (py - ay) - (by - ay) * (px - ax)


@jit
def _count(edges: Any, after: Any, low: Any, scale: float, side: int, begins: Any, entries: Any, most: int) -> int:
    total = 0
    for k in range(edges.shape[0]):
        j = after[k]
        if j >= 0:
            ux, uy = edges[k, 2] - edges[k, 0], edges[k, 3] - edges[k, 1]
            vx, vy = edges[j, 2] - edges[j, 0], edges[j, 3] - edges[j, 1]
            if ux * vy - uy * vx == 0 and ux * vx + uy * vy < 0:
                total += 1
    for cell in range(side * side):
        for m in range(begins[cell], begins[cell + 1]):
            i = entries[m]
            ax, ay, bx, by = edges[i, 0], edges[i, 1], edges[i, 2], edges[i, 3]
            for n in range(m + 1, begins[cell + 1]):
                j = entries[n]
                if after[i] == j or after[j] == i:
                    continue
                cx, cy, dx, dy = edges[j, 0], edges[j, 1], edges[j, 2], edges[j, 3]
                if max(ax, bx) < min(cx, dx) or max(cx, dx) < min(ax, bx):
                    continue
                if max(ay, by) < min(cy, dy) or max(cy, dy) < min(ay, by):
                    continue
                p, q = _side(ax, ay, bx, by, cx, cy), _side(ax, ay, bx, by, dx, dy)
                r, s = _side(cx, cy, dx, dy, ax, ay), _side(cx, cy, dx, dy, bx, by)
                if (p > 0 and q > 0) or (p < 0 and q < 0) or (r > 0 and s > 0) or (r < 0 and s < 0):
                    continue
                if p != q:
                    # A pair that shares several cells counts in the one where it meets.
                    t = p / (p - q)
                    column = int((cx + t * (dx - cx) - low[0]) * scale)
                    row = int((cy + t * (dy - cy) - low[1]) * scale)
                    here = max(0, min(side - 1, row)) * side + max(0, min(side - 1, column))
                    if here != cell and most > 0:
                        continue
                total += 1
                if total > most:
                    return total
    return total
