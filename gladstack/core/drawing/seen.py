"""What is seen of each colour of a drawing when all its shapes are painted in order."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import GEOSException, MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.drawing.drawing import Budget, Painted
from gladstack.core.geometry import overlay
from gladstack.core.geometry.crossings import count_crossings
from gladstack.core.geometry.rings import as_multi
from gladstack.core.geometry.shapes import clean, cut_away

IndexArray = npt.NDArray[np.int64]
GeometryArray = npt.NDArray[np.object_]

_SAMPLES = 400
_FEW_OVER = 8
_MANY, _MOST = 500, 300_000
"""With so many pairs of shapes on one another, all of them are worked out at once."""
_AT_ONCE = 64
_STRAIGHT_MM = 1e-7
_MOST_CROSSINGS = 200_000
"""Outlines that cross more often would cut the plane into more faces than can be held."""


def visible(items: Sequence[Painted], budget: Budget | None = None) -> dict[str, MultiPolygon]:
    """For each colour, from the first painted on, the area where it is seen when all is painted in order.

    Neighbours in the order that have one colour count as one; each is cut by what is painted over it in other colours.
    Raises VectorError if too many lie on one another.
    """
    runs = [(colour, _together(own)) for colour, own in _by_run(items)]
    if len(runs) < 2:
        return dict(runs)
    pieces = [(k, p) for k, (_, shape) in enumerate(runs) for p in shape.geoms]
    shapes = np.array([p for _, p in pieces], dtype=object)
    rank = np.array([k for k, _ in pieces], np.int64)
    names = list(dict.fromkeys(item.colour for item in items))
    colour = np.array([names.index(runs[k][0]) for k in rank.tolist()], np.int64)
    tree = shapely.STRtree(shapes)
    overlaps = _overlaps(shapes, tree)
    if _MANY < overlaps < _MOST and (faced := _by_faces(shapes, rank, colour, len(names))) is not None:
        return dict(zip(names, faced, strict=True))
    (budget or Budget()).take("overlaps", overlaps)
    lower, upper = tree.query(shapes, predicate="intersects")
    over = (rank[upper] > rank[lower]) & (colour[upper] != colour[lower])
    lower, upper = lower[over], upper[over]
    seen: dict[str, list[Polygon]] = {name: [] for name in names}
    for k, kept in enumerate(_uncovered(shapes, lower, upper)):
        seen[names[colour[k]]] += list(kept.geoms)
    return {name: as_multi(parts) for name, parts in seen.items()}


def _by_faces(shapes: GeometryArray, rank: IndexArray, colour: IndexArray, count: int) -> list[MultiPolygon] | None:
    """What is seen of each colour, from the faces that all outlines cut the plane into: each is the topmost shape's there.

    For many shapes on one another this is much faster than to cut each by what lies over it. None if the faces within some
    shape do not add up to it, or would be too many.
    """
    rings = [shapely.get_coordinates(r) for r in shapely.get_rings(shapes)]
    if count_crossings(rings, _MOST_CROSSINGS) > _MOST_CROSSINGS:
        return None
    try:
        noded = shapely.union_all(shapely.boundary(shapes))
    except GEOSException:
        return None
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    inner, area = shapely.STRtree(shapely.point_on_surface(faces)), shapely.area(faces)
    limit = tolerances.AREA_MM2 + tolerances.OVERLAY_MM * shapely.length(shapes)
    off = limit + shapely.area(shapes)
    top = np.full(len(faces), -1, np.int64)
    for first in range(0, len(shapes), _AT_ONCE):
        held, face = inner.query(shapes[first : first + _AT_ONCE], predicate="contains")
        np.maximum.at(top, face, rank[first + held])
        np.subtract.at(off, first + held, area[face])
    # What the faces add up to may differ from the shape by the limit either way.
    if np.any((off < 0) | (off > 2 * limit)):
        return None
    painted = np.full(int(rank.max()) + 2, -1, np.int64)
    painted[rank] = colour
    owner = painted[top]
    seen = [_joined(faces[owner == k]) for k in range(count)]
    return _without_crossings(seen, np.concatenate(rings))


def _joined(faces: GeometryArray) -> MultiPolygon:
    return clean(overlay.coverage_union_all(list(faces))) if len(faces) else MultiPolygon()


def _without_crossings(shapes: Sequence[MultiPolygon], drawn: npt.NDArray[np.float64]) -> list[MultiPolygon]:
    """Shapes that share their edges without the points where no more than hidden outlines met these: neither drawn, nor
    where three edges meet. They are left out on both sides of an edge, so that it stays common.
    """
    parts, shape = shapely.get_parts(np.array(shapes, dtype=object), return_index=True)
    rings, part = shapely.get_rings(parts, return_index=True)
    points, ring = shapely.get_coordinates(rings, return_index=True)
    if not len(points):
        return list(shapes)
    _, number = np.unique(np.concatenate([points, drawn]), axis=0, return_inverse=True)
    number = number.ravel()
    original = np.zeros(int(number.max()) + 1, np.bool_)
    original[number[len(points) :]] = True
    at = number[: len(points)]
    along = ring[1:] == ring[:-1]
    ends = np.sort(np.stack([at[:-1][along], at[1:][along]], axis=1), axis=1)
    degree = np.bincount(np.unique(ends, axis=0).ravel(), minlength=len(original))
    kept = original[at] | (degree[at] != 2)
    # A point that no outline was drawn with, but that an outline bends at, was moved a little when all were noded.
    last = np.flatnonzero(np.append(~along, True))
    first = np.append(0, last[:-1] + 1)
    before, after = np.arange(len(points)) - 1, np.arange(len(points)) + 1
    before[first], after[last] = last - 1, first + 1
    way, turn = points[after] - points[before], points - points[before]
    aside = np.abs(way[:, 0] * turn[:, 1] - way[:, 1] * turn[:, 0])
    kept |= aside > _STRAIGHT_MM * np.hypot(way[:, 0], way[:, 1])
    owner = shape[part[ring]]
    return [_rebuilt(one, kept[owner == k]) for k, one in enumerate(shapes)]


def _rebuilt(shape: MultiPolygon, kept: npt.NDArray[np.bool_]) -> MultiPolygon:
    """A shape with only the points that are `kept`, told in the order of its rings; rings that would collapse stay."""
    if kept.all():
        return shape
    polygons, first = [], 0
    for polygon in shape.geoms:
        rings = []
        for ring in (polygon.exterior, *polygon.interiors):
            points = shapely.get_coordinates(ring)
            own = kept[first : first + len(points)]
            first += len(points)
            left = points[:-1][own[:-1]]
            rings.append(left if len(left) >= 3 else points)
        polygons.append(Polygon(rings[0], rings[1:]))
    return MultiPolygon(polygons)


def _uncovered(shapes: npt.NDArray[Any], lower: IndexArray, upper: IndexArray) -> list[MultiPolygon]:
    """Each shape without those over it, told in pairs sorted by the lower one.

    A shape with few over it loses them one by one, all shapes at once; one with many loses their union.
    """
    begin = np.searchsorted(lower, np.arange(len(shapes) + 1))
    count = np.diff(begin)
    left = shapes.copy()
    few = count <= _FEW_OVER
    for turn in range(int(count[few].max(initial=0))):
        own = np.flatnonzero(few & (count > turn))
        left[own] = overlay.differences(left[own], shapes[upper[begin[own] + turn]])
    for k in np.flatnonzero(~few):
        left[k] = cut_away(MultiPolygon([shapes[k]]), list(shapes[upper[begin[k] : begin[k + 1]]]))
    return [clean(one) if n else MultiPolygon([one]) for one, n in zip(left, count, strict=True)]


def _together(items: Sequence[Painted]) -> MultiPolygon:
    return items[0].shape if len(items) == 1 else as_multi([p for item in items for p in item.shape.geoms])


def _by_run(items: Sequence[Painted]) -> Iterator[tuple[str, list[Painted]]]:
    for colour, own in itertools.groupby(items, key=lambda item: item.colour):
        yield colour, list(own)


def _overlaps(shapes: npt.NDArray[Any], tree: shapely.STRtree) -> int:
    """About how many pairs of shapes have boxes that meet, told from a sample."""
    if not len(shapes):
        return 0
    chosen = np.unique(np.linspace(0, len(shapes) - 1, min(_SAMPLES, len(shapes))).astype(np.int64))
    return round(len(tree.query(shapes[chosen])[0]) * len(shapes) / len(chosen) / 2)
