"""Local widths of an area, and of what lies between areas: the diameter of the disc that touches an edge at a point and the
edge across from it.

The discs are those of the medial axis, found from points of the edge as by shrinking balls (Ma, Bae, Choi 2012): of all
points across, the one that leaves the disc smallest. Only edges that face each other count, so that a corner is not taken
for something thin.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree  # type: ignore[import-untyped]
from shapely import MultiPolygon

from gladstack.core.base.compiled import jit

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

_STEPS_A_WIDTH = 6.0
_SHORTEST_STEP_MM, _LONGEST_STEP_MM = 0.03, 0.25
_CORNER = math.radians(15.0)
FACING_DEG = 30.0
"""Edges that open towards each other by more than this do not face each other."""


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


@dataclass(frozen=True)
class Widths:
    """How wide an area (or what is between areas) is at points of its edge, as far as a limit; infinite where it is wider.

    `across` is the point across from each (-1: none).
    """

    points: EdgePoints
    mm: FloatArray
    across: IndexArray
    inside: bool

    @property
    def middles(self) -> FloatArray:
        """The middles of the discs, where there are any."""
        x, y = self.points.along.T
        inward = np.stack([-y, x], axis=1) if self.inside else np.stack([y, -x], axis=1)
        half = np.where(np.isfinite(self.mm), self.mm, 0.0) / 2
        return np.asarray(self.points.at + half[:, None] * inward)


def step_for(limit_mm: float) -> float:
    """How far apart points must lie along edges to find what is narrower than a limit, mm."""
    return min(_LONGEST_STEP_MM, max(_SHORTEST_STEP_MM, limit_mm / _STEPS_A_WIDTH))


def edge_points(shape: MultiPolygon, step_mm: float) -> EdgePoints:
    """Points along all edges of a shape, no farther apart than `step_mm`."""
    polygons = shapely.orient_polygons(np.array(shape.geoms, dtype=object)) if shape.geoms else np.array([], dtype=object)
    rings, part_of_ring = shapely.get_rings(polygons, return_index=True)
    corners, ring = shapely.get_coordinates(rings, return_index=True)
    real = (ring[1:] == ring[:-1]) & (corners[1:] != corners[:-1]).any(axis=1)
    a, b, of = corners[:-1][real], corners[1:][real], ring[:-1][real]
    begins = np.flatnonzero(np.append(True, of[1:] != of[:-1])) if len(of) else np.zeros(0, dtype=np.int64)
    onward = _next(begins, len(of))
    way = b - a
    long = np.hypot(*way.T)
    heading = np.arctan2(way[:, 1], way[:, 0])
    turn = (heading[onward] - heading + math.pi) % (2 * math.pi) - math.pi
    fan = np.where(np.abs(turn) > _CORNER, np.ceil(np.abs(turn) / _CORNER), 0).astype(np.int64)
    count = np.ceil(long / step_mm).astype(np.int64)
    edge = np.repeat(np.arange(len(count)), count + fan)
    first = np.cumsum(count + fan) - (count + fan)
    k = np.arange(len(edge)) - first[edge]
    turned = k >= count[edge]
    share = np.where(turned, 1.0, (k + 0.5) / count[edge])
    angle = heading[edge] + np.where(turned, turn[edge] * (k - count[edge] + 0.5) / np.maximum(1, fan[edge]), 0.0)
    return EdgePoints(
        a[edge] + share[:, None] * way[edge], np.stack([np.cos(angle), np.sin(angle)], axis=1),
        np.where(turned, 0.0, (long / count)[edge]), _next(first[begins], len(edge)), of[edge], part_of_ring[of[edge]],
        np.where(turned, -np.sign(turn[edge]), 0).astype(np.int64),
    )  # fmt: skip


def _next(begins: IndexArray, count: int) -> IndexArray:
    """What comes after each of so many things in rings that begin at `begins`."""
    after = np.arange(1, count + 1)
    if count:
        after[np.append(begins[1:], count) - 1] = begins
    return after


def widths_of(points: EdgePoints, limit_mm: float, *, inside: bool = True, facing_deg: float = FACING_DEG) -> Widths:
    """The widths at points of an edge that are below a limit: of the areas, or of what lies between and within them."""
    if not len(points.at):
        return Widths(points, np.zeros(0), np.zeros(0, dtype=np.int64), inside)
    sign = 1.0 if inside else -1.0
    meant = points.corner != -sign
    normal = sign * np.stack([-points.along[:, 1], points.along[:, 0]], axis=1)
    low = points.at.min(axis=0) - limit_mm
    cells = np.floor((points.at - low) / limit_mm).astype(np.int64)
    across, down = cells.max(axis=0) + 2
    key = cells[:, 1] * across + cells[:, 0]
    order = np.argsort(key, kind="stable")
    starts = np.searchsorted(key[order], np.arange(across * down + 1))
    mm, partner = _narrowest(
        points.at, points.along, normal, points.length, meant, cells, order, starts, int(across), int(down), limit_mm,
        -math.cos(math.radians(facing_deg)),
    )  # fmt: skip
    return Widths(points, mm, partner, inside)


@jit
def _narrowest(
    at: Any, along: Any, normal: Any, length: Any, meant: Any, cells: Any, order: Any, starts: Any, across: int, down: int,
    limit: float, facing: float,
) -> Any:  # fmt: skip
    """For each point the smallest disc that touches it and a point that faces it, and which that is."""
    count = len(at)
    mm = np.full(count, np.inf)
    partner = np.full(count, -1, np.int64)
    for i in range(count):
        if not meant[i]:
            continue
        px, py, nx, ny = at[i, 0], at[i, 1], normal[i, 0], normal[i, 1]
        best, which = np.inf, -1
        # The disc lies ahead, and so do all points that it can touch.
        for cy in range(max(0, cells[i, 1] - 1), min(down, cells[i, 1] + 2)):
            for cx in range(max(0, cells[i, 0] - 1), min(across, cells[i, 0] + 2)):
                cell = cy * across + cx
                for k in range(starts[cell], starts[cell + 1]):
                    j = order[k]
                    if not meant[j] or nx * normal[j, 0] + ny * normal[j, 1] > facing:
                        continue
                    dx, dy = at[j, 0] - px, at[j, 1] - py
                    ahead = nx * dx + ny * dy
                    if ahead <= 1e-9 or normal[j, 0] * dx + normal[j, 1] * dy >= 0.0:
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


@dataclass(frozen=True)
class Run:
    """A stretch that is narrower than a limit, in mm: where it is narrowest and how wide there, the two points of the edge
    there, how long it is, and its middle line in pieces, with the width at each point.

    `opens_deg` is the angle between its sides; one that is a `tip` runs out to nothing. `rings` are the rings
    it lies between.
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
    part: int


