"""The blade's path over a sheet: each contour once, what lies within before what surrounds it, small before large, and the
shortest way between.

A long sheet is cut in zones along the film, so that it does not run to and fro. Within a zone and a size the way is found by
nearest neighbour and made shorter by 2-opt and Or-opt moves (Croes 1958; Or 1976), a bounded number of them. Where each
contour is begun is chosen last, so that the ways between are shortest.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from scipy.spatial import cKDTree  # type: ignore[import-untyped]

from gladstack.core.base import tolerances
from gladstack.core.base.compiled import jit
from gladstack.core.geometry.curves import Chain, flatten_chain, reverse_chain
from gladstack.core.geometry.rings import enclosing

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

ZONE_MM = 200.0
_SIZES_MM = (30.0,)
"""Contours no longer across than this are small, and go before larger ones."""
_ROUNDS = 30
_NEAR = 10
"""How many of the nearest places are tried as the next one: bounds the time for many contours."""
_MOST_BEGINNINGS = 24
_AGAIN = 3
_FEW = 600
_CORNER_DEG = 25.0


@dataclass(frozen=True)
class BladePath:
    """Contours in the order they are cut, each turned to begin where a corner hides the start; what it comes to in mm.

    `order` tells for each the place it had in the list that was given. `moves_mm` are the ways between them, lifted, from
    the sheet's corner on; `moves_before_mm` those in the list's own order.
    """

    contours: tuple[Chain, ...]
    order: tuple[int, ...]
    cut_mm: float
    moves_mm: tuple[float, ...]
    moves_before_mm: tuple[float, ...]

    @property
    def travel_mm(self) -> float:
        """How far the blade travels lifted."""
        return sum(self.moves_mm)

    @property
    def travel_before_mm(self) -> float:
        """How far it would in the order that was given."""
        return sum(self.moves_before_mm)

    @property
    def lifts(self) -> int:
        """How often the blade is lifted."""
        return len(self.contours)


def blade_path(contours: Sequence[Chain], last: Sequence[Chain] = ()) -> BladePath:
    """The path over closed `contours`, then over what is cut `last` (boxes, lines to weed by), from the sheet's corner."""
    whole = [*contours, *last]
    flat = [flatten_chain(c, tolerances.FLATTEN_MM) for c in whole]
    cut = sum(float(np.hypot(*np.diff(p, axis=0).T).sum()) for p in flat)
    given = [*(begun_at_corner(c) for c in contours), *last]
    # By their middles, or by their sharpest corners; then by where they were begun, as long as that makes the way shorter.
    middles = np.array([(p.min(axis=0) + p.max(axis=0)) / 2 for p in flat]).reshape(-1, 2)
    corners = np.array([c.start for c in given]).reshape(-1, 2)
    choices = [_beginnings(c) for c in whole]
    # For many contours one way of going about it has to do.
    few = len(whole) <= _FEW
    found = [(_laid_out(whole, choices, flat, len(contours), at), at) for at in ((middles, corners) if few else (middles,))]
    (order, turned), at = min(found, key=lambda one: sum(_moves(one[0][1])))
    for _ in range(_AGAIN if few else 0):
        for k, chain in zip(order, turned, strict=True):
            at[k] = chain.start
        other, again = _laid_out(whole, choices, flat, len(contours), at)
        if sum(_moves(again)) >= sum(_moves(turned)) - 1e-6:
            break
        order, turned = other, again
    return BladePath(tuple(turned), tuple(order), cut, _moves(turned), _moves(given))


def _laid_out(
    whole: Sequence[Chain], choices: Sequence[_Beginnings], flat: Sequence[FloatArray], count: int, at: FloatArray
) -> tuple[list[int], list[Chain]]:
    order = _ordered(flat, count, at)
    return order, _turned([whole[k] for k in order], [choices[k] for k in order])


def _turned(contours: Sequence[Chain], choices: Sequence[_Beginnings]) -> list[Chain]:
    """Contours in their order, each begun where the ways between are shortest on the whole.

    A closed one may begin at any of its sharp corners, or where it has none, at some places along it; an open one at either
    end. The best of all choices is found going forward, contour by contour (Bellman 1957).
    """
    if not contours:
        return []
    cost = np.hypot(*choices[0].enters.T)
    back: list[IndexArray] = []
    for before, now in pairwise(choices):
        gaps = np.hypot(*(before.leaves[:, None] - now.enters[None]).transpose(2, 0, 1)) + cost[:, None]
        back.append(np.argmin(gaps, axis=0))
        cost = gaps.min(axis=0)
    at = int(np.argmin(cost))
    picked = [at]
    for step in reversed(back):
        at = int(step[at])
        picked.append(at)
    return [_begun(c, own.turns[k]) for c, own, k in zip(contours, choices, reversed(picked), strict=True)]


