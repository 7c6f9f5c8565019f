"""Tiles: what is larger than the film or the cutter, divided by straight seams and put together again on the ground.

A seam runs where it crosses the fewest and the widest parts, leaves no part narrower than a limit, and no crumb. Where tiles
overlap, the one before a seam reaches on under the one after it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, box

from gladstack.core.base.errors import GladStackError
from gladstack.core.base.plane import Box
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean
from gladstack.core.plan.sections import Edges, edges_of, narrowness

FloatArray = npt.NDArray[np.float64]

_STEP_MM = 0.5
_MOST_STEPS = 240
_LOOKED_AT = 8
_BEYOND_MM = 1e5
_MOST_TILES = 400
_A_SEAM_MORE = 6.0
"""What a seam costs by itself, in parts crossed."""


class TileError(GladStackError):
    """Something cannot be divided into tiles as wanted."""

    code = "tiles"


@dataclass(frozen=True)
class Seams:
    """Where seams run: lines x = c and lines y = c, in order, in the design's mm."""

    x: tuple[float, ...] = ()
    y: tuple[float, ...] = ()


@dataclass(frozen=True)
class Tiling:
    """How to divide: how large a tile may be, how far it reaches under the next, how far a seam may be moved from its even
    place, and the narrowest piece that may be left of a part."""

    most_x_mm: float
    most_y_mm: float
    overlap_mm: float = 0.0
    reach_mm: float = 40.0
    least_mm: float = 3.0


def find_seams(films: Sequence[MultiPolygon], frame: Box, tiling: Tiling, below: Sequence[Seams] = ()) -> Seams:
    """The seams for some films at once, away from the seams of those `below`. Raises TileError."""
    found = []
    for axis, most in ((0, tiling.most_x_mm), (1, tiling.most_y_mm)):
        used = [c for seams in below for c in (seams.y if axis else seams.x)]
        found.append(_along(films, axis, frame[axis], frame[axis + 2], most, tiling, used))
    return Seams(found[0], found[1])


def _along(
    films: Sequence[MultiPolygon], axis: int, low: float, high: float, most: float, tiling: Tiling, used: Sequence[float]
) -> tuple[float, ...]:
    whole = high - low
    if whole <= most + 1e-9:
        return ()
    room = most - tiling.overlap_mm
    if room <= max(2 * tiling.least_mm, 5.0):
        raise TileError(
            "There is no room for tiles: the film or the cutter is too small.", "Take wider film, or a larger cutter."
        )
    least = math.ceil((whole - tiling.overlap_mm) / room - 1e-9)
    if least > _MOST_TILES:
        raise TileError(f"This would take {least} tiles in a row.", "Make the design smaller, or take wider film.")
    edges = [edges_of(f, axis) for f in films]
    boxes = np.array([p.bounds for f in films for p in f.geoms]).reshape(-1, 4)[:, [axis, axis + 2]]
    lines = _Lines(films, edges, boxes, axis, tiling, used)
    # One tile more than needed leaves seams room to run where they cross less.
    rows = [_row(lines, low, high, count, room) for count in (least, least + 1)]
    return min(rows, key=lambda row: row[1] + _A_SEAM_MORE * len(row[0]))[0]


@dataclass(frozen=True)
class _Lines:
    """All that places for seams along one axis are judged by."""

    films: Sequence[MultiPolygon]
    edges: Sequence[Edges]
    boxes: FloatArray
    axis: int
    tiling: Tiling
    used: Sequence[float]


def _row(lines: _Lines, low: float, high: float, count: int, room: float) -> tuple[tuple[float, ...], float]:
    """The seams between so many tiles, and what they cost."""
    tiling, even = lines.tiling, (high - low) / count
    reach = max(tiling.reach_mm, 0.0)
    seams: list[float] = []
    total, before = 0.0, low
    for k in range(1, count):
        first = max(low + k * even - reach, high - (count - k) * room, before + max(2 * tiling.least_mm, 5.0))
        last = min(low + k * even + reach, before + room)
        before, cost = _best(lines, first, max(first, last), low + k * even)
        seams.append(before)
        total += cost
    return tuple(seams), total


