"""Cut shapes as closed chains of lines and cubic Beziers.

Where an edge of a cut shape runs along an arc of the planar map, the arc's own curves are used, so that two films that
butt are written with the very same numbers. Edges that a joint has made (offsets, clipped ends) get curves of their own,
fitted within `tolerances.CURVE_FIT_MM`.
"""

from __future__ import annotations

import hashlib
import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import (
    GRID_MM,
    Chain,
    Curve,
    Matrix,
    bounds_of_pieces,
    distinct,
    flatten_chain,
    hash_points,
    join_chains,
    line_chain,
    on_grid,
    reverse_chain,
    sub_piece,
    transform_chain,
)
from gladstack.core.geometry.new_edges import fit_edges

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]
BoolArray = npt.NDArray[np.bool_]

_MOST_DRAWN = 20_000


Drawing = Callable[[FloatArray, bool], Chain]
"""How a run of new edges is drawn, told whether it is a whole ring."""


@dataclass(frozen=True)
class Part:
    """One connected piece of a cut shape: its outer edge, and those of its holes; all closed."""

    shell: Chain
    holes: tuple[Chain, ...] = ()


@dataclass(frozen=True)
class Outline:
    """The parts of a cut shape, and what they come to in nodes and mm."""

    parts: tuple[Part, ...]
    nodes: int
    length_mm: float

    @property
    def rings(self) -> tuple[Chain, ...]:
        """All closed chains, each part's outer edge before its holes."""
        return tuple(chain for part in self.parts for chain in (part.shell, *part.holes))


class CurveIndex:
    """Finds, for the points of a shape's ring, the curve they were flattened from."""

    def __init__(self, curves: Sequence[Curve]) -> None:
        self.arcs = curves
        self.drawn: dict[bytes, Part | None] = {}
        """Parts drawn along these curves before, by a hash of their polygon: an edit leaves most of them as they are."""
        # Made at once, not when first asked for: what remembers an index counts what it holds.
        self._first = np.concatenate([[0], np.cumsum([len(a.points) for a in curves] or [1])]).astype(np.int64)
        self._table = self._sorted_points()
        self._lone_edges = self._edges_alone()

    def _sorted_points(self) -> tuple[FloatArray, IndexArray, IndexArray, IndexArray]:
        """All arc points, the arc of each, and their hashes in sorted order with the points they belong to."""
        points = np.concatenate([a.points for a in self.arcs] or [np.zeros((1, 2))])
        owner = np.repeat(np.arange(max(1, len(self.arcs))), [len(a.points) for a in self.arcs] or [1])
        keys = hash_points(points)
        order = np.argsort(keys, kind="stable")
        return points, owner, keys[order], order

    def _edges_alone(self) -> dict[bytes, tuple[int, int]]:
        """Edges both of whose ends are ends of an arc: (position, direction) by their coordinates."""
        out = {}
        for k, arc in enumerate(self.arcs):
            if len(arc.points) == 2:
                p, q = arc.points
                out[p.tobytes() + q.tobytes()] = (int(self._first[k]), 1)
                out[q.tobytes() + p.tobytes()] = (int(self._first[k]), -1)
        return out

    def edges_of(self, ring: FloatArray) -> tuple[IndexArray, IndexArray]:
        """For each edge between consecutive points the arc edge it is, -1 if none, and its direction.

        Arc edge g runs from arc point g to g + 1.
        """
        points, owner, keys, order = self._table
        at = np.searchsorted(keys, hash_points(ring))
        at = np.minimum(at, len(keys) - 1)
        where = order[at]
        known = np.all(points[where] == ring, axis=1)
        last = self._first[owner[where] + 1] - 1
        inner = known & (where > self._first[owner[where]]) & (where < last)
        edge = np.full(len(ring) - 1, -1, np.int64)
        direction = np.zeros(len(ring) - 1, np.int64)
        a, b = ring[:-1], ring[1:]
        for anchor, here, other in ((inner[:-1], where[:-1], b), (inner[1:], where[1:], a)):
            from_start = other is b
            after = np.minimum(here + 1, len(points) - 1)
            before = np.maximum(here - 1, 0)
            up = anchor & np.all(points[after] == other, axis=1)
            down = anchor & ~up & np.all(points[before] == other, axis=1)
            edge[up] = here[up]
            direction[up] = 1 if from_start else -1
            edge[down] = before[down]
            direction[down] = -1 if from_start else 1
        for k in np.flatnonzero((edge < 0) & known[:-1] & known[1:]):
            found = self._lone_edges.get(a[k].tobytes() + b[k].tobytes())
            if found:
                edge[k], direction[k] = found
        return edge, direction

    def nodes_along(self, points: FloatArray) -> int:
        """How many pieces of curves the run of `points` (n, 2) is made of; each edge that no curve has counts as one."""
        edge, _ = self.edges_of(points)
        arc = np.searchsorted(self._first, np.maximum(edge, 0), side="right") - 1
        piece = np.arange(len(edge)) * -1 - 1
        for k in np.unique(arc[edge >= 0]):
            own = (edge >= 0) & (arc == k)
            piece[own] = np.searchsorted(self.arcs[k].offsets, edge[own] - self._first[k], side="right") - 1
        known = edge >= 0
        changes = (piece[1:] != piece[:-1]) | (arc[1:] != arc[:-1]) | ~known[1:]
        return 1 + int(np.count_nonzero(changes))

    def breaks(self, edge: IndexArray, direction: IndexArray, ends: IndexArray) -> BoolArray:
        """Which edges do not carry on where the one before them in their ring left off; `ends` is where each ring ends."""
        arc = np.searchsorted(self._first, np.maximum(edge, 0), side="right")
        before = np.arange(-1, len(edge) - 1)
        before[np.concatenate([[0], ends[:-1]])] = ends - 2
        follows = (edge == edge[before] + direction) & (direction == direction[before]) & (arc == arc[before])
        carries = np.where(edge >= 0, (edge[before] >= 0) & follows, edge[before] < 0)
        return np.asarray(~carries)

    def chain_between(self, low: int, high: int) -> Chain:
        """The curves of arc edges low..high (inclusive, one arc), in the arc's own direction."""
        arc = int(np.searchsorted(self._first, low, side="right")) - 1
        chain = self.arcs[arc].chain
        i, j = low - int(self._first[arc]), high + 1 - int(self._first[arc])
        if i == 0 and j == len(self.arcs[arc].points) - 1:
            return chain
        offsets = self.arcs[arc].offsets
        steps = np.diff(offsets)
        first = int(np.searchsorted(offsets, i, side="right")) - 1
        last = int(np.searchsorted(offsets, j, side="left")) - 1
        pieces = chain.pieces[first : last + 1].copy()
        end = (j - offsets[last]) / steps[last]
        begin = (i - offsets[first]) / steps[first]
        if first == last:
            pieces[0] = sub_piece(pieces[0], begin, end)
        else:
            pieces[-1] = sub_piece(pieces[-1], 0.0, end)
            pieces[0] = sub_piece(pieces[0], begin, 1.0)
        pieces = np.round(pieces / GRID_MM) * GRID_MM
        return Chain(pieces, chain.straight[first : last + 1])


