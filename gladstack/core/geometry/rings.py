"""From closed curves to filled shapes: how rings nest, and what the fill rules make of rings that cross."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.compiled import jit
from gladstack.core.geometry import overlay
from gladstack.core.geometry.crossings import count_crossings
from gladstack.core.geometry.curves import Chain, Curve, curves_of

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]
Nesting = tuple[tuple[int, tuple[int, ...]], ...]
"""For each polygon the ring that is its shell, and the rings that are its holes."""
FillRule = Literal["nonzero", "evenodd"]

_NEST_STEPS = 200.0
"""Rings are flattened to a two-hundredth of their size to see how they nest."""


def nest_chains(rings: Sequence[Chain], rule: FillRule = "nonzero") -> Nesting | None:
    """`nest_rings` for rings of curves of which no points are needed otherwise."""
    size = max((float(np.ptp(r.pieces.reshape(-1, 2), axis=0).max()) for r in rings), default=0.0)
    return nest_rings([c.points for c in curves_of(rings, size / _NEST_STEPS)], rule) if size > 0 else None


def nest_rings(flat: Sequence[FloatArray], rule: FillRule = "nonzero") -> Nesting | None:
    """How closed rings (n, 2) that do not cross nest under a fill rule; None if any of them cross or touch."""
    if not flat or any(len(f) < 4 for f in flat) or count_crossings(flat):
        return None
    turn = np.where(shapely.is_ccw(np.array([shapely.LinearRing(f) for f in flat], dtype=object)), 1, -1)
    left = np.array([f[np.lexsort((f[:, 1], f[:, 0]))[0]] for f in flat])
    depth, around = enclosing(flat, left)
    parent = around.tolist()
    winding = turn.copy()
    for k in np.argsort(depth, kind="stable").tolist():
        winding[k] += winding[parent[k]] if parent[k] >= 0 else 0
    solid = winding != 0 if rule == "nonzero" else depth % 2 == 0
    count = len(flat)
    shells = [k for k in range(count) if solid[k] and (parent[k] < 0 or not solid[parent[k]])]
    holes: dict[int, list[int]] = {k: [] for k in shells}
    for k in range(count):
        if not solid[k] and (shell := _holder(k, parent, solid)) >= 0:
            holes[shell].append(k)
    return tuple((s, tuple(holes[s])) for s in shells)


def _holder(ring: int, parent: list[int], solid: npt.NDArray[np.bool_]) -> int:
    """The shell whose hole `ring` is, or -1 if it bounds nothing: it lies in open space."""
    above = parent[ring]
    if above < 0 or not solid[above]:
        return -1
    # Solid rings within solid ones bound nothing either: the outermost of them is the shell.
    while parent[above] >= 0 and solid[parent[above]]:
        above = parent[above]
    return above


def polygons_of(curves: Sequence[Curve], nesting: Nesting) -> list[Polygon]:
    """The polygons that nested rings bound, with the curves' own points."""
    return [Polygon(curves[s].points, [curves[h].points for h in holes]) for s, holes in nesting]


def fill(curves: Sequence[Curve], rule: FillRule = "nonzero") -> list[Polygon]:
    """The polygons that closed curves bound under a fill rule, however they cross themselves and each other.

    All curves are noded; each face of the arrangement is in or out by the winding number at a point inside it.
    """
    rings = [c.points for c in curves if len(c.points) > 3]
    if not rings:
        return []
    noded = shapely.union_all([shapely.LineString(r) for r in rings])
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    if not len(faces):
        return []
    at = shapely.get_coordinates(shapely.point_on_surface(faces))
    winding = winding_numbers(rings, at)
    kept = faces[winding != 0 if rule == "nonzero" else winding % 2 == 1]
    merged = overlay.coverage_union_all(list(kept)) if len(kept) else MultiPolygon()
    return [p for p in shapely.get_parts(merged) if isinstance(p, Polygon)]


def winding_numbers(rings: Sequence[FloatArray], points: FloatArray) -> IndexArray:
    """How often closed rings (n, 2) together wind round each of `points` (m, 2), none of them on one."""
    return _wound(rings, points)[0]


