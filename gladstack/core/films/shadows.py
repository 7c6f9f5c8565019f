"""Shapes that follow another: outline and drop shadows, bands, stitch lines, thicker and thinner shapes.

Offsets are GEOS's, flattened within `tolerances.FLATTEN_MM`. All lengths in mm.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
import shapely
from shapely import LinearRing, MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import substring

from gladstack.core.base import tolerances
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import CornerStyle, clean, grow

Ends = Literal["round", "square"]


def thicken(shape: MultiPolygon, by: float) -> MultiPolygon:
    """The shape made heavier by `by` all round, or lighter if it is negative; what grows together is welded."""
    return clean(grow(shape, by))


def fill_holes(shape: BaseGeometry, below_mm2: float | None = None, at: Sequence[tuple[float, float]] = ()) -> MultiPolygon:
    """The shape with its holes filled: all of them, those below an area, or those round the points `at`.

    With points, only the holes they lie in are filled, and `below_mm2` is added to that if given.
    """
    points = [Point(p) for p in at]
    whole = clean(shape)
    polygons = []
    for polygon in whole.geoms:
        kept = []
        for ring in polygon.interiors:
            hole = Polygon(ring)
            chosen = any(hole.intersects(p) for p in points)
            small = below_mm2 is not None and hole.area < below_mm2
            if not (chosen or small or (below_mm2 is None and not points)):
                kept.append(ring)
        polygons.append(Polygon(polygon.exterior, kept))
    if sum(len(p.interiors) for p in polygons) == sum(len(p.interiors) for p in whole.geoms):
        return whole
    # A filled hole may have held an island, which is one with what surrounds it now.
    return clean(overlay.union_all(polygons))


def block_shadow(shape: MultiPolygon, dx: float, dy: float) -> MultiPolygon:
    """What `shape` sweeps while it moves by (dx, dy).

    Going back from a point it reaches, one meets the shape itself or an edge that faces the way it moves: so the shape and
    the bands swept by those edges are all there is. Runs of such edges never turn back across the way, so each sweeps one
    simple band.
    """
    if (dx == 0 and dy == 0) or shape.is_empty:
        return shape
    move = np.array([dx, dy])
    swept = []
    for polygon in shapely.orient_polygons(np.array(shape.geoms, dtype=object)):
        bands = [b for ring in (polygon.exterior, *polygon.interiors) for b in _swept(np.asarray(ring.coords)[:, :2], move)]
        swept.append(overlay.union_all([polygon, *bands]))
    return clean(overlay.union_all(swept))


def _swept(ring: np.ndarray, move: np.ndarray) -> list[Polygon]:  # type: ignore[type-arg]
    """The bands that the edges facing along `move` sweep; the ring has its film to its left."""
    step = np.diff(ring, axis=0)
    front = step[:, 1] * move[0] - step[:, 0] * move[1] > 0
    starts = np.flatnonzero(front & ~np.roll(front, 1))
    if not len(starts):
        return []
    first = int(starts[0])
    front, ring = np.roll(front, -first), np.vstack([np.roll(ring[:-1], -first, axis=0), ring[first]])
    edges = np.flatnonzero(np.diff(np.concatenate([[0], front.astype(np.int8), [0]])))
    runs = [ring[a : b + 1] for a, b in zip(edges[::2], edges[1::2], strict=True)]
    return [Polygon(np.vstack([run, (run + move)[::-1]])) for run in runs]


def copy_shadow(shape: MultiPolygon, dx: float, dy: float, by: float = 0.0) -> MultiPolygon:
    """A copy of `shape` moved by (dx, dy) and made heavier by `by`."""
    moved = shapely.transform(shape, lambda p: p + np.array([dx, dy]))
    return clean(grow(moved, by))


def band(shape: BaseGeometry, inner: float, outer: float, corners: CornerStyle = "round") -> MultiPolygon:
    """The ring between two distances from the shape's edge, positive outside."""
    low, high = min(inner, outer), max(inner, outer)
    return clean(overlay.difference(grow(shape, high, corners), grow(shape, low, corners)))


def stitches(shape: BaseGeometry, distance: float, dash: float, gap: float, width: float, ends: Ends) -> MultiPolygon:
    """Dashes along the offset of `shape` by `distance` (positive outside), each a shape of its own.

    Dash and gap are stretched alike so that a whole number of them closes every course; `dash` is over all, round ends
    included.
    """
    out: list[BaseGeometry] = []
    for polygon in clean(grow(shape, distance)).geoms:
        for ring in (polygon.exterior, *polygon.interiors):
            out += _dashes(ring, dash, gap, width, ends)
    return clean(overlay.union_all(out)) if out else MultiPolygon()


def _dashes(ring: LinearRing, dash: float, gap: float, width: float, ends: Ends) -> list[BaseGeometry]:
    length = ring.length
    count = round(length / (dash + gap))
    if count < 1:
        return []
    pitch = length / count
    drawn = pitch * dash / (dash + gap)
    spare = width / 2 if ends == "round" else 0.0
    core = max(drawn - 2 * spare, 0.01 * drawn)
    line = shapely.LineString(ring.coords)
    doubled = shapely.LineString([*line.coords, *line.coords[1:]])
    lines = [substring(doubled, k * pitch + (drawn - core) / 2, k * pitch + (drawn + core) / 2) for k in range(count)]
    segments = max(8, math.ceil(math.pi / 2 / (2 * math.acos(max(0.0, 1 - 2 * tolerances.FLATTEN_MM / width)))))
    cap = "round" if ends == "round" else "flat"
    return list(shapely.buffer(np.array(lines, dtype=object), width / 2, quad_segs=segments, cap_style=cap))
