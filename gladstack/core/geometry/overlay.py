"""Unions, differences and intersections of areas, each checked by what must hold of their sizes.

Where two shapes share long edges, an overlay may come back valid and yet wrong: a hole filled, a piece lost. Nothing but
the areas tells. For any two shapes |A without B| = |A| - |A and B| = |A or B| - |B|, so all three are worked out and
compared; no union, besides, covers a place twice. The two that only check are asked for the other way round, B with A:
asked the same way, all three may be wrong together. A result that does not hold is worked out again another way, until one
does: piece by piece, as a coverage, and last on ever coarser grids, which move points by less than any cutter can tell.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree  # type: ignore[import-untyped]
from shapely import GEOSException, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances

GeometryArray = npt.NDArray[np.object_]
Areas = float | npt.NDArray[np.float64]
_COLLECTION = 7
"""The type of a geometry that may hold lines beside areas; its being valid says nothing of how these lie together."""
_GRIDS_MM = (1e-9, 1e-8, 1e-7, 1e-6)
Name = Literal["union", "intersection", "difference"]
Way = Callable[[Name, BaseGeometry, BaseGeometry], BaseGeometry]


def union(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """What either shape covers."""
    if a.is_empty or b.is_empty:
        return b if a.is_empty else a
    if not shapely.intersects(a, b):
        # Beside areas there may be lines where areas met in no more than an edge: they cover nothing.
        parts = [p for shape in (a, b) for p in shapely.get_parts(shapely.get_parts(shape))]
        return MultiPolygon([p for p in parts if isinstance(p, Polygon)])
    return _checked("union", a, b)


def union_all(shapes: Iterable[BaseGeometry]) -> BaseGeometry:
    """What any of the shapes covers; an empty multipolygon of none."""
    parts = [s for s in shapes if not s.is_empty]
    return _pairwise(_along_a_curve(parts)) if parts else MultiPolygon()


def difference(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """What of `a` lies outside `b`."""
    if a.is_empty or b.is_empty or not shapely.intersects(a, b):
        return a
    return _checked("difference", a, b)


def differences(a: GeometryArray, b: GeometryArray) -> GeometryArray:
    """`difference` for many pairs at once."""
    try:
        out: GeometryArray = np.asarray(shapely.difference(a, b))
        shared, unions = shapely.intersection(b, a), shapely.union(b, a)
    except GEOSException:
        return np.array([difference(one, other) for one, other in zip(a, b, strict=True)], dtype=object)
    either = np.where(_are_areas(unions), shapely.area(unions), np.inf)
    off = _left_off(shapely.area(a), shapely.area(b), shapely.area(out), shapely.area(shared), either)
    limit = tolerances.AREA_MM2 + tolerances.OVERLAY_MM * (shapely.length(a) + shapely.length(b))
    for k in np.flatnonzero(off > limit):
        out[k] = difference(a[k], b[k])
    return out


def intersection(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """What both shapes cover; may hold lines and points where they merely touch."""
    if a.is_empty or b.is_empty or not shapely.intersects(a, b):
        return MultiPolygon()
    return _checked("intersection", a, b)


def both_differences(a: BaseGeometry, b: BaseGeometry) -> tuple[BaseGeometry, BaseGeometry]:
    """What of each of two shapes lies outside the other; for the price of one `difference` where all goes well."""
    if a.is_empty or b.is_empty or not shapely.intersects(a, b):
        return a, b
    try:
        only_a, only_b = shapely.difference(a, b), shapely.difference(b, a)
        shared, either = shapely.intersection(a, b).area, _covered(shapely.union(a, b))
        off = max(_left_off(a.area, b.area, only_a.area, shared, either), abs(b.area - shared - only_b.area))
    except GEOSException:
        return difference(a, b), difference(b, a)
    return (only_a, only_b) if off <= _tolerance(a.length + b.length) else (difference(a, b), difference(b, a))


def coverage_union_all(parts: Sequence[BaseGeometry]) -> BaseGeometry:
    """The union of shapes that do not overlap and share their edges point for point; faster, and checked as simply."""
    try:
        whole = shapely.coverage_union_all(list(parts))
    except GEOSException:
        return union_all(parts)
    wanted = sum(p.area for p in parts)
    return whole if abs(whole.area - wanted) <= _tolerance(sum(p.length for p in parts)) else union_all(parts)


def without_cracks(parts: Sequence[BaseGeometry]) -> MultiPolygon:
    """The union of shapes that rounding has parted along edges they share; points away from cracks stay."""
    points = shapely.get_coordinates(list(parts))
    whole = shapely.union_all(list(parts), grid_size=tolerances.CRACK_MM / 10)
    tree = cKDTree(points)

    def put_back(moved: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        distance, which = tree.query(moved, distance_upper_bound=tolerances.CRACK_MM)
        known = np.isfinite(distance)
        return np.where(known[:, None], points[np.where(known, which, 0)], moved)

    exact = shapely.transform(whole, put_back)
    return _areal_whole(exact if exact.is_valid else whole)


def _areal_whole(shape: BaseGeometry) -> MultiPolygon:
    return MultiPolygon([p for p in shapely.get_parts(_areal(shape)) if isinstance(p, Polygon)])


def _tolerance(length_mm: float) -> float:
    """How far areas may be off: rounding along the outline, and no more."""
    return tolerances.AREA_MM2 + tolerances.OVERLAY_MM * length_mm


def _checked(name: Name, a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """The first result whose areas add up; of none that do, the one that is off by least."""
    a, b = _areal(a), _areal(b)
    limit = _tolerance(a.length + b.length)
    best: tuple[float, BaseGeometry] | None = None
    for way in _ways():
        try:
            out = way(name, a, b)
            off = _error(name, a, b, out, way)
        except GEOSException:
            continue
        if off <= limit:
            return out
        if best is None or off < best[0]:
            best = off, out
    if best is None:
        raise GEOSException("no way of overlaying these shapes succeeds")
    return best[1]


def _areal(shape: BaseGeometry) -> BaseGeometry:
    """A shape without the lines and points that an overlay may leave beside its areas: some ways do not take these."""
    if shape.geom_type in ("Polygon", "MultiPolygon"):
        return shape
    parts = [q for p in shapely.get_parts(shape) for q in shapely.get_parts(p)]
    return MultiPolygon([p for p in parts if p.geom_type == "Polygon"])


def _error(name: Name, a: BaseGeometry, b: BaseGeometry, out: BaseGeometry, way: Way) -> float:
    """How far areas are from adding up, in mm2."""
    if name == "difference":
        return float(_left_off(a.area, b.area, out.area, way("intersection", b, a).area, _covered(way("union", b, a))))
    only_b = way("difference", b, a).area
    shared = (out if name == "intersection" else way("intersection", b, a)).area
    either = _covered(out if name == "union" else way("union", b, a))
    return float(_left_off(b.area, a.area, only_b, shared, either))


def _covered(union: BaseGeometry) -> float:
    """The area of a union; infinite where it covers a place twice: that was counted as either shape's alone."""
    return float(union.area) if _areal(union).is_valid else np.inf


