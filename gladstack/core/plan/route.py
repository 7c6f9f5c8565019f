"""A short way through points: from each to the nearest, then made shorter by 2-opt and Or-opt moves (Croes 1958; Or 1976).

A point is looked at again only once something near it in the order has changed (Bentley 1992: don't-look bits), so many
points take little longer than there is to be gained.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from scipy.spatial import cKDTree  # type: ignore[import-untyped]

from gladstack.core.base.compiled import jit

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]
LookArray = npt.NDArray[np.bool_]

_ROUNDS = 30
_NEAR = 10
"""How many of the nearest points are tried as the next one."""


def short_order(points: FloatArray, here: FloatArray) -> IndexArray:
    """An order of points (n, 2) from a place on, short, if not the shortest there is."""
    order = nearest_first(points, here)
    if len(order) > 2:
        near = cKDTree(points).query(points, k=min(len(points), _NEAR + 1))[1].astype(np.int64)
        # The place that the way begins at is one more point, whose place in the order is fixed.
        _shorten(np.concatenate([np.ascontiguousarray(points), here[None]]), order, near)
    return order


def nearest_first(points: FloatArray, here: FloatArray) -> IndexArray:
    """The order in which the nearest point is always next."""
    return _neighbours(np.ascontiguousarray(points, dtype=np.float64), float(here[0]), float(here[1]))


@jit
def _neighbours(points: FloatArray, x: float, y: float) -> IndexArray:
    n = len(points)
    order = np.empty(n, np.int64)
    gone = np.zeros(n, np.bool_)
    for step in range(n):
        best, at = np.inf, -1
        for k in range(n):
            if not gone[k]:
                off = (points[k, 0] - x) ** 2 + (points[k, 1] - y) ** 2
                if off < best:
                    best, at = off, k
        order[step], gone[at] = at, True
        x, y = points[at, 0], points[at, 1]
    return order


@jit
def _shorten(points: FloatArray, order: IndexArray, near: IndexArray) -> None:
    """Makes an open way shorter, in place. It begins at the last of `points`, which is not in `order`.

    Only ways to the nearest of a point (`near`, (n, k)) are tried as new ones.
    """
    n = len(order)
    at = np.empty(n, np.int64)
    for k in range(n):
        at[order[k]] = k
    look = np.ones(n, np.bool_)
    for _ in range(_ROUNDS):
        better = False
        for k in range(1, n):
            if _turned_back(points, order, at, look, -1, k):
                better = True
                break
        for i in range(n):
            point = order[i]
            if not look[point]:
                continue
            if _improved(points, order, at, look, near, point):
                better = True
            else:
                look[point] = False
        if not better:
            break


@jit
def _improved(points: FloatArray, order: IndexArray, at: IndexArray, look: LookArray, near: IndexArray, point: int) -> bool:
    """Whether a move at a point made the way shorter."""
    for k in range(near.shape[1]):
        if _turned_back(points, order, at, look, at[point], at[near[point, k]]):
            return True
    for length in range(1, 4):
        end = at[point] + length - 1
        if end >= len(order):
            break
        for k in range(near.shape[1]):
            if _put_after(points, order, at, look, at[point], end, at[near[point, k]]):
                return True
    return False


@jit
def _turned_back(points: FloatArray, order: IndexArray, at: IndexArray, look: LookArray, i: int, j: int) -> bool:
    """Runs what lies between the places i and j the other way round, if that is shorter."""
    n = len(order)
    low, high = (i + 1, j) if j > i else (j + 1, i)
    if low >= high:
        return False
    saved = _gap(points, order, low - 1, low) - _gap(points, order, low - 1, high)
    if high + 1 < n:
        saved += _gap(points, order, high, high + 1) - _gap(points, order, low, high + 1)
    if saved <= 1e-9:
        return False
    _reverse(order, at, low, high)
    _look_again(order, look, low - 1, low)
    _look_again(order, look, high, high + 1)
    return True


@jit
def _put_after(
    points: FloatArray, order: IndexArray, at: IndexArray, look: LookArray, i: int, end: int, j: int
) -> bool:  # fmt: skip
    """Moves the run i..end to follow the place j, either way round, if that is shorter."""
    n = len(order)
    if i - 1 <= j <= end:
        return False
    saved = _gap(points, order, i - 1, i)
    if end + 1 < n:
        saved += _gap(points, order, end, end + 1) - _gap(points, order, i - 1, end + 1)
    forward, turned = _gap(points, order, j, i), _gap(points, order, j, end)
    if j + 1 < n:
        base = _gap(points, order, j, j + 1)
        forward += _gap(points, order, end, j + 1) - base
        turned += _gap(points, order, i, j + 1) - base
    if min(forward, turned) > saved - 1e-9:
        return False
    _look_again(order, look, i - 1, i)
    _look_again(order, look, end, end + 1)
    _look_again(order, look, j, j + 1)
    if turned < forward:
        _reverse(order, at, i, end)
    # Two neighbouring runs change places by turning each, and then both together.
    if j > end:
        _swap(order, at, i, end, j)
    else:
        _swap(order, at, j + 1, i - 1, end)
    return True


@jit
def _swap(order: IndexArray, at: IndexArray, low: int, middle: int, high: int) -> None:
    """What lies at low..middle goes behind what lies at middle+1..high, each as it ran."""
    _reverse(order, at, low, middle)
    _reverse(order, at, middle + 1, high)
    _reverse(order, at, low, high)


@jit
def _reverse(order: IndexArray, at: IndexArray, low: int, high: int) -> None:
    while low < high:
        a, b = order[low], order[high]
        order[low], order[high] = b, a
        at[b], at[a] = low, high
        low, high = low + 1, high - 1


@jit
def _look_again(order: IndexArray, look: LookArray, i: int, j: int) -> None:
    for k in (i, j):
        if 0 <= k < len(order):
            look[order[k]] = True


@jit
def _gap(points: FloatArray, order: IndexArray, i: int, j: int) -> float:
    """How far the points at two places in the order are apart; place -1 is where the way begins."""
    a = order[i] if i >= 0 else len(points) - 1
    b = order[j] if j >= 0 else len(points) - 1
    return float(np.sqrt((points[b, 0] - points[a, 0]) ** 2 + (points[b, 1] - points[a, 1]) ** 2))
