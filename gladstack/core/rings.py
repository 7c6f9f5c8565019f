"""From closed curves to filled shapes: how rings nest, and what the fill rules make of rings that cross."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core import overlay
from gladstack.core.curves import Chain, Curve, flatten_chain

FloatArray = npt.NDArray[np.float64]
Nesting = tuple[tuple[int, tuple[int, ...]], ...]
"""For each polygon the ring that is its shell, and the rings that are its holes."""
FillRule = Literal["nonzero", "evenodd"]

_NEST_STEPS = 200.0
"""Rings are flattened to a two-hundredth of their size to see how they nest."""


def nest_rings(rings: Sequence[Chain], rule: FillRule = "nonzero") -> Nesting | None:
    """How rings that do not cross nest under a fill rule; None if any of them cross or touch."""
    size = max((float(np.ptp(r.pieces.reshape(-1, 2), axis=0).max()) for r in rings), default=0.0)
    if size <= 0:
        return None
    flat = [flatten_chain(r, size / _NEST_STEPS) for r in rings]
    if any(len(f) < 4 for f in flat):
        return None
    filled = np.array([Polygon(f) for f in flat], dtype=object)
    if not bool(np.all(shapely.is_valid(filled))):
        return None
    lines = shapely.linearrings(flat) if len({len(f) for f in flat}) == 1 else [shapely.LinearRing(f) for f in flat]
    a, b = shapely.STRtree(lines).query(lines, predicate="intersects")
    if bool(np.any(a != b)):
        return None
    inside = shapely.contains(filled[:, None], filled[None, :])
    np.fill_diagonal(inside, False)
    depth = inside.sum(axis=0)
    turn = np.array([1 if Polygon(f).exterior.is_ccw else -1 for f in flat])
    winding = turn + (inside * turn[:, None]).sum(axis=0)
    solid = winding != 0 if rule == "nonzero" else depth % 2 == 0
    parent = [int(max(np.flatnonzero(inside[:, k]), key=lambda j: int(depth[j]), default=-1)) for k in range(len(flat))]
    shells = [k for k in range(len(flat)) if solid[k] and (parent[k] < 0 or not solid[parent[k]])]
    return tuple((s, tuple(k for k in range(len(flat)) if not solid[k] and _holder(k, parent, solid) == s)) for s in shells)


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
    winding = sum((winding_numbers(r, at) for r in rings), np.zeros(len(faces), np.int64))
    kept = faces[winding != 0 if rule == "nonzero" else winding % 2 == 1]
    merged = overlay.coverage_union_all(list(kept))
    return [p for p in shapely.get_parts(merged) if isinstance(p, Polygon)]


def winding_numbers(ring: FloatArray, points: FloatArray) -> npt.NDArray[np.int64]:
    """How often a closed ring (n, 2) winds round each of `points` (m, 2), none of them on it (Sunday 2001)."""
    a, b = ring[:-1], ring[1:]
    x, y = points[:, :1], points[:, 1:]
    left = (b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (x - a[:, 0]) * (b[:, 1] - a[:, 1])
    up = (a[:, 1] <= y) & (b[:, 1] > y) & (left > 0)
    down = (a[:, 1] > y) & (b[:, 1] <= y) & (left < 0)
    return np.asarray(up.sum(axis=1) - down.sum(axis=1), np.int64)


def as_multi(polygons: Sequence[Polygon]) -> MultiPolygon:
    """Polygons that may overlap as one welded shape; such as lie apart are taken as they are."""
    if len(polygons) < 2:
        return MultiPolygon(polygons)
    a, b = shapely.STRtree(polygons).query(polygons, predicate="intersects")
    if not bool(np.any(a != b)):
        return MultiPolygon(polygons)
    alone = np.ones(len(polygons), np.bool_)
    alone[a[a != b]] = False
    pieces = np.array(polygons, dtype=object)
    merged = overlay.union_all(list(pieces[~alone]))
    return MultiPolygon([*pieces[alone], *(p for p in shapely.get_parts(merged) if isinstance(p, Polygon))])