def _best(lines: _Lines, first: float, last: float, even: float) -> tuple[float, float]:
    """The place between two for a seam, and its cost: the cheapest that leaves no crumb, else the one that leaves fewest."""
    tiling = lines.tiling
    steps = int(min(_MOST_STEPS, max(1, math.floor((last - first) / _STEP_MM)))) + 1
    places = np.round(np.linspace(first, last, steps), 2)
    costs = _costs(lines, places) + np.abs(places - even) / max(1.0, last - first)
    if len(lines.used):
        apart = tiling.overlap_mm + max(5.0, 2 * tiling.least_mm)
        nearest = np.abs(places[:, None] - np.array(lines.used)[None, :]).min(axis=1)
        costs += np.where(nearest < apart, 1e4 * (1 - nearest / apart), 0.0)
    order = np.argsort(costs, kind="stable")[:_LOOKED_AT]
    crumbs = []
    for k in order:
        crumbs.append(crumbs_at(lines.films, lines.axis, float(places[k]), tiling.least_mm))
        if not crumbs[-1]:
            return float(places[k]), float(costs[k])
    k = order[int(np.argmin(crumbs))]
    return float(places[k]), float(costs[k]) + 50.0 * min(crumbs)


def _costs(lines: _Lines, places: FloatArray) -> FloatArray:
    """What seams cost: each part crossed, more the narrower it is there, most where one leaves a narrow piece."""
    least = lines.tiling.least_mm
    crossed = narrowness(lines.edges, places, 2 * least, 50.0)
    near = np.minimum(places[:, None] - lines.boxes[:, 0], lines.boxes[:, 1] - places[:, None])
    return np.asarray(crossed + 200.0 * ((near > 1e-9) & (near < least)).sum(axis=1))


def crumbs_at(films: Sequence[MultiPolygon], axis: int, c: float, least_mm: float) -> int:
    """How many pieces narrower than `least_mm` a seam at c would leave on either side of it."""
    count = 0
    for film in films:
        parts = shapely.get_parts(film)
        bounds = shapely.bounds(parts)
        met = parts[(bounds[:, axis] < c) & (bounds[:, axis + 2] > c)]
        if not len(met):
            continue
        left, top, right, bottom = shapely.total_bounds(met)
        for low, high in ((c - 2 * least_mm, c), (c, c + 2 * least_mm)):
            strip = (left, low, right, high) if axis else (low, top, high, bottom)
            ends = shapely.bounds(shapely.get_parts(shapely.clip_by_rect(met, *strip)))
            near, far = ends[:, axis], ends[:, axis + 2]
            at_seam = np.abs((far if high == c else near) - c) < 1e-6
            count += int(np.count_nonzero(at_seam & (far - near < least_mm)))
    return count


def tile_boxes(frame: Box, seams: Seams, overlap_mm: float) -> list[Box]:
    """The boxes of the tiles, row by row; each reaches on over its seams by the overlap, except at the frame's edge."""
    left, top, right, bottom = frame
    xs, ys = (left, *seams.x, right), (top, *seams.y, bottom)
    return [
        (
            xs[i],
            ys[j],
            xs[i + 1] + (overlap_mm if i < len(xs) - 2 else 0.0),
            ys[j + 1] + (overlap_mm if j < len(ys) - 2 else 0.0),
        )
        for j in range(len(ys) - 1)
        for i in range(len(xs) - 1)
    ]


def tile_of(shape: MultiPolygon, tile: Box, frame: Box) -> MultiPolygon:
    """What of a shape lies on a tile; at the frame's edge all that reaches beyond it too."""
    # Where a tile ends with the frame, nothing is cut off, not even by rounding.
    sides = [
        t if abs(t - f) > 1e-9 else f + (_BEYOND_MM if k > 1 else -_BEYOND_MM)
        for k, (t, f) in enumerate(zip(tile, frame, strict=True))
    ]
    area = box(*sides)
    inside, met = shapely.contains_properly(area, shape.geoms), shapely.intersects(area, shape.geoms)
    whole = [p for p, inner in zip(shape.geoms, inside, strict=True) if inner]
    cut = [p for p, inner, meets in zip(shape.geoms, inside, met, strict=True) if meets and not inner]
    parts = clean(overlay.intersection(MultiPolygon(cut), area)).geoms if cut else []
    return MultiPolygon([*whole, *parts])


def given_back(shape: MultiPolygon, tiles: Sequence[MultiPolygon]) -> float:
    """How far tiles put together are from the shape, in mm2."""
    whole = overlay.union_all(list(tiles))
    missing, extra = overlay.both_differences(shape, whole)
    return float(missing.area + extra.area)
