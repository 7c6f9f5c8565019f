"""The blade's path over a sheet: each contour once, what lies within before what surrounds it, small before large, and the
shortest way between.

A long sheet is cut in zones along the film, so that it does not run to and fro; `route` finds the way within a zone and a
size. Where each contour is begun is chosen last, so that the ways between are shortest.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import Chain, flatten_chains, reverse_chain
from gladstack.core.geometry.rings import enclosing
from gladstack.core.plan.route import nearest_first, short_order

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

ZONE_MM = 200.0
_SIZES_MM = (30.0,)
"""Contours no longer across than this are small, and go before larger ones."""
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
    flat = flatten_chains(whole, tolerances.FLATTEN_MM)
    cut = sum(float(np.hypot(*np.diff(p, axis=0).T).sum()) for p in flat)
    choices, given = [], []
    for k, (chain, corners) in enumerate(zip(whole, _corner_turns(whole), strict=True)):
        choices.append(_beginnings(chain, corners))
        # In the order that was given, each is begun at its sharpest corner; what helps weeding as it is.
        sharpest = int(np.argmax(corners)) if k < len(contours) else 0
        given.append(_begun(chain, sharpest) if corners[sharpest] >= _CORNER_DEG else _begun(chain, 0))
    # By their middles, or by their sharpest corners; then by where they were begun, as long as that makes the way shorter.
    middles = np.array([(p.min(axis=0) + p.max(axis=0)) / 2 for p in flat]).reshape(-1, 2)
    sharpest_at = np.array([one.enter for one in given]).reshape(-1, 2)
    # For many contours one way of going about it has to do.
    few = len(whole) <= _FEW
    found = [(_laid_out(choices, flat, len(contours), at), at) for at in ((middles, sharpest_at) if few else (middles,))]
    (order, begun), at = min(found, key=lambda one: sum(_moves(one[0][1])))
    for _ in range(_AGAIN if few else 0):
        for k, one in zip(order, begun, strict=True):
            at[k] = one.enter
        other, again = _laid_out(choices, flat, len(contours), at)
        if sum(_moves(again)) >= sum(_moves(begun)) - 1e-6:
            break
        order, begun = other, again
    turned = tuple(_turned(whole[k], one.turn) for k, one in zip(order, begun, strict=True))
    return BladePath(turned, tuple(order), cut, _moves(begun), _moves(given))


@dataclass(frozen=True)
class _Begun:
    """Where a contour is entered and left (2,), and by which turn of its pieces (-1: run backwards)."""

    enter: FloatArray
    leave: FloatArray
    turn: int


def _begun(chain: Chain, turn: int) -> _Begun:
    """A closed chain begun with one of its pieces; an open one as it is."""
    return _Begun(chain.pieces[turn, 0], chain.pieces[turn, 0] if turn else chain.end, turn)


def _turned(chain: Chain, turn: int) -> Chain:
    if turn < 0:
        return reverse_chain(chain)
    return chain if turn == 0 else Chain(np.roll(chain.pieces, -turn, axis=0), np.roll(chain.straight, -turn))


def _laid_out(
    choices: Sequence[_Beginnings], flat: Sequence[FloatArray], count: int, at: FloatArray
) -> tuple[list[int], list[_Begun]]:
    order = _ordered(flat, count, at)
    return order, _shortest([choices[k] for k in order])


def _shortest(choices: Sequence[_Beginnings]) -> list[_Begun]:
    """Contours in their order, each begun where the ways between are shortest on the whole.

    A closed one may begin at any of its sharp corners, or where it has none, at some places along it; an open one at either
    end. The best of all choices is found going forward, contour by contour (Bellman 1957).
    """
    if not choices:
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
    return [_Begun(own.enters[k], own.leaves[k], own.turns[k]) for own, k in zip(choices, reversed(picked), strict=True)]


@dataclass(frozen=True)
class _Beginnings:
    """Where a contour may be entered and left (k, 2), and by which turn of its pieces (-1: run backwards)."""

    enters: FloatArray
    leaves: FloatArray
    turns: tuple[int, ...]


def _beginnings(chain: Chain, corner_turns: FloatArray) -> _Beginnings:
    pieces = chain.pieces
    if not np.all(chain.start == chain.end):
        ends = np.array([chain.start, chain.end])
        return _Beginnings(ends, ends[::-1], (0, -1))
    turns = np.flatnonzero(corner_turns >= _CORNER_DEG)
    if not len(turns):
        turns = np.arange(len(pieces))
    if len(turns) > _MOST_BEGINNINGS:
        turns = turns[np.linspace(0, len(turns) - 1, _MOST_BEGINNINGS).astype(np.int64)]
    at = pieces[turns, 0]
    return _Beginnings(at, at, tuple(turns.tolist()))


def _corner_turns(chains: Sequence[Chain]) -> list[FloatArray]:
    """By how many degrees each closed chain turns where each of its pieces begins."""
    if not chains:
        return []
    pieces = np.concatenate([c.pieces for c in chains])
    ends = np.cumsum([len(c) for c in chains])
    last = np.arange(-1, len(pieces) - 1)
    last[ends - [len(c) for c in chains]] = ends - 1
    into = _directions(pieces[:, 3] - pieces[:, 2], pieces[:, 3] - pieces[:, 0])
    out = _directions(pieces[:, 1] - pieces[:, 0], pieces[:, 3] - pieces[:, 0])
    before = into[last]
    cross, dot = before[:, 0] * out[:, 1] - before[:, 1] * out[:, 0], (before * out).sum(axis=1)
    return np.split(np.degrees(np.abs(np.arctan2(cross, dot))), ends[:-1])


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
        for k in own[short_order(at[own], here)].tolist():
            out += _inner_first(k, within, at) if k < count else [k]
            here = at[k]
    return out


def _inner_first(k: int, within: dict[int, list[int]], at: FloatArray) -> list[int]:
    """What lies within a contour, innermost first, and then the contour."""
    held = within.get(k, [])
    if not held:
        return [k]
    near = nearest_first(at[held], at[k])
    return [j for n in near for j in _inner_first(held[int(n)], within, at)] + [k]


def _moves(begun: Sequence[_Begun]) -> tuple[float, ...]:
    here, out = np.zeros(2), []
    for one in begun:
        out.append(float(np.hypot(*(one.enter - here))))
        here = one.leave
    return tuple(out)
