"""Areas of film: their offsets, what is left of them without others, and what of them is more than rounding."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.base.compiled import jit
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import IDENTITY, Matrix, transform_points

FloatArray = npt.NDArray[np.float64]
CornerStyle = Literal["round", "mitre", "bevel"]

_MITRE_LIMIT = 4.0


def grow(shape: BaseGeometry, distance: float, corners: CornerStyle = "round") -> BaseGeometry:
    """The offset of `shape`, true within the flattening tolerance: outwards for a positive distance, else inwards."""
    if distance == 0 or shape.is_empty:
        return shape
    step = 2 * math.acos(max(0.0, 1 - tolerances.FLATTEN_MM / abs(distance)))
    segments = max(8, math.ceil(math.pi / 2 / max(step, 1e-3)))
    grown = shapely.buffer(shape, distance, quad_segs=segments, join_style=corners, mitre_limit=_MITRE_LIMIT)
    # GEOS now and then leaves an offset curve crossing itself by a rounding error.
    return grown if grown.is_valid else shapely.make_valid(grown)


def clean(shape: BaseGeometry) -> MultiPolygon:
    """The polygons of `shape` that are more than rounding, as one multipolygon."""
    parts = shapely.get_parts(shape)
    collected = shapely.get_type_id(parts) > shapely.GeometryType.POLYGON
    # Collections hold areas of their own, after those that stand by themselves.
    parts = np.concatenate([parts[~collected], shapely.get_parts(parts[collected])])
    large = (shapely.get_type_id(parts) == shapely.GeometryType.POLYGON) & (shapely.area(parts) > tolerances.AREA_MM2)
    return MultiPolygon(_without_hairs([_without_crumbs(p) for p in parts[large]]))


def _without_hairs(polygons: list[Polygon]) -> list[Polygon]:
    """Polygons without needles of no width, outwards or inwards, which overlays leave along edges that nearly coincide.

    The blade would cut along them, there and back.
    """
    if not polygons:
        return polygons
    rings, owner = shapely.get_rings(np.array(polygons, dtype=object), return_index=True)
    points = shapely.get_coordinates(rings)
    ends = np.cumsum(shapely.get_num_coordinates(rings))
    haired = set(owner[_haired(points, ends, tolerances.TOUCH_MM)].tolist())
    if not haired:
        return polygons
    out = []
    for k, polygon in enumerate(polygons):
        if k not in haired:
            out.append(polygon)
            continue
        shell, *holes = (_shorn(np.asarray(r.coords)[:-1]) for r in (polygon.exterior, *polygon.interiors))
        shorn = Polygon(shell, [h for h in holes if len(h) > 2]) if len(shell) > 2 else polygon
        out += [shorn if shorn.is_valid else polygon]
    return out


def _shorn(ring: FloatArray) -> FloatArray:
    while len(ring) > 3:
        hairs = _reverses(np.roll(ring, 1, axis=0), ring, np.roll(ring, -1, axis=0))
        if not hairs.any():
            break
        # One at a time: where one is gone, its neighbours see others.
        ring = np.delete(ring, int(np.flatnonzero(hairs)[0]), axis=0)
    return ring


def _reverses(a: FloatArray, b: FloatArray, c: FloatArray) -> npt.NDArray[np.bool_]:
    """Where the way from a to b goes back along itself to c, to within the rounding of overlays."""
    u, v = b - a, c - b
    cross = np.abs(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0])
    longer = np.maximum(np.hypot(u[:, 0], u[:, 1]), np.hypot(v[:, 0], v[:, 1]))
    return np.asarray(((u * v).sum(axis=1) < 0) & (cross <= tolerances.TOUCH_MM * longer))


@jit
def _haired(points: Any, ends: Any, width: float) -> Any:
    """Which closed rings go back along themselves anywhere; `ends` is where each of them ends in `points` (n, 2)."""
    out = np.zeros(len(ends), np.bool_)
    begin = 0
    for ring in range(len(ends)):
        # The last point is the first again, and is passed over.
        last = ends[ring] - 2
        ux, uy = points[begin, 0] - points[last, 0], points[begin, 1] - points[last, 1]
        for k in range(begin, last + 1):
            vx, vy = points[k + 1, 0] - points[k, 0], points[k + 1, 1] - points[k, 1]
            if ux * vx + uy * vy < 0 and abs(ux * vy - uy * vx) <= width * max(np.hypot(ux, uy), np.hypot(vx, vy)):
                out[ring] = True
                break
            ux, uy = vx, vy
        begin = ends[ring]
    return out


def _without_crumbs(polygon: Polygon) -> Polygon:
    if not shapely.get_num_interior_rings(polygon):
        return polygon
    rings = list(polygon.interiors)
    real = shapely.area(shapely.polygons(rings)) > tolerances.AREA_MM2
    return polygon if np.all(real) else Polygon(polygon.exterior, [r for r, keep in zip(rings, real, strict=True) if keep])


def placed(shape: MultiPolygon, matrix: Matrix) -> MultiPolygon:
    """A shape under an affine map; valid, where rounding has it cross itself."""
    if matrix == IDENTITY or shape.is_empty:
        return shape
    moved: MultiPolygon = shapely.transform(shape, lambda p: transform_points(p, matrix))
    return moved if moved.is_valid else clean(shapely.make_valid(moved))


def meeting(shape: BaseGeometry, other: BaseGeometry, within_mm: float = 0.0) -> MultiPolygon:
    """Those polygons of `shape` that come within a distance of `other`: overlays need look at no others."""
    pieces = shapely.get_parts(shape)
    if len(pieces) < 2:
        return MultiPolygon(list(pieces))
    shapely.prepare(other)
    near = shapely.dwithin(other, pieces, within_mm) if within_mm else shapely.intersects(other, pieces)
    return MultiPolygon(list(pieces[near]))


def near_boxes(shape: BaseGeometry, others: Sequence[BaseGeometry], within_mm: float = 0.0) -> MultiPolygon:
    """Those polygons of `shape` that may come so near to others, judged by boxes: for large polygons a closer look takes
    longer than it saves."""
    pieces = shapely.get_parts(shape)
    reach = shapely.bounds(shapely.get_parts(others)) + within_mm * np.array([-1.0, -1.0, 1.0, 1.0])
    near = np.unique(shapely.STRtree(shapely.box(*reach.T)).query(pieces)[0])
    return MultiPolygon(list(pieces[near]))


def cut_away(shape: MultiPolygon, others: Sequence[BaseGeometry]) -> MultiPolygon:
    """`shape` without `others`; pieces that none of them meets stay as they are, to the last bit."""
    over = [o for o in others if shapely.intersects(shape, o)]
    if not over:
        return shape
    near = [meeting(o, shape) for o in over]
    gone: BaseGeometry = near[0] if len(near) == 1 else overlay.union_all(near)
    pieces = np.array(shape.geoms, dtype=object)
    shapely.prepare(gone)
    met = shapely.intersects(gone, pieces)
    left = clean(overlay.difference(MultiPolygon(list(pieces[met])), gone))
    return MultiPolygon([*pieces[~met], *left.geoms])