_LEAST_LENGTH_MM = 0.2
_APART = 3
"""Points of a run may miss so many between them, as at a corner of one side."""
_OVER_MM = 0.02
"""A disc may reach so far over an edge: points along edges stand for what lies between them."""
_TAPERS = 0.5
_EVEN = 0.9
"""An end that is hardly narrower than the rest of its stroke is none that tapers."""
_BY_LENGTH = 2.5


def runs_of(widths: Widths, limit_mm: float) -> tuple[Run, ...]:
    """The stretches that are narrower than a limit, the narrowest first."""
    thin = widths.mm < limit_mm
    if not thin.any():
        return ()
    points = widths.points
    group = _grouped(thin, points.after, widths.across, _APART)
    held = np.flatnonzero(thin)
    order = held[np.argsort(group[held], kind="stable")]
    begins = np.flatnonzero(np.append(True, group[order][1:] != group[order][:-1]))
    middles = widths.middles
    place = np.cumsum(points.length) - points.length
    around = np.zeros(int(points.ring.max()) + 1)
    np.add.at(around, points.ring, points.length)
    groups = [np.sort(own) for own in np.split(order, begins[1:])]
    groups = [g for g in groups if points.length[g].sum() / 2 >= _LEAST_LENGTH_MM or points.corner[g].any()]
    out = [
        _run(widths, own, least, middles, place, around, limit_mm)
        for own, least in zip(groups, _narrowest_free(groups, middles, widths), strict=True)
        if least is not None
    ]
    return tuple(sorted(out, key=lambda run: run.mm))