@dataclass(frozen=True)
class _Beginnings:
    """Where a contour may be entered and left (k, 2), and by which turn of its pieces (-1: run backwards)."""

    enters: FloatArray
    leaves: FloatArray
    turns: tuple[int, ...]


def _beginnings(chain: Chain) -> _Beginnings:
    pieces = chain.pieces
    if not np.all(chain.start == chain.end):
        ends = np.array([chain.start, chain.end])
        return _Beginnings(ends, ends[::-1], (0, -1))
    turns = np.flatnonzero(_corner_turns(pieces) >= _CORNER_DEG)
    if not len(turns):
        turns = np.arange(len(pieces))
    if len(turns) > _MOST_BEGINNINGS:
        turns = turns[np.linspace(0, len(turns) - 1, _MOST_BEGINNINGS).astype(np.int64)]
    at = pieces[turns, 0]
    return _Beginnings(at, at, tuple(turns.tolist()))


def _begun(chain: Chain, turn: int) -> Chain:
    if turn < 0:
        return reverse_chain(chain)
    return chain if turn == 0 else Chain(np.roll(chain.pieces, -turn, axis=0), np.roll(chain.straight, -turn))


def begun_at_corner(chain: Chain) -> Chain:
    """A closed chain turned to begin at its sharpest corner; as it is where it has none."""
    turn = _corner_turns(chain.pieces)
    k = int(np.argmax(turn))
    return chain if turn[k] < _CORNER_DEG else _begun(chain, k)


def _corner_turns(pieces: FloatArray) -> FloatArray:
    """By how many degrees a closed chain turns where each of its pieces begins."""
    into = _directions(pieces[:, 3] - pieces[:, 2], pieces[:, 3] - pieces[:, 0])
    out = _directions(pieces[:, 1] - pieces[:, 0], pieces[:, 3] - pieces[:, 0])
    before = np.roll(into, 1, axis=0)
    cross, dot = before[:, 0] * out[:, 1] - before[:, 1] * out[:, 0], (before * out).sum(axis=1)
    return np.asarray(np.degrees(np.abs(np.arctan2(cross, dot))))


def _directions(steps: FloatArray, instead: FloatArray) -> FloatArray:
    idle = np.hypot(steps[:, 0], steps[:, 1]) < 1e-9
    return np.where(idle[:, None], instead, steps)