def outline_of(shape: MultiPolygon, index: CurveIndex) -> Outline:
    """Closed chains for every ring of `shape`, deviating from it by less than 0.05 mm.

    Rings that come to nothing on the grid they are written on are left out.
    """
    if shape.is_empty:
        return Outline((), 0, 0.0)
    keys = [hashlib.blake2b(wkb, digest_size=16).digest() for wkb in shapely.to_wkb(shape.geoms)]
    fresh = [k for k, key in enumerate(keys) if key not in index.drawn]
    if len(index.drawn) + len(fresh) > _MOST_DRAWN:
        index.drawn.clear()
        fresh = list(range(len(keys)))
    for k, part in zip(fresh, _parts_of([shape.geoms[k] for k in fresh], index), strict=True):
        index.drawn[keys[k]] = part
    parts = tuple(part for key in keys if (part := index.drawn[key]) is not None)
    outline = Outline(parts, 0, float(shape.length))
    return replace(outline, nodes=sum(len(r) for r in outline.rings))


def laid_outline(outline: Outline, matrix: Matrix) -> Outline:
    """An outline laid elsewhere, turned or mirrored, all in one size."""
    if not outline.parts:
        return outline
    # All rings at once: there may be thousands of a few nodes each.
    rings = outline.rings
    moved = on_grid(transform_chain(join_chains(list(rings)), matrix)).pieces
    ends = np.cumsum([len(ring) for ring in rings])
    chains = (Chain(own, ring.straight) for own, ring in zip(np.split(moved, ends[:-1]), rings, strict=True))
    parts = tuple(Part(next(chains), tuple(itertools.islice(chains, len(part.holes)))) for part in outline.parts)
    return replace(outline, parts=parts)