def enclosing(rings: Sequence[FloatArray], points: FloatArray) -> tuple[IndexArray, IndexArray]:
    """Within how many other closed rings (n, 2) a point of each one (n, 2) lies, and the smallest of these (-1: none).

    The rings may share edges but not cross, and no point may lie on another's ring.
    """
    _, depth, parent = _wound(rings, points)
    return depth, parent


def _wound(rings: Sequence[FloatArray], points: FloatArray) -> tuple[IndexArray, IndexArray, IndexArray]:
    starts = np.concatenate([[0], np.cumsum([len(r) for r in rings])]).astype(np.int64)
    order = np.argsort(points[:, 1], kind="stable")
    corners = np.concatenate(rings)
    return _wind(corners, starts, _ring_areas(corners, starts), points[order], order)  # type: ignore[no-any-return]


def _ring_areas(corners: FloatArray, starts: IndexArray) -> FloatArray:
    """The area within each closed ring (shoelace formula), measured from its first corner, where rounding is least."""
    first = np.repeat(corners[starts[:-1]], np.diff(starts), axis=0)
    x, y = (corners - first).T
    twice = np.append(x[:-1] * y[1:] - x[1:] * y[:-1], 0.0)
    twice[starts[1:] - 1] = 0.0
    return np.abs(np.add.reduceat(twice, starts[:-1])) / 2


@jit
def _wind(corners: Any, starts: Any, sizes: Any, points: Any, order: Any) -> tuple[Any, Any, Any]:
    """For each point: the winding number of all rings, how many others than its own wind round it, the smallest of these.

    Winding numbers after Sunday (2001); each edge is only held against the points, sorted by y, that lie as high as it.
    """
    count = points.shape[0]
    y = points[:, 1].copy()
    winding, depth, parent = np.zeros(count, np.int64), np.zeros(count, np.int64), np.full(count, -1, np.int64)
    own, seen, met = np.zeros(count, np.int64), np.full(count, -1, np.int64), np.empty(count, np.int64)
    for ring in range(starts.shape[0] - 1):
        passed = 0
        for i in range(starts[ring], starts[ring + 1] - 1):
            ax, ay, bx, by = corners[i, 0], corners[i, 1], corners[i + 1, 0], corners[i + 1, 1]
            low, high = min(ay, by), max(ay, by)
            k = np.searchsorted(y, low)
            while k < count and y[k] < high:
                if seen[k] != ring:
                    seen[k], own[k], met[passed] = ring, 0, k
                    passed += 1
                left = (bx - ax) * (y[k] - ay) - (points[k, 0] - ax) * (by - ay)
                if ay < by and left > 0:
                    own[k] += 1
                elif ay > by and left < 0:
                    own[k] -= 1
                k += 1
        for k in met[:passed]:
            at = order[k]
            winding[at] += own[k]
            if own[k] != 0 and at != ring:
                depth[at] += 1
                if parent[at] < 0 or sizes[ring] < sizes[parent[at]]:
                    parent[at] = ring
    return winding, depth, parent


def as_multi(polygons: Sequence[Polygon]) -> MultiPolygon:
    """Polygons that may overlap as one welded shape; such as lie apart are taken as they are."""
    if len(polygons) < 2:
        return MultiPolygon(polygons)
    pieces = np.array(polygons, dtype=object)
    a, b = shapely.STRtree(pieces).query(pieces)
    a, b = a[a < b], b[a < b]
    shapely.prepare(pieces)
    meet = shapely.intersects(pieces[a], pieces[b])
    if not bool(np.any(meet)):
        return MultiPolygon(polygons)
    alone = np.ones(len(polygons), np.bool_)
    alone[np.concatenate([a[meet], b[meet]])] = False
    merged = overlay.union_all(list(pieces[~alone]))
    return MultiPolygon([*pieces[alone], *(p for p in shapely.get_parts(merged) if isinstance(p, Polygon))])