def _ordered(flat: Sequence[FloatArray], count: int, at: FloatArray) -> list[int]:
    """The order of the first `count` contours and of what comes after them, going by a place `at` each.

    Zone by zone, small before large, holes and all else within before what is around. What helps weeding comes when all is
    cut that lies before its far end.
    """
    if not flat:
        return []
    _, parent = enclosing(flat[:count], np.array([p[0] for p in flat[:count]])) if count else (None, np.zeros(0, np.int64))
    within: dict[int, list[int]] = {}
    for k, p in enumerate(parent.tolist()):
        within.setdefault(p if p != k else -1, []).append(k)
    low, high = np.array([p.min(axis=0) for p in flat]), np.array([p.max(axis=0) for p in flat])
    middle = (low + high) / 2
    groups: dict[tuple[int, int], list[int]] = {}
    for k in within.get(-1, []):
        size = int(np.searchsorted(_SIZES_MM, (high[k] - low[k]).max()))
        groups.setdefault((int(middle[k, 0] // ZONE_MM), size), []).append(k)
    for k in range(count, len(flat)):
        groups.setdefault((int(high[k, 0] // ZONE_MM), len(_SIZES_MM) + 1), []).append(k)
    out: list[int] = []
    here = np.zeros(2)
    for key in sorted(groups):
        own = np.array(groups[key])
        for k in own[_shortest(at[own], here)].tolist():
            out += _inner_first(k, within, at) if k < count else [k]
            here = at[k]
    return out


def _inner_first(k: int, within: dict[int, list[int]], at: FloatArray) -> list[int]:
    """What lies within a contour, innermost first, and then the contour."""
    held = within.get(k, [])
    if not held:
        return [k]
    near = _nearest_first(at[held], at[k])
    return [j for n in near for j in _inner_first(held[int(n)], within, at)] + [k]


def _shortest(points: FloatArray, here: FloatArray) -> IndexArray:
    """An order of points from a place on, short, if not the shortest there is."""
    order = _nearest_first(points, here)
    if len(order) > 2:
        near = cKDTree(points).query(points, k=min(len(points), _NEAR + 1))[1].astype(np.int64)
        _improve(np.ascontiguousarray(points), order, here, near, _ROUNDS)
    return order


def _nearest_first(points: FloatArray, here: FloatArray) -> IndexArray:
    return _neighbours(np.ascontiguousarray(points, dtype=np.float64), float(here[0]), float(here[1]))


def _moves(contours: Sequence[Chain]) -> tuple[float, ...]:
    here, out = np.zeros(2), []
    for chain in contours:
        out.append(float(np.hypot(*(chain.start - here))))
        here = chain.end
    return tuple(out)


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
def _improve(points: FloatArray, order: IndexArray, here: FloatArray, near: IndexArray, rounds: int) -> None:
    """2-opt, and Or-opt of runs up to three, on an open way that begins at `here`, in place.

    Only ways to the nearest of a point (`near`, (n, k)) are tried as new ones.
    """
    n = len(order)
    at = np.empty(n, np.int64)
    for _ in range(rounds):
        for k in range(n):
            at[order[k]] = k
        better = False
        for i in range(-1, n - 1):
            a = order[i] if i >= 0 else -1
            count = near.shape[1] if i >= 0 else n
            for k in range(count):
                j = at[near[a, k]] if i >= 0 else k
                if i < 0 and j == 0:
                    continue
                low, high = (i + 1, j) if j > i else (j + 1, i)
                if low >= high:
                    continue
                saved = _gap(points, order, here, low - 1, low) - _gap(points, order, here, low - 1, high)
                if high + 1 < n:
                    saved += _gap(points, order, here, high, high + 1) - _gap(points, order, here, low, high + 1)
                if saved > 1e-9:
                    order[low : high + 1] = order[low : high + 1][::-1].copy()
                    for m in range(low, high + 1):
                        at[order[m]] = m
                    better = True
                    break
        for length in range(1, 4):
            for i in range(n - length + 1):
                end = i + length - 1
                for k in range(near.shape[1]):
                    if _moved(points, order, at, here, i, end, at[near[order[i], k]]):
                        better = True
                        break
        if not better:
            break


@jit
def _moved(points: FloatArray, order: IndexArray, at: IndexArray, here: FloatArray, i: int, end: int, j: int) -> bool:
    """Moves the run i..end to follow the point at j, either way round, if that is shorter."""
    n = len(order)
    if i - 1 <= j <= end:
        return False
    first, last, before, after = order[i], order[end], i - 1, end + 1
    saved = _gap(points, order, here, before, i)
    if after < n:
        saved += _gap(points, order, here, end, after) - _gap(points, order, here, before, after)
    target = points[order[j]]
    follows = j + 1 < n and j + 1 != i
    base = 0.0
    if follows:
        nxt = points[order[j + 1]]
        base = _apart(target, nxt)
        forward = _apart(target, points[first]) + _apart(points[last], nxt) - base
        turned = _apart(target, points[last]) + _apart(points[first], nxt) - base
    else:
        forward, turned = _apart(target, points[first]), _apart(target, points[last])
    if min(forward, turned) > saved - 1e-9 or (j + 1 == i):
        return False
    run = order[i : end + 1].copy()
    if turned < forward:
        run = run[::-1].copy()
    length = end - i + 1
    if j > end:
        order[i : j + 1 - length] = order[end + 1 : j + 1].copy()
        order[j + 1 - length : j + 1] = run
        low, high = i, j
    else:
        order[j + 1 + length : end + 1] = order[j + 1 : i].copy()
        order[j + 1 : j + 1 + length] = run
        low, high = j + 1, end
    for m in range(low, high + 1):
        at[order[m]] = m
    return True


@jit
def _apart(a: FloatArray, b: FloatArray) -> float:
    return float(np.hypot(b[0] - a[0], b[1] - a[1]))


@jit
def _gap(points: FloatArray, order: IndexArray, here: FloatArray, i: int, j: int) -> float:
    b = points[order[j]]
    if i < 0:
        return _apart(here, b)
    return _apart(points[order[i]], b)