def bounds_of(outline: Outline) -> Box | None:
    """The extent of the curves themselves, which bend a little beyond the points they are flattened to."""
    pieces = [ring.pieces for ring in outline.rings]
    return bounds_of_pieces(np.concatenate(pieces)) if pieces else None


def _parts_of(polygons: Sequence[Polygon], index: CurveIndex) -> Iterator[Part | None]:
    """The part that each polygon is cut as; None for one that comes to nothing."""
    if not len(polygons):
        return
    # One look-up for all rings; the edges from one ring's end to the next one's beginning are passed over.
    points = shapely.get_coordinates(polygons)
    edge, direction = index.edges_of(points)
    ends = np.cumsum([len(r.coords) for p in polygons for r in (p.exterior, *p.interiors)])
    breaks = index.breaks(edge, direction, ends)
    at = ring = 0
    for polygon in polygons:
        rings = []
        for _ in range(1 + len(polygon.interiors)):
            end = int(ends[ring])
            own = slice(at, end - 1)
            rings.append((points[at:end], edge[own], direction[own], breaks[own]))
            at, ring = end, ring + 1
        drawn = [_ring_chain(*own, index, _fit_new) for own in rings]
        chains = [chain for chain, _ in drawn]
        if not all(own for _, own in drawn) and not _is_sound(polygon, chains):
            # What is known stays as its neighbours have it, as long as new edges can be drawn as they are.
            chains = [_ring_chain(*own, index, _lines)[0] for own in rings]
        if not all(own for _, own in drawn) and not _is_sound(polygon, chains):
            lines = [_on_grid(np.asarray(r.coords)) for r in (polygon.exterior, *polygon.interiors)]
            chains = [line_chain(points) for points in lines if _bounds_any(points)] if _bounds_any(lines[0]) else []
        yield Part(chains[0], tuple(chains[1:])) if chains else None


def _bounds_any(ring: FloatArray) -> bool:
    return len(ring) > 3 and Polygon(ring).area > 0


def _is_sound(polygon: Polygon, chains: list[Chain]) -> bool:
    flat = [flatten_chain(c, tolerances.FLATTEN_MM) for c in chains]
    if any(len(points) < 4 for points in flat):
        return False
    drawn = Polygon(flat[0], flat[1:])
    return bool(drawn.is_valid and abs(drawn.area - polygon.area) <= 0.05 * polygon.length)


def _ring_chain(
    ring: FloatArray, edge: IndexArray, direction: IndexArray, breaks: BoolArray, index: CurveIndex, draw: Drawing
) -> tuple[Chain, bool]:
    """The chain of one closed ring, new edges drawn by `draw`, and whether it has none of these.

    `breaks` tells the edges that do not carry on where the one before, cyclically, left off.
    """
    starts = np.flatnonzero(breaks).tolist()
    count = len(edge)
    runs = list(itertools.pairwise([*starts, starts[0] + count])) if starts else [(0, count)]
    parts = []
    for a, b in runs:
        last = (b - 1) % count
        if edge[a] < 0:
            run = ring[a : b + 1] if b <= count else np.vstack([ring[a:count], ring[: b - count + 1]])
            parts.append(draw(run, len(runs) == 1))
        else:
            chain = index.chain_between(int(min(edge[a], edge[last])), int(max(edge[a], edge[last])))
            parts.append(chain if direction[a] > 0 else reverse_chain(chain))
    return _closed(parts), bool(np.all(edge >= 0))


def _closed(parts: list[Chain]) -> Chain:
    """Parts joined into a ring; the ends of fitted and clipped parts are drawn to one common point."""
    pieces = [p.pieces.copy() for p in parts]
    for k in range(len(pieces)):
        following = pieces[(k + 1) % len(pieces)]
        pieces[k][-1, 3] = following[0, 0]
    return join_chains([Chain(p, c.straight) for p, c in zip(pieces, parts, strict=True)])


def _on_grid(points: FloatArray) -> FloatArray:
    rounded = np.round(points / GRID_MM) * GRID_MM
    return distinct(rounded)


def _lines(points: FloatArray, closed: bool) -> Chain:
    """Edges that no arc has, as they are."""
    return line_chain(_on_grid(points))


def _fit_new(points: FloatArray, closed: bool) -> Chain:
    """Curves for edges that no arc has, within the fitting tolerance; corners stay."""
    found = fit_edges(points, closed=closed)
    return Chain(np.round(found.pieces / GRID_MM) * GRID_MM, found.straight)
