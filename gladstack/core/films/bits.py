"""Small and loose pieces of a film: those too small to handle, and the gaps between pieces that nearly touch."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, MultiPolygon, Polygon

from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.geometry import mending, overlay
from gladstack.core.geometry.partition import longest_border
from gladstack.core.geometry.shapes import clean, grow

_LEAST_WIDTH_MM = 0.3
_INTO_MM = 0.2
"""A plain bridge runs so far into both pieces, so that it is welded to them."""
_NEAR_MM = 0.5
"""An end of a chosen gap that is no farther from a piece is one of that piece, even if its edge has moved a little."""
_SIDE_BY_SIDE_MM = 0.02
"""Edges whose distance differs by no more run side by side."""
_MOST_PAIRS = 20_000


@dataclass(frozen=True)
class Bit:
    """One piece of a film: its area in mm2, and a point within it."""

    area_mm2: float
    at: Point


@dataclass(frozen=True)
class Gap:
    """Where two pieces of a film come nearest to each other: how far apart they are, and the points on either."""

    mm: float
    start: Point
    end: Point


def small_bits(shape: MultiPolygon, below_mm2: float, most: int) -> tuple[Bit, ...]:
    """The pieces of a film below an area, the smallest first, at most so many."""
    found = sorted((float(p.area), k) for k, p in enumerate(shape.geoms) if p.area < below_mm2)[:most]
    at = shapely.get_coordinates(shapely.point_on_surface([shape.geoms[k] for _, k in found])) if found else []
    return tuple(Bit(area, (float(x), float(y))) for (area, _), (x, y) in zip(found, at, strict=True))


def gaps_within(shape: MultiPolygon, up_to_mm: float, most: int) -> tuple[Gap, ...]:
    """The fewest gaps, each no wider than `up_to_mm`, that would have to be closed to join all pieces they can join.

    They are the edges of the shortest spanning forest of the pieces (Kruskal 1956); the narrowest come first.
    """
    pieces = np.array(shape.geoms, dtype=object)
    if len(pieces) < 2:
        return ()
    a, b = shapely.STRtree(pieces).query(pieces, predicate="dwithin", distance=up_to_mm)
    a, b = a[a < b], b[a < b]
    if len(a) > _MOST_PAIRS:
        return ()
    apart = shapely.distance(pieces[a], pieces[b])
    root = list(range(len(pieces)))

    def found(k: int) -> int:
        while root[k] != k:
            root[k] = root[root[k]]
            k = root[k]
        return k

    out: list[Gap] = []
    for k in np.argsort(apart, kind="stable").tolist():
        i, j = int(a[k]), int(b[k])
        if found(i) == found(j):
            continue
        root[found(i)] = found(j)
        out.append(Gap(float(apart[k]), *_nearest(pieces[i], pieces[j], float(apart[k]))))
        if len(out) == most:
            break
    return tuple(out)


def _nearest(piece: Polygon, other: Polygon, mm: float) -> tuple[Point, Point]:
    """Where two pieces come nearest: in the middle of where they run side by side, as plain ends of strokes do."""
    (x, y), (u, v) = shapely.get_coordinates(shapely.shortest_line(piece, other)).tolist()
    beside = shapely.intersection(shapely.boundary(piece), shapely.buffer(other, mm + _SIDE_BY_SIDE_MM))
    lines = shapely.get_parts(shapely.line_merge(beside))
    if not len(lines) or (longest := lines[int(shapely.length(lines).argmax())]).geom_type != "LineString":
        return (x, y), (u, v)
    middle = shapely.line_interpolate_point(longest, 0.5, normalized=True)
    (x, y), (u, v) = shapely.get_coordinates(shapely.shortest_line(middle, other)).tolist()
    return (x, y), (u, v)


def closed(shape: MultiPolygon, up_to_mm: float, chosen: Sequence[tuple[Point, Point]], most: int = 500) -> MultiPolygon:
    """A film with its gaps up to a width, and those between chosen points, closed by bridges as wide as its strokes."""
    ends = [(g.start, g.end) for g in gaps_within(shape, up_to_mm, most)] if up_to_mm > 0 else []
    ends += [(start, end) for start, end in chosen if _parts_apart(shape, start, end)]
    drawn = [_bridge(shape, start, end) for start, end in ends]
    return clean(overlay.union_all([shape, *drawn])) if drawn else shape


def _parts_apart(shape: MultiPolygon, start: Point, end: Point) -> bool:
    """Whether a chosen gap is still one: its ends lie on two different pieces."""
    a, b = touched_by(shape, start, _NEAR_MM), touched_by(shape, end, _NEAR_MM)
    return a is not None and b is not None and a != b


def _bridge(shape: MultiPolygon, start: Point, end: Point) -> MultiPolygon:
    """A bridge of the strokes' own width; where these have no plain ends there, a straight one as wide as the narrower."""
    length = float(np.hypot(end[0] - start[0], end[1] - start[1]))
    plain = _plain(shape, start, end)
    try:
        drawn = MultiPolygon([mending.bridge(shape, start, end)])
    except MendError:
        return plain
    # One that does not reach both, or runs far aside, does not follow the strokes.
    near = shapely.buffer(LineString([start, end]), 1.5 * (length + _width(shape, start) + _width(shape, end)))
    joins = len(clean(overlay.union_all([drawn, *_beside(shape, start, end)])).geoms) == 1
    return drawn if joins and shapely.contains(near, drawn) else plain


