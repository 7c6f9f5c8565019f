"""The blade's path over a sheet: each contour once, what lies within before what surrounds it, small before large, and the
shortest way between.

A long sheet is cut in zones along the film, so that it does not run to and fro. Within a zone and a size the way is found by
nearest neighbour and made shorter by 2-opt and Or-opt moves (Croes 1958; Or 1976), a bounded number of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from gladstack.core.base import tolerances
from gladstack.core.base.compiled import jit
from gladstack.core.geometry.curves import Chain, flatten_chain
from gladstack.core.geometry.rings import enclosing

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

ZONE_MM = 300.0
_SIZES_MM = (10.0, 60.0)
"""Contours no longer across than these go before larger ones."""
_ROUNDS = 12
_WINDOW = 400
"""How far along the way two places may lie for a move: bounds the time for many contours."""
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
    begun = [begun_at_corner(c) for c in contours]
    flat = [flatten_chain(c, tolerances.FLATTEN_MM) for c in begun]
    order = _ordered(flat)
    here = flat[order[-1]][-1] if order else np.zeros(2)
    ends = [flatten_chain(c, tolerances.FLATTEN_MM) for c in last]
    after = _nearest_first(np.array([p[0] for p in ends]), here).tolist() if ends else []
    whole, points = [*begun, *last], [*flat, *ends]
    full = [*order, *(len(flat) + k for k in after)]
    cut = sum(float(np.hypot(*np.diff(p, axis=0).T).sum()) for p in points)
    given = list(range(len(points)))
    return BladePath(tuple(whole[k] for k in full), tuple(full), cut, _moves(points, full), _moves(points, given))


def begun_at_corner(chain: Chain) -> Chain:
    """A closed chain turned to begin at its sharpest corner; as it is where it has none."""
    pieces = chain.pieces
    into = _directions(pieces[:, 3] - pieces[:, 2], pieces[:, 3] - pieces[:, 0])
    out = _directions(pieces[:, 1] - pieces[:, 0], pieces[:, 3] - pieces[:, 0])
    before = np.roll(into, 1, axis=0)
    turn = np.degrees(np.abs(np.arctan2(before[:, 0] * out[:, 1] - before[:, 1] * out[:, 0], (before * out).sum(axis=1))))
    k = int(np.argmax(turn))
    if turn[k] < _CORNER_DEG or k == 0:
        return chain
    return Chain(np.roll(pieces, -k, axis=0), np.roll(chain.straight, -k))


def _directions(steps: FloatArray, instead: FloatArray) -> FloatArray:
    idle = np.hypot(steps[:, 0], steps[:, 1]) < 1e-9
    return np.where(idle[:, None], instead, steps)


def _ordered(flat: Sequence[FloatArray]) -> list[int]:
    """The order of closed contours: zone by zone, small before large, holes and all else within before what is around."""
    if not flat:
        return []
    depth, parent = enclosing(flat, np.array([p[0] for p in flat]))
    del depth
    within: dict[int, list[int]] = {}
    for k, p in enumerate(parent.tolist()):
        within.setdefault(p if p != k else -1, []).append(k)
    roots = within.get(-1, [])
    starts = np.array([p[0] for p in flat])
    size = np.array([np.ptp(p, axis=0).max() for p in flat])
    middle = np.array([(p[:, 0].min() + p[:, 0].max()) / 2 for p in flat])
    groups: dict[tuple[int, int], list[int]] = {}
    for k in roots:
        zone = int(middle[k] // ZONE_MM)
        groups.setdefault((zone, int(np.searchsorted(_SIZES_MM, size[k]))), []).append(k)
    out: list[int] = []
    here = np.zeros(2)
    for key in sorted(groups):
        own = np.array(groups[key])
        for k in own[_shortest(starts[own], here)].tolist():
            out += _inner_first(k, within, starts)
            here = starts[k]
    return out


def _inner_first(k: int, within: dict[int, list[int]], starts: FloatArray) -> list[int]:
    """What lies within a contour, innermost first, and then the contour."""
    held = within.get(k, [])
    if not held:
        return [k]
    near = _nearest_first(starts[held], starts[k])
    return [j for n in near for j in _inner_first(held[int(n)], within, starts)] + [k]


def _shortest(points: FloatArray, here: FloatArray) -> IndexArray:
    """An order of points from a place on, short, if not the shortest there is."""
    order = _nearest_first(points, here)
    if len(order) > 2:
        _improve(np.ascontiguousarray(points), order, here, _ROUNDS, _WINDOW)
    return order


def _nearest_first(points: FloatArray, here: FloatArray) -> IndexArray:
    return _neighbours(np.ascontiguousarray(points, dtype=np.float64), float(here[0]), float(here[1]))


def _moves(points: Sequence[FloatArray], order: Sequence[int]) -> tuple[float, ...]:
    here, out = np.zeros(2), []
    for k in order:
        out.append(float(np.hypot(*(points[k][0] - here))))
        here = points[k][-1]
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
def _improve(points: FloatArray, order: IndexArray, here: FloatArray, rounds: int, window: int) -> None:
    """2-opt, and Or-opt of runs up to three, on an open way that begins at `here`, in place."""
    n = len(order)
    for _ in range(rounds):
        better = False
        for i in range(n - 1):
            for j in range(i + 1, min(n, i + window)):
                saved = _gap(points, order, here, i - 1, i) - _gap(points, order, here, i - 1, j)
                if j + 1 < n:
                    saved += _gap(points, order, here, j, j + 1) - _gap(points, order, here, i, j + 1)
                if saved > 1e-9:
                    order[i : j + 1] = order[i : j + 1][::-1].copy()
                    better = True
        for length in range(1, 4):
            for i in range(n - length):
                for j in range(i + length, min(n, i + window)):
                    a, b = i + length - 1, j
                    saved = _gap(points, order, here, i - 1, i) + _gap(points, order, here, a, a + 1)
                    saved -= _gap(points, order, here, i - 1, a + 1) + _gap(points, order, here, b, i)
                    if b + 1 < n:
                        saved += _gap(points, order, here, b, b + 1) - _gap(points, order, here, a, b + 1)
                    if saved > 1e-9:
                        run = order[i : a + 1].copy()
                        order[i : b + 1 - length] = order[a + 1 : b + 1].copy()
                        order[b + 1 - length : b + 1] = run
                        better = True
        if not better:
            break


@jit
def _gap(points: FloatArray, order: IndexArray, here: FloatArray, i: int, j: int) -> float:
    b = points[order[j]]
    if i < 0:
        return float(np.hypot(b[0] - here[0], b[1] - here[1]))
    a = points[order[i]]
    return float(np.hypot(b[0] - a[0], b[1] - a[1]))
