"""Stretches of an area, or of what lies between areas, that are narrower than a limit."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.edge_points import FloatArray, IndexArray, edge_points, grid_of, step_for
from gladstack.core.geometry.parted import parted_off
from gladstack.core.geometry.widths import Widths, reach_over, widths_of


@dataclass(frozen=True)
class Run:
    """A stretch that is narrower than a limit, in mm: where it is narrowest and how wide there, the two points of the edge
    there, how long it is, and its middle line in pieces, with the width at each point.

    `opens_deg` is the angle between its sides; one that is a `tip` runs out to nothing. `rings` are the rings
    it lies between. A cut of an area where it is narrowest would leave two pieces of it, the smaller one of `beyond_mm2`;
    none, where the two points there are of two rings.
    """

    mm: float
    at: tuple[float, float]
    sides: tuple[tuple[float, float], tuple[float, float]]
    length_mm: float
    lines: tuple[FloatArray, ...]
    widths: tuple[FloatArray, ...]
    opens_deg: float
    tip: bool
    rings: tuple[int, ...]
    beyond_mm2: float
    part: int


Runs = tuple[Run, ...]

_LEAST_LENGTH_MM = 0.2
_APART = 3
"""Points of a run may miss so many between them, as at a corner of one side."""
_OVER_MM = 0.02
"""A disc may reach so far over an edge: points along edges stand for what lies between them."""
_TAPERS = 0.5
_EVEN = 0.9
"""An end that is hardly narrower than the rest of its stroke is none that tapers."""
_BY_LENGTH = 2.5


def narrow_runs(shape: MultiPolygon, limit_mm: float, *, inside: bool = True) -> Runs:
    """The stretches of an area that are narrower than a limit; or of what lies between and within areas."""
    if limit_mm <= 0:
        return ()
    points = edge_points(shape, step_for(limit_mm))
    if not len(points.at):
        return ()
    return runs_of(widths_of(points, grid_of(points.at, limit_mm), limit_mm, inside=inside), limit_mm)


def both_runs(shape: MultiPolygon, part_mm: float, waste_mm: float) -> tuple[Runs, Runs]:
    """Those of an area, and those of what lies between and within areas, each for a limit of its own."""
    if not (part_mm > 0 and waste_mm > 0 and step_for(part_mm) == step_for(waste_mm)):
        return narrow_runs(shape, part_mm), narrow_runs(shape, waste_mm, inside=False)
    points = edge_points(shape, step_for(part_mm))
    if not len(points.at):
        return (), ()
    grid = grid_of(points.at, max(part_mm, waste_mm))
    # Compiled loops leave another thread free to run.
    with ThreadPoolExecutor(1) as beside:
        outside = beside.submit(widths_of, points, grid, waste_mm, inside=False)
        parts, waste = widths_of(points, grid, part_mm), outside.result()
    return runs_of(parts, part_mm), runs_of(waste, waste_mm)


def runs_of(widths: Widths, limit_mm: float) -> Runs:
    """The stretches that are narrower than a limit, the narrowest first."""
    thin = widths.mm < limit_mm
    held = np.flatnonzero(thin)
    if not len(held):
        return ()
    points = widths.points
    group = _grouped(thin, points.after, widths.across, _APART)[held]
    sort = np.argsort(group, kind="stable")
    order, group = held[sort], group[sort]
    begins = np.append(np.flatnonzero(np.append(True, group[1:] != group[:-1])), len(order))
    place = np.cumsum(points.length) - points.length
    around = np.bincount(points.ring, weights=points.length)
    long, tips, opens = _told(
        order, begins, widths.mm, widths.across, points.along, points.length, points.ring, points.corner, place, around,
        limit_mm,
    )  # fmt: skip
    kept = np.flatnonzero(long >= 0.0)
    least = _narrowest_free(
        [order[a:b] for a, b in zip(begins[kept].tolist(), begins[kept + 1].tolist(), strict=True)], widths
    )
    kept, least = kept[least >= 0], least[least >= 0]
    sides, spots = _sides(widths, least), _spots(widths.middles(least))
    lines, rings = _lines(widths, order, begins), _rings_of(widths, order, begins)
    beyond = parted_off(points, least, widths.across[least]) if widths.inside else np.zeros(len(least))
    out = map(
        Run, widths.mm[least].tolist(), spots, sides, long[kept].tolist(), *zip(*(lines[k] for k in kept), strict=True),
        opens[kept].tolist(), tips[kept].tolist(), (rings[k] for k in kept), beyond.tolist(), points.part[least].tolist(),
    ) if len(kept) else ()  # fmt: skip
    return tuple(sorted(out, key=lambda run: run.mm))


def _spots(at: FloatArray) -> list[tuple[float, float]]:
    return [(x, y) for x, y in at.tolist()]


def _sides(widths: Widths, some: IndexArray) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    """The points of both edges that the discs of some points touch."""
    at = widths.points.at
    return list(zip(_spots(at[some]), _spots(at[widths.across[some]]), strict=True))


def _lines(
    widths: Widths, order: IndexArray, begins: IndexArray
) -> list[tuple[tuple[FloatArray, ...], tuple[FloatArray, ...]]]:
    """The middles of the discs of all runs as lines, each along one side, and how wide they are there.

    They are parts of what there is of all, so that they are held only once.
    """
    middles, mm = widths.middles(order), widths.mm[order]
    ends = np.union1d(begins, 1 + np.flatnonzero(order[1:] - order[:-1] > _APART + 1))
    of, ends_of = np.searchsorted(ends, begins).tolist(), ends.tolist()
    parts = [slice(a, b) for a, b in pairwise(ends_of)]
    return [
        (tuple(middles[one] for one in parts[a:b]), tuple(mm[one] for one in parts[a:b]))
        for a, b in pairwise(of)
    ]  # fmt: skip


def _rings_of(widths: Widths, order: IndexArray, begins: IndexArray) -> list[tuple[int, ...]]:
    """Which rings each run lies between."""
    ring = widths.points.ring
    count, run = int(ring.max()) + 1, np.repeat(np.arange(len(begins) - 1), begins[1:] - begins[:-1])
    found = np.unique(np.concatenate([run * count + ring[order], run * count + ring[widths.across[order]]]))
    rings = (found % count).tolist()
    return [tuple(rings[a:b]) for a, b in pairwise(np.searchsorted(found // count, np.arange(len(begins))).tolist())]


@jit
def _told(
    order: Any, begins: Any, mm: Any, across: Any, along: Any, length: Any, ring: Any, corner: Any, place: Any, around: Any,
    limit: float,
) -> Any:  # fmt: skip
    """How long each run is, whether it tapers, and the angle between its sides in degrees.

    The length is -1 where it is no run: one that is short, and at no corner.
    """
    count = len(begins) - 1
    long, tips, opens = np.full(count, -1.0), np.zeros(count, np.bool_), np.zeros(count)
    for g in range(count):
        own = order[begins[g] : begins[g + 1]]
        total, at_corner = 0.0, False
        for i in own:
            total += length[i]
            at_corner |= corner[i] != 0
        if total / 2.0 < _LEAST_LENGTH_MM and not at_corner:
            continue
        long[g] = total / 2.0
        at_end, at_rest, most = np.inf, np.inf, 0.0
        angle = np.empty(len(own))
        for n in range(len(own)):
            i, j = own[n], across[own[n]]
            # How far it is from side to side along the edge itself: little, where the edge turns back at an end.
            way = np.inf
            if ring[i] == ring[j]:
                way = abs(place[i] - place[j])
                way = min(way, around[ring[i]] - way)
            if way < _BY_LENGTH * limit:
                at_end = min(at_end, mm[i])
            else:
                at_rest = min(at_rest, mm[i])
            most = max(most, mm[i])
            angle[n] = -(along[i, 0] * along[j, 0] + along[i, 1] * along[j, 1])
        # A stroke as wide all along is wider where it leaves a larger part, and no tip for that.
        tips[g] = at_end < min(_TAPERS * most, _EVEN * np.median(mm[own])) and at_end < at_rest
        opens[g] = np.degrees(np.median(np.arccos(np.minimum(1.0, np.maximum(-1.0, angle)))))
    return long, tips, opens


def _narrowest_free(groups: Sequence[IndexArray], widths: Widths) -> IndexArray:
    """The point of each run where it is narrowest, of those whose discs reach over no edge that does not face them.

    -1 where there is none.
    """
    # Nearly always it is the narrowest of all: these are asked for at once.
    least = np.array([own[widths.mm[own].argmin()] for own in groups], np.int64)
    for k in np.flatnonzero(reach_over(widths, least, _OVER_MM)).tolist():
        free = groups[k][~reach_over(widths, groups[k], _OVER_MM)]
        least[k] = free[widths.mm[free].argmin()] if len(free) else -1
    return least


@jit
def _grouped(thin: Any, after: Any, across: Any, apart: int) -> Any:
    """Numbers thin points that hang together: along an edge, and from side to side."""
    root = np.arange(len(thin))
    for i in range(len(thin)):
        if not thin[i]:
            continue
        j = i
        for _ in range(apart + 1):
            j = after[j]
            if thin[j]:
                _join(root, i, j)
                break
        if across[i] >= 0 and thin[across[i]]:
            _join(root, i, across[i])
    for i in range(len(thin)):
        root[i] = _root(root, i)
    return root


@jit
def _root(root: Any, k: int) -> int:
    while root[k] != k:
        root[k] = root[root[k]]
        k = root[k]
    return k


@jit
def _join(root: Any, i: int, j: int) -> None:
    root[_root(root, j)] = _root(root, i)