def _beside(shape: MultiPolygon, start: Point, end: Point) -> list[Polygon]:
    spots = [shapely.Point(start), shapely.Point(end)]
    return [min(shape.geoms, key=lambda p, s=spot: float(p.distance(s))) for spot in spots]  # type: ignore[misc]


def _plain(shape: MultiPolygon, start: Point, end: Point) -> MultiPolygon:
    width = max(_LEAST_WIDTH_MM, min(_width(shape, start), _width(shape, end)))
    a, b = np.array(start), np.array(end)
    length = float(np.hypot(*(b - a)))
    way = (b - a) / length if length > 0 else np.array([1.0, 0.0])
    into = max(_INTO_MM, 0.5 * width)
    return clean(shapely.buffer(LineString([a - into * way, b + into * way]), 0.5 * width, cap_style="flat"))


def _width(shape: MultiPolygon, spot: Point) -> float:
    """About how wide a film's stroke is where a point lies on its edge."""
    here = min(shape.geoms, key=lambda p: float(p.distance(shapely.Point(spot))))
    width = 2.0
    for _ in range(3):
        near = shapely.intersection(here, shapely.Point(spot).buffer(width))
        parts = [p for p in shapely.get_parts(near) if isinstance(p, Polygon) and p.area > 0]
        if not parts:
            return _LEAST_WIDTH_MM
        part = min(parts, key=lambda p: float(p.distance(shapely.Point(spot))))
        width = 2 * float(shapely.maximum_inscribed_circle(part, tolerance=0.02).length)
    return width


Cut = MultiPolygon
Settled = dict[int, MultiPolygon]
"""Shapes of films that have changed, by their place in the stack."""


def settled(
    shapes: Sequence[MultiPolygon], cuts: Sequence[MultiPolygon], small: Sequence[tuple[int, Polygon, bool]]
) -> Settled:
    """The films' own shapes after small pieces of what is cut were dropped, or merged with the film beside them.

    `small` tells of each such piece the film it is of, and whether it is to be merged: then the film that it has the longest
    border with takes it over. What is dropped is left to what lies below.
    """
    out: Settled = {}

    def shape(k: int) -> MultiPolygon:
        return out.get(k, shapes[k])

    for film, piece, merge in small:
        others = [k for k in range(len(cuts)) if k != film]
        best = longest_border(piece, [cuts[k] for k in others]) if merge else None
        if merge and best is None:
            continue
        out[film] = clean(overlay.difference(shape(film), piece))
        if best is not None:
            heir = others[best]
            out[heir] = clean(overlay.union(shape(heir), piece))
    return out


def touched_by(pieces: MultiPolygon, spot: Point, slack_mm: float = 0.05) -> int | None:
    """Which piece of a film a point is on, or all but on."""
    near = shapely.STRtree(pieces.geoms).query(grow(shapely.Point(spot), slack_mm), predicate="intersects")
    return min((int(k) for k in near), key=lambda k: float(pieces.geoms[k].distance(shapely.Point(spot))), default=None)
