"""Where a film that slips may show something wrong, told from the cells that all edges of a stack make.

A slip of a film bares what lies next under it, near an edge of it. That is nothing new where just the same is seen past that
edge: so only edges past which something else is seen come into question, and of them those that come as near as the slip.
Where films run on under one another as far as a hand slips, that is next to none, and whole films need not be overlaid.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiLineString, MultiPolygon, Polygon

from gladstack.core.base.compiled import jit
from gladstack.core.films.thickness import GROUND, Piled
from gladstack.core.geometry.edge_points import grid_of
from gladstack.core.geometry.shapes import near_boxes

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]
BoolArray = npt.NDArray[np.bool_]
NameArray = npt.NDArray[np.uint64]

HAIR_MM = 2.5e-3
"""What is narrower than this is rounding of the offsets, not film that shows."""
_NOTHING = -2
_LEAST_DEPTH = 3
"""Hairs that the slip must reach past what is nearest to it to count: less is rounding, and the flattening of curves."""
_ODD = (np.uint64(0xBF58476D1CE4E5B9), np.uint64(0x94D049BB133111EB))


@dataclass(frozen=True)
class Border:
    """Where a film is seen upon a lower one, or the ground, and those edges of it, past which that is not seen, that are so
    near that a slip may bare it. Where it lies so is told in cells, of those that a slip may bare.
    """

    lower: int
    upon: tuple[Polygon, ...]
    edges: MultiLineString


@dataclass(frozen=True)
class _Edges:
    """Edges of cells: their ends (mm), what they are known by, where each stands along the rings of all cells, and the cells
    to either side.
    """

    ends: FloatArray
    name: NameArray
    place: IndexArray
    sides: IndexArray


def borders(stack: Piled, slip_mm: float) -> tuple[tuple[Border, ...], ...]:
    """The borders of each film of a stack, for a slip of so many mm."""
    cells, films = stack.cells, len(stack.faces)
    edges = _edges(cells.shapes)
    # One more for what lies outside of all cells: nothing covers it.
    covered = np.zeros((len(cells.shapes) + 1, films), dtype=bool)
    covered[cells.cell, cells.film] = True
    order = np.arange(films)
    top = np.where(covered, order, GROUND).max(axis=1, initial=GROUND)
    under = np.where(covered & (order < top[:, None]), order, GROUND).max(axis=1, initial=GROUND)
    out: list[list[Border]] = [[] for _ in range(films)]
    for (film, low), some in _near(edges, covered, top, under, _seen_past(stack, edges, top), slip_mm).items():
        lines = _lines(edges, some)
        there = cells.shapes[((top == film) & (under == low))[:-1]]
        upon = near_boxes(MultiPolygon(list(there)), [lines], slip_mm)
        out[film].append(Border(low, tuple(upon.geoms), lines))
    return tuple(map(tuple, out))


def _seen_past(stack: Piled, edges: _Edges, top: IndexArray) -> IndexArray:
    """What is seen to either side of edges; `_NOTHING` if it is only rounding: then no face ends there."""
    # Where ground is seen, that is an edge of the decal.
    shapes = [*zip(range(len(stack.faces)), stack.faces, strict=True), *((GROUND, shape) for shape in stack.at_least[:1])]
    seen = [_ring_edges(shape.geoms)[1] + _as_name(np.array([film])) for film, shape in shapes]
    past = top[edges.sides]
    names = edges.name[:, None] + _as_name(past)
    return np.where(np.isin(names, np.concatenate(seen)) if seen else False, past, _NOTHING)


def _as_name(film: IndexArray) -> NameArray:
    """What is added to the name of an edge of what is seen of a film."""
    return (film - _NOTHING).astype(np.uint64) * _ODD[0]


def _near(
    edges: _Edges, covered: BoolArray, top: IndexArray, under: IndexArray, seen: IndexArray, slip_mm: float
) -> dict[tuple[int, int], IndexArray]:
    """By film and lower film: edges of the one that are near where it lies upon the other, which is not seen past them."""
    reach = slip_mm - _LEAST_DEPTH * HAIR_MM
    if reach <= 0 or not len(edges.ends):
        return {}
    edge, film = np.nonzero(covered[edges.sides[:, 0]] != covered[edges.sides[:, 1]])
    starts = np.searchsorted(edge, np.arange(len(edges.ends) + 1))
    ends, whose = _short(edges.ends, reach)
    grid = grid_of(ends.mean(axis=1), 2 * reach)
    found = _met(
        ends, whose, edges.sides, film, starts, top, under, seen, covered.shape[1],
        grid.low, grid.side, grid.across, grid.down, grid.order, grid.starts, reach,
    )  # fmt: skip
    pairs, which = np.unique(found[:, 1:], axis=0, return_inverse=True)
    return {(int(k), int(low)): np.unique(found[which == n, 0]) for n, (k, low) in enumerate(pairs)}


def _edges(shapes: npt.NDArray[np.object_]) -> _Edges:
    """The edges of cells, each once, as it first stands in the rings of one of them."""
    ends, names, place, cell = _ring_edges(shapes)
    order = np.argsort(names, kind="stable")
    first = np.append(True, np.diff(names[order]) != 0)[: len(order)]
    whose = np.append(cell[order], len(shapes))
    last = np.append(first[1:], True)[: len(order)]
    other = np.where(last, len(shapes), whose[1:])
    kept = order[first]
    return _Edges(ends[kept], names[kept], place[kept], np.stack([whose[:-1][first], other[first]], axis=1))


def _ring_edges(
    polygons: Sequence[Polygon] | npt.NDArray[np.object_],
) -> tuple[FloatArray, NameArray, IndexArray, IndexArray]:
    """The edges of rings of polygons: their ends, names, places along all rings, and the polygon of each.

    Polygons that share an edge have the very same ends of it: so it is named by their bits, whichever way it runs.
    """
    rings, whose = shapely.get_rings(polygons, return_index=True)
    corners, ring = shapely.get_coordinates(rings, return_index=True)
    place = np.flatnonzero(ring[:-1] == ring[1:])
    ends = np.stack([corners[place], corners[place + 1]], axis=1)
    # There are two zeros.
    return ends, _names((ends + 0.0).view(np.uint64)), place, whose[ring[place]]


@jit
def _names(bits: Any) -> Any:
    """Names of edges by the bits of their ends, alike whichever way they run."""
    out = np.empty(len(bits), np.uint64)
    for i in range(len(bits)):
        out[i] = _mixed(_mixed(bits[i, 0, 0]) + bits[i, 0, 1]) + _mixed(_mixed(bits[i, 1, 0]) + bits[i, 1, 1])
    return out


@jit
def _mixed(bits: Any) -> Any:
    """Bits so mixed that any one changes about half of them (splitmix64: Steele, Lea and Flood 2014)."""
    bits = (bits ^ (bits >> np.uint64(30))) * _ODD[0]
    bits = (bits ^ (bits >> np.uint64(27))) * _ODD[1]
    return bits ^ (bits >> np.uint64(31))


def _lines(edges: _Edges, some: IndexArray) -> MultiLineString:
    """Some edges as lines, as long as they follow one another."""
    some = some[np.argsort(edges.place[some])]
    place, ends = edges.place[some], edges.ends[some]
    begins = np.append(True, np.diff(place) != 1)
    line = np.cumsum(begins) - 1
    points = np.concatenate([ends[:, 0], ends[np.append(begins[1:], True), 1]])
    of = np.concatenate([line, np.arange(line[-1] + 1)])
    order = np.argsort(of, kind="stable")
    return MultiLineString(list(shapely.linestrings(points[order], indices=of[order])))


def _short(edges: FloatArray, longest_mm: float) -> tuple[FloatArray, IndexArray]:
    """Edges in pieces no longer than so many mm, and which edge each is of."""
    run = edges[:, 1] - edges[:, 0]
    count = np.maximum(1, np.ceil(np.hypot(*run.T) / longest_mm).astype(np.int64))
    whose = np.repeat(np.arange(len(edges)), count)
    step = np.arange(len(whose)) - np.repeat(np.cumsum(count) - count, count)
    share = np.stack([step, step + 1], axis=1) / count[whose][:, None]
    return edges[whose, None, 0] + share[..., None] * run[whose, None], whose


@jit
def _met(
    ends: Any, whose: Any, sides: Any, film: Any, starts: Any, top: Any, under: Any, seen: Any, films: int,
    low: Any, side: float, across: int, down: int, order: Any, cells: Any, reach: float,
) -> Any:  # fmt: skip
    """Edges that come nearer than a reach to where a film that ends there lies upon a lower one: edge, film, lower film.

    Edges are in short pieces, that stand in a grid by their middles.
    """
    out, n = np.empty((1024, 3), np.int64), 0
    count = len(ends)
    x, y, half = np.empty(count), np.empty(count), np.empty(count)
    for m in range(count):
        end = ends[order[m]]
        x[m], y[m] = (end[0, 0] + end[1, 0]) / 2, (end[0, 1] + end[1, 1]) / 2
        half[m] = math.hypot(end[1, 0] - end[0, 0], end[1, 1] - end[0, 1]) / 2
    # For which piece and film a lower one was last found.
    last = np.full(films + 1, -1)
    for i in range(count):
        own = whose[order[i]]
        if starts[own] == starts[own + 1]:
            continue
        column, row = math.floor((x[i] - low[0]) / side), math.floor((y[i] - low[1]) / side)
        for cy in range(max(0, row - 1), min(down, row + 2)):
            for j in range(cells[cy * across + max(0, column - 1)], cells[cy * across + min(across, column + 2)]):
                far = reach + half[i] + half[j]
                if (x[j] - x[i]) ** 2 + (y[j] - y[i]) ** 2 >= far * far:
                    continue
                apart = -1.0
                for at in range(starts[own], starts[own + 1]):
                    for s in range(2):
                        cell = sides[whose[order[j]], s]
                        lower, mark = under[cell], i * films + film[at]
                        if (
                            top[cell] != film[at]
                            or seen[own, 0] == lower
                            or seen[own, 1] == lower
                            or last[lower + 1] == mark
                        ):
                            continue
                        if apart < 0.0:
                            apart = _apart(ends, order[i], order[j])
                        if apart >= reach:
                            continue
                        last[lower + 1] = mark
                        if n == len(out):
                            more = np.empty((2 * n, 3), np.int64)
                            more[:n] = out
                            out = more
                        out[n, 0], out[n, 1], out[n, 2] = own, film[at], lower
                        n += 1
    return out[:n].copy()


@jit
def _apart(ends: Any, i: int, j: int) -> float:
    """How far two edges are apart that do not cross: the least of what their ends are from one another."""
    ax, ay, bx, by = ends[i, 0, 0], ends[i, 0, 1], ends[i, 1, 0], ends[i, 1, 1]
    cx, cy, dx, dy = ends[j, 0, 0], ends[j, 0, 1], ends[j, 1, 0], ends[j, 1, 1]
    one = min(_off(ax, ay, cx, cy, dx, dy), _off(bx, by, cx, cy, dx, dy))
    return math.sqrt(min(one, _off(cx, cy, ax, ay, bx, by), _off(dx, dy, ax, ay, bx, by)))


@jit
def _off(x: float, y: float, ax: float, ay: float, bx: float, by: float) -> float:
    """The square of how far a place is from an edge."""
    dx, dy = bx - ax, by - ay
    x, y = x - ax, y - ay
    long = dx * dx + dy * dy
    share = min(1.0, max(0.0, (x * dx + y * dy) / long)) if long > 0.0 else 0.0
    x, y = x - share * dx, y - share * dy
    return x * x + y * y
