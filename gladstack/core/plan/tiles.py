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
    """Where seams run: lines x = c and lines y = c, in order, in the design's mm.

    `x_overlaps` and `y_overlaps` tell how far the tile before each seam reaches on under the one after it, where that is
    not as for all: below zero it is a gap, half of it on either side. They are as long as `x` and `y`, or empty.
    """

    x: tuple[float, ...] = ()
    y: tuple[float, ...] = ()
    x_overlaps: tuple[float | None, ...] = ()
    y_overlaps: tuple[float | None, ...] = ()

    def along(self, axis: int) -> tuple[float, ...]:
        """The seams of one axis."""
        return self.y if axis else self.x

    def overlaps(self, axis: int, usual_mm: float) -> tuple[float, ...]:
        """The overlap at each seam of one axis."""
        own = (self.y_overlaps if axis else self.x_overlaps) or (None,) * len(self.along(axis))
        return tuple(usual_mm if o is None else o for o in own)


@dataclass(frozen=True)
class SeamWanted:
    """A seam put by hand: the how-manieth along which axis (0: x), where, and with which overlap; None leaves it."""

    axis: int
    index: int
    at_mm: float | None = None
    overlap_mm: float | None = None


@dataclass(frozen=True)
class Tiling:
    """How to divide: how large a tile may be, how far it reaches under the next, how far a seam may be moved from its even
    place, and the narrowest piece that may be left of a part."""

    most_x_mm: float
    most_y_mm: float
    overlap_mm: float = 0.0
    reach_mm: float = 40.0
    least_mm: float = 3.0


def find_seams(
    films: Sequence[MultiPolygon],
    frame: Box,
    tiling: Tiling,
    below: Sequence[Seams] = (),
    counts: tuple[int, int] | None = None,
) -> Seams:
    """The seams for some films at once, away from the seams of those `below`; so many along x and y, if told.

    Raises TileError, also where so few seams would leave a tile too large.
    """
    found = []
    for axis, most in ((0, tiling.most_x_mm), (1, tiling.most_y_mm)):
        used = [c for seams in below for c in seams.along(axis)]
        count = counts[axis] if counts else None
        found.append(_along(films, axis, frame[axis], frame[axis + 2], most, tiling, used, count))
    return Seams(found[0], found[1])


def put_seams(seams: Seams, wanted: Sequence[SeamWanted], frame: Box, tiling: Tiling) -> Seams:
    """Seams with some put by hand, each at the nearest place to the wanted one where every tile fits.

    Those put before stay where they are, so one cannot be put beyond them; those that nobody put give way. Raises TileError
    where the overlaps leave no room.
    """
    rows, laps = [], []
    for axis, most in ((0, tiling.most_x_mm), (1, tiling.most_y_mm)):
        found = seams.along(axis)
        own = [w for w in wanted if w.axis == axis and w.index < len(found)]
        over: list[float | None] = [None] * len(found)
        for w in own:
            over[w.index] = w.overlap_mm
        reach = [max(0.0, tiling.overlap_mm if o is None else o) for o in over]
        # The last tile reaches under none.
        rooms = [*(most - lap for lap in reach), most]
        places = [(w.index, w.at_mm) for w in own if w.at_mm is not None]
        rows.append(_settled(found, places, frame[axis], frame[axis + 2], rooms, _least_tile(tiling)))
        laps.append(tuple(over) if any(o is not None for o in over) else ())
    return Seams(rows[0], rows[1], laps[0], laps[1])


def _settled(
    found: Sequence[float],
    places: Sequence[tuple[int, float]],
    low: float,
    high: float,
    rooms: Sequence[float],
    least: float,
) -> tuple[float, ...]:
    """Seams of one axis with some at given places, as near as tiles of at most `rooms` and at least `least` allow."""
    n = len(found)
    if sum(rooms) < high - low - 1e-9 or min(rooms) < least:
        raise TileError("The tiles would be larger than the film.", "Take smaller overlaps, or wider film.")
    put: dict[int, float] = {-1: low, n: high}
    for k, at in (*places, *enumerate(found)):
        if k in put:
            continue
        first = max(v + least * (k - p) if p < k else v - sum(rooms[k + 1 : p + 1]) for p, v in put.items())
        last = min(v + sum(rooms[p + 1 : k + 1]) if p < k else v - least * (p - k) for p, v in put.items())
        put[k] = round(min(max(at, first), last), 4)
    return tuple(put[k] for k in range(n))


def _least_tile(tiling: Tiling) -> float:
    """The narrowest tile."""
    return max(2 * tiling.least_mm, 5.0)


def _along(
    films: Sequence[MultiPolygon], axis: int, low: float, high: float, most: float, tiling: Tiling, used: Sequence[float],
    wanted: int | None,
) -> tuple[float, ...]:  # fmt: skip
    whole = high - low
    if whole <= most + 1e-9 and not wanted:
        return ()
    room = most - tiling.overlap_mm
    if room <= _least_tile(tiling):
        raise TileError(
            "There is no room for tiles: the film or the cutter is too small.", "Take wider film, or a larger cutter."
        )
    least = math.ceil((whole - tiling.overlap_mm) / room - 1e-9)
    if least > _MOST_TILES:
        raise TileError(f"This would take {least} tiles in a row.", "Make the design smaller, or take wider film.")
    edges = [edges_of(f, axis) for f in films]
    boxes = np.array([p.bounds for f in films for p in f.geoms]).reshape(-1, 4)[:, [axis, axis + 2]]
    lines = _Lines(films, edges, boxes, axis, tiling, used)
    if wanted is not None and wanted + 1 < least:
        raise TileError("The tiles would be larger than the film.", "Let the seams find their places, or take wider film.")
    # One tile more than needed leaves seams room to run where they cross less.
    rows = [_row(lines, low, high, count, room) for count in ((least, least + 1) if wanted is None else (wanted + 1,))]
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
        # All tiles fit first of all; the last one reaches under none.
        least = max(high - (count - k) * room - tiling.overlap_mm, before + _least_tile(tiling))
        first = min(max(low + k * even - reach, least), before + room)
        last = max(min(low + k * even + reach, before + room), first)
        before, cost = _best(lines, first, last, low + k * even)
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
        apart = tiling.overlap_mm + _least_tile(tiling)
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
    """The boxes of the tiles, row by row; each reaches on over its seams by their overlap, except at the frame's edge, and
    keeps away from a seam that is a gap.
    """
    (xs, ys) = (_spans(frame[axis], frame[axis + 2], seams, axis, overlap_mm) for axis in (0, 1))
    return [(left, top, right, bottom) for top, bottom in ys for left, right in xs]


def _spans(low: float, high: float, seams: Seams, axis: int, overlap_mm: float) -> list[tuple[float, float]]:
    laps = seams.overlaps(axis, overlap_mm)
    starts = [c + max(0.0, -lap) / 2 for c, lap in zip(seams.along(axis), laps, strict=True)]
    ends = [c + (lap if lap > 0 else lap / 2) for c, lap in zip(seams.along(axis), laps, strict=True)]
    return list(zip([low, *starts], [*ends, high], strict=True))


def gaps(frame: Box, seams: Seams, overlap_mm: float) -> list[Box]:
    """The strips that no tile covers."""
    left, top, right, bottom = frame
    out: list[Box] = []
    for axis in (0, 1):
        for c, lap in zip(seams.along(axis), seams.overlaps(axis, overlap_mm), strict=True):
            if lap < 0:
                out.append((left, c + lap / 2, right, c - lap / 2) if axis else (c + lap / 2, top, c - lap / 2, bottom))
    return out


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
