"""Stretches of an area, or of what lies between areas, that are narrower than a limit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.edge_points import EdgePoints, FloatArray, IndexArray, edge_points, step_for
from gladstack.core.geometry.widths import Widths, reach_over, widths_of


@dataclass(frozen=True)
class Run:
    """A stretch that is narrower than a limit, in mm: where it is narrowest and how wide there, the two points of the edge
    there, how long it is, and its middle line in pieces, with the width at each point.

    `opens_deg` is the angle between its sides; one that is a `tip` runs out to nothing. `rings` are the rings
    it lies between. A cut where it is narrowest would part off `beyond_mm2`, holes in that counted as full; nothing, where
    the two points there are of two rings.
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
    return runs_of(widths_of(points, limit_mm, inside=inside), limit_mm) if len(points.at) else ()


def both_runs(shape: MultiPolygon, part_mm: float, waste_mm: float) -> tuple[Runs, Runs]:
    """Those of an area, and those of what lies between and within areas, each for a limit of its own."""
    if not (part_mm > 0 and waste_mm > 0 and step_for(part_mm) == step_for(waste_mm)):
        return narrow_runs(shape, part_mm), narrow_runs(shape, waste_mm, inside=False)
    points = edge_points(shape, step_for(part_mm))
    if not len(points.at):
        return (), ()
    parts, waste = widths_of(points, part_mm), widths_of(points, waste_mm, inside=False)
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
    least = _narrowest_free([order[begins[k] : begins[k + 1]] for k in kept], widths)
    across = widths.across[order]
    told = _Thin(
        widths, _Around.of(points), order, widths.middles(order), widths.mm[order], points.ring[order], points.ring[across]
    )
    out = [
        _run(told, int(begins[k]), int(begins[k + 1]), at, float(long[k]), float(opens[k]), tip=bool(tips[k]))
        for k, at in zip(kept, least, strict=True)
        if at is not None
    ]
    return tuple(sorted(out, key=lambda run: run.mm))


@dataclass(frozen=True)
class _Around:
    """What rings go round: twice the area between each point, the next and the origin, added up point by point."""

    points: EdgePoints
    up_to: FloatArray
    whole: FloatArray

    @staticmethod
    def of(points: EdgePoints) -> _Around:
        """Of all rings (the shoelace formula)."""
        x, y = points.at[:, 0], points.at[:, 1]
        own = x * y[points.after] - x[points.after] * y
        return _Around(points, np.cumsum(own) - own, np.bincount(points.ring, weights=own).astype(np.float64))

    def between(self, a: int, b: int) -> float:
        """The smaller of the two areas, in mm2, that a line from one point to another of its ring goes round with it."""
        ring = self.points.ring[a]
        if ring != self.points.ring[b]:
            return 0.0
        first, last = min(a, b), max(a, b)
        (ax, ay), (bx, by) = self.points.at[first], self.points.at[last]
        one = self.up_to[last] - self.up_to[first] + bx * ay - ax * by
        return float(min(abs(one), abs(self.whole[ring] - one)) / 2)


@dataclass(frozen=True)
class _Thin:
    """All points that are thin, run by run and in the order of the edge: their discs, and the rings of both sides."""

    widths: Widths
    around: _Around
    points: IndexArray
    middles: FloatArray
    mm: FloatArray
    ring: IndexArray
    ring_across: IndexArray


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


def _run(thin: _Thin, begin: int, end: int, least: int, long_mm: float, opens_deg: float, *, tip: bool) -> Run:
    """A run of points; their discs are parts of what there is of all, so that they are held only once."""
    points, other = thin.widths.points, int(thin.widths.across[least])
    # Its middles as lines, each along one side.
    own = thin.points[begin:end]
    breaks = (begin + 1 + np.flatnonzero(own[1:] - own[:-1] > _APART + 1)).tolist()
    lines = [slice(a, b) for a, b in pairwise((begin, *breaks, end))]
    rings = {*thin.ring[begin:end].tolist(), *thin.ring_across[begin:end].tolist()}
    return Run(
        float(thin.widths.mm[least]), _spot(thin.widths.middles(np.array([least]))[0]),
        (_spot(points.at[least]), _spot(points.at[other])), long_mm,
        tuple(thin.middles[line] for line in lines), tuple(thin.mm[line] for line in lines), opens_deg, tip,
        tuple(sorted(rings)), thin.around.between(least, other), int(points.part[least]),
    )  # fmt: skip


def _narrowest_free(groups: Sequence[IndexArray], widths: Widths) -> list[int | None]:
    """The point of each run where it is narrowest, of those whose discs reach over no edge that does not face them."""
    if not groups:
        return []
    # Nearly always it is the narrowest of all: these are asked for at once.
    narrowest = np.array([own[widths.mm[own].argmin()] for own in groups])
    out: list[int | None] = []
    for own, least, over in zip(groups, narrowest, reach_over(widths, narrowest, _OVER_MM), strict=True):
        kept = own[~reach_over(widths, own, _OVER_MM)] if over else own
        out.append(int(least) if not over else int(kept[widths.mm[kept].argmin()]) if len(kept) else None)
    return out


def _spot(at: FloatArray) -> tuple[float, float]:
    return float(at[0]), float(at[1])


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