def _run(
    widths: Widths, own: IndexArray, least: int, middles: FloatArray, place: FloatArray, around: FloatArray, limit_mm: float
) -> Run:
    points, mm = widths.points, widths.mm[own]
    across = widths.across[own]
    # How far it is from side to side along the edge itself: little, where the edge turns back at an end.
    way = np.abs(place[own] - place[across])
    rings = points.ring[own]
    back = np.where(rings == points.ring[across], np.minimum(way, around[rings] - way), np.inf)
    ends = back < _BY_LENGTH * limit_mm
    at_end = mm[ends].min(initial=np.inf)
    # A stroke as wide all along is wider where it leaves a larger part, and no tip for that.
    tip = bool(at_end < min(_TAPERS * mm.max(), _EVEN * _median(mm)) and at_end < mm[~ends].min(initial=np.inf))
    turn = -(points.along[own] * points.along[across]).sum(axis=1)
    opens = np.degrees(np.arccos(np.clip(turn, -1.0, 1.0)))
    lines, wide = _lines(own, points, middles, widths.mm)
    other = int(widths.across[least])
    return Run(
        float(widths.mm[least]), _spot(middles[least]), (_spot(points.at[least]), _spot(points.at[other])),
        float(points.length[own].sum() / 2), lines, wide, _median(opens), tip,
        tuple(sorted({*rings.tolist(), *points.ring[across].tolist()})), int(points.part[least]),
    )  # fmt: skip


def _median(values: FloatArray) -> float:
    """As numpy's, which takes a hundred times as long for so few."""
    ordered = np.sort(values)
    return float((ordered[(len(ordered) - 1) // 2] + ordered[len(ordered) // 2]) / 2)


def _narrowest_free(groups: Sequence[IndexArray], middles: FloatArray, widths: Widths) -> list[int | None]:
    """The point of each run where it is narrowest, of those whose discs reach over no edge that does not face them."""
    if not groups:
        return []
    edges = cKDTree(widths.points.at)

    def free(some: IndexArray) -> npt.NDArray[np.bool_]:
        nearest, _ = edges.query(middles[some])
        return np.asarray(nearest > widths.mm[some] / 2 - _OVER_MM)

    ordered = [own[np.argsort(widths.mm[own], kind="stable")] for own in groups]
    # Nearly always it is the narrowest of all: these are asked for at once.
    out: list[int | None] = []
    for own, first in zip(ordered, free(np.array([own[0] for own in ordered])), strict=True):
        kept = own[:1] if first else own[free(own)]
        out.append(int(kept[0]) if len(kept) else None)
    return out


def _spot(at: FloatArray) -> tuple[float, float]:
    return float(at[0]), float(at[1])


def _lines(own: IndexArray, points: EdgePoints, middles: FloatArray, mm: FloatArray) -> tuple[Any, Any]:
    """The middles of a run as lines, each along one side."""
    breaks = np.flatnonzero(own[1:] - own[:-1] > _APART + 1) + 1
    pieces: Sequence[IndexArray] = np.split(own, breaks) if len(breaks) else [own]
    return tuple(middles[p] for p in pieces), tuple(mm[p] for p in pieces)


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


def narrow_runs(shape: MultiPolygon, limit_mm: float, *, inside: bool = True) -> tuple[Run, ...]:
    """The stretches of an area that are narrower than a limit; or of what lies between and within areas."""
    if shape.is_empty or limit_mm <= 0:
        return ()
    return runs_of(widths_of(edge_points(shape, step_for(limit_mm)), limit_mm, inside=inside), limit_mm)
