"""Strips across an opening that hold what it goes round: without them the inner parts of a stencil fall out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LinearRing, LineString, MultiPolygon, Polygon

from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.geometry.shapes import clean

_LEAST_MM, _MOST_MM = 0.8, 6.0
_SHARE = 0.2
"""A strip is as wide as this share of the inner part's lesser side, within these bounds."""
_MOST_LONGER = 4.0
"""A strip stands upright unless that makes it so many times longer than the shortest."""
_SPECK_MM2 = 0.5
_TOUCH_MM = 0.05


@dataclass(frozen=True)
class Hold:
    """A strip across an opening, from an inner part to what lies around it, mm."""

    start: Point
    end: Point
    width_mm: float


def strip(start: Point, end: Point, width_mm: float) -> MultiPolygon:
    """A straight strip between two points, carried on by half its width at both, so that no sliver is left there.

    Raises MendError if it has no length.
    """
    if start == end:
        raise MendError("The bridge begins where it ends.", "Draw it across the hole, from one side to the other.")
    a, b = np.array(start), np.array(end)
    along = (b - a) / np.hypot(*(b - a)) * width_mm / 2
    aside = np.array([-along[1], along[0]])
    return clean(Polygon([a - along + aside, b + along + aside, b + along - aside, a - along - aside]))


def holds_for(opening: MultiPolygon) -> tuple[tuple[Hold, ...], ...]:
    """The strips that hold each inner part of an opening: above and below it where they are short, else the shortest way.

    Specks are left out: nobody misses them in a stencil.
    """
    rings = [(part, ring) for part in opening.geoms for ring in part.interiors]
    return tuple(_holds(part, ring) for part, ring in rings if Polygon(ring).area >= _SPECK_MM2)


def _holds(part: Polygon, ring: LinearRing) -> tuple[Hold, ...]:
    left, top, right, bottom = ring.bounds
    width = min(_MOST_MM, max(_LEAST_MM, _SHARE * min(right - left, bottom - top)))
    shortest = _shortest(part, ring)
    longest = _MOST_LONGER * max(shortest.length, width)
    upright = [line for line in _upright(part, ring) if line.length <= longest]
    return tuple(Hold(*_ends(line), width) for line in upright or [shortest])


def _shortest(part: Polygon, ring: LinearRing) -> LineString:
    """The shortest way from an inner part to the outside; where they all but touch, one through that place."""
    line = shapely.shortest_line(ring, part.exterior)
    if line.length > _TOUCH_MM:
        return line
    middle, at = np.array(Polygon(ring).centroid.coords[0]), shapely.get_coordinates(line)[1]
    out = (at - middle) / max(1e-9, float(np.hypot(*(at - middle)))) * _TOUCH_MM
    return LineString([at - out, at + out])


def _upright(part: Polygon, ring: LinearRing) -> list[LineString]:
    """Where a line straight up and down through the middle of an inner part runs from it to the outside."""
    x = Polygon(ring).centroid.x
    _, top, _, bottom = part.bounds
    met = shapely.get_parts(shapely.intersection(part, LineString([(x, top - 1), (x, bottom + 1)])))
    lines = [line for line in met.tolist() if isinstance(line, LineString)]
    return [line for line in lines if line.distance(ring) < 1e-6 and line.distance(part.exterior) < 1e-6]


def _ends(line: LineString) -> tuple[Point, Point]:
    (x1, y1), (x2, y2) = shapely.get_coordinates(line)[[0, -1]].tolist()
    return (x1, y1), (x2, y2)