def _are_areas(unions: GeometryArray) -> Any:
    """Which of many unions cover no place twice."""
    sound = shapely.is_valid(unions)
    for k in np.flatnonzero(shapely.get_type_id(unions) == _COLLECTION):
        sound[k] = _areal(unions[k]).is_valid
    return sound


def _left_off(a: Areas, b: Areas, only_a: Areas, shared: Areas, either: Areas) -> Any:
    """How far the area of what is left of one shape without another is from those of both, of what they share and cover."""
    return np.maximum(np.abs(a - shared - only_a), np.abs(either - b - only_a))


def _ways() -> Iterable[Way]:
    yield lambda name, a, b: getattr(shapely, name)(a, b)
    yield _piece_by_piece
    yield _face_by_face
    for grid in _GRIDS_MM:
        yield lambda name, a, b, grid=grid: getattr(shapely, name)(a, b, grid_size=grid)  # type: ignore[misc]


def _piece_by_piece(name: Name, a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """Each polygon of `a` by itself: other edges meet, and what went wrong between them goes right."""
    if name == "union":
        return shapely.union(a, _piece_by_piece("difference", b, a))
    out = [getattr(shapely, name)(piece, b) for piece in shapely.get_parts(a)]
    polygons = [p for one in out for p in shapely.get_parts(one) if p.geom_type == "Polygon" and not p.is_empty]
    return MultiPolygon(polygons)


def _face_by_face(name: Name, a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """From all faces that the outlines of both cut the plane into, each taken or left by a point inside it."""
    noded = shapely.union_all([a.boundary, b.boundary])
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    x, y = shapely.get_coordinates(shapely.point_on_surface(faces)).T
    in_a, in_b = shapely.contains_xy(a, x, y), shapely.contains_xy(b, x, y)
    wanted = {"union": in_a | in_b, "intersection": in_a & in_b, "difference": in_a & ~in_b}[name]
    return shapely.coverage_union_all(faces[wanted]) if wanted.any() else MultiPolygon()


def _along_a_curve(parts: list[BaseGeometry]) -> list[BaseGeometry]:
    """Shapes in an order in which neighbours lie close together, so that joining them in pairs joins what meets.

    They follow a Z-order curve through the middles of their boxes (Morton 1966).
    """
    if len(parts) < 9:
        return parts
    boxes = shapely.bounds(parts)
    middle = np.stack([boxes[:, [0, 2]].mean(axis=1), boxes[:, [1, 3]].mean(axis=1)], axis=1)
    low, size = middle.min(axis=0), max(float(np.ptp(middle, axis=0).max()), 1e-9)
    cells = np.clip((middle - low) / size * 1023, 0, 1023).astype(np.int64)
    code = np.zeros(len(parts), np.int64)
    for bit in range(10):
        code |= ((cells[:, 0] >> bit) & 1) << (2 * bit) | ((cells[:, 1] >> bit) & 1) << (2 * bit + 1)
    return [parts[k] for k in np.argsort(code, kind="stable")]


def _pairwise(parts: list[BaseGeometry]) -> BaseGeometry:
    while len(parts) > 1:
        joined = [union(a, b) for a, b in zip(parts[::2], parts[1::2], strict=False)]
        parts = joined + ([parts[-1]] if len(parts) % 2 else [])
    return parts[0]
