"""Thin places put right just where they are: parts thickened, needles rounded, slits and small holes of waste filled, or
holes made wide enough to come out.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import MultiLineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.plane import Point
from gladstack.core.base.tolerances import TOUCH_MM
from gladstack.core.geometry import overlay
from gladstack.core.geometry.holes import touching, widest
from gladstack.core.geometry.runs import Run, narrow_runs
from gladstack.core.geometry.shapes import clean, grow, meeting

How = Literal["thicken", "round", "fill", "join", "widen"]
_REACH_MM = 0.6
"""A place is meant that is no farther from the point told, even if the edges have moved a little."""
_BEYOND = 1.25
_HAIR_MM, _CRACK_MM = 0.03, 0.06
"""What is gained beyond an edge by no more than a hair is not worth a new edge; narrower cracks are filled."""
_ROUNDS = 5
"""A mend that left something has been looked at again so often at most."""
_BRIDGE_MM = 0.01
_MORE_MM = 2.4 * _HAIR_MM
"""What a bridge is wider than the gap it fills, so that it meets both edges, and more than a hair is gained."""
SURELY_MM = 0.02
"""Places are put right by a little more than the limit, so that they are within it for certain."""


@dataclass(frozen=True)
class Repair:
    """What is done to thin places of a film: all that are narrower than `mm`, or the one at a point.

    Where edges touch in a point there is nothing to thicken: they are joined by a disc.
    """

    how: How
    mm: float
    at: Point | None = None


@dataclass(frozen=True)
class Repaired:
    """What a film gains, and what it loses."""

    gained: MultiPolygon
    lost: MultiPolygon


def repaired(cut: MultiPolygon, repair: Repair) -> MultiPolygon:
    """What is cut of a film once it was put right; what the repairs before it have changed is put right with it."""
    if repair.how == "join":
        return _with(cut, [grow(shapely.Point(spot), repair.mm / 2) for spot in touching(cut) if _is_at(spot, repair)])
    if repair.how == "widen":
        wider = [grow(hole, (repair.mm - widest(hole, repair.mm)) / 2) for hole in _small_holes(cut, repair)]
        return clean(overlay.difference(cut, clean(overlay.union_all(wider)))) if wider else cut
    if repair.how == "thicken":
        return _thickened(cut, repair)
    if repair.how == "fill":
        return _filled(cut, repair)
    tips = [r for r in narrow_runs(cut, repair.mm) if r.tip and _meant(r, repair)]
    lost = overlay.union_all([_beyond_discs(cut, r, repair.mm) for r in tips])
    return clean(overlay.difference(cut, clean(lost)))


def _thickened(cut: MultiPolygon, repair: Repair) -> MultiPolygon:
    """A film thick enough all along what is meant, and where what was laid on leaves new thin places beside it.

    What lacks no more than a hair, or ends in a sharp notch, is given even less than a hair once that is all that is left.
    """
    for n in range(_ROUNDS):
        found = narrow_runs(cut, repair.mm - SURELY_MM)
        runs = [r for r in found if _meant(r, repair) and (not r.tip or (repair.at is not None and n == 0))]
        if not runs:
            break
        # What is still too thin after that meets edges at a slant: a little more is wanted there.
        mm = repair.mm + max(0, n - 1) * _HAIR_MM
        discs = [_discs(r, mm) for r in runs]
        cut = _with(cut, discs) if n == 0 else _without_cracks(overlay.union_all([cut, *discs]))
    return cut


def _filled(cut: MultiPolygon, repair: Repair) -> MultiPolygon:
    """A film without the slits and holes that are meant, and without those that filling leaves of wider waste."""
    runs = [r for r in narrow_runs(cut, repair.mm, inside=False) if _meant(r, repair)]
    filled = _closed_up(cut, runs, _small_holes(cut, repair), repair.mm)
    # One corner that runs out to nothing is filled once.
    rounds = _ROUNDS if repair.at is None or any(not r.tip for r in runs) else 1
    for n in range(1, rounds):
        left = narrow_runs(filled, repair.mm - SURELY_MM, inside=False)
        runs = [r for r in left if _meant(r, repair) and not r.tip]
        if not runs:
            break
        # What is still open is mostly a pinch that was filled to either side of it: discs bridge that.
        filled = _closed_up(_with(filled, [_discs(r, r.mm + n * _MORE_MM) for r in runs]), runs, (), repair.mm)
    return filled


def _closed_up(cut: MultiPolygon, runs: Sequence[Run], holes: Sequence[BaseGeometry], mm: float) -> MultiPolygon:
    filled = _with(cut, [*(_closed(cut, r, mm) for r in runs), *holes])
    # Cracks are narrower than what is worth a new edge, and yet are meant.
    if cracks := [_closed(cut, r, mm) for r in runs if r.mm < _CRACK_MM]:
        filled = _without_cracks(overlay.union_all([filled, *cracks]))
    return _without_remains(cut, filled, mm)


def _without_remains(cut: MultiPolygon, filled: MultiPolygon, mm: float) -> MultiPolygon:
    """Filled besides what filling has left of holes, where that is too small to be weeded."""
    gained = changed_by(cut, filled).gained
    shapely.prepare(gained)
    holes = [hole for part in filled.geoms for hole in map(Polygon, part.interiors)]
    remains = [hole for hole in holes if gained.dwithin(hole, _HAIR_MM) and widest(hole, mm) < mm]
    return _without_cracks(overlay.union_all([filled, *remains])) if remains else filled


def changed_by(before: MultiPolygon, after: MultiPolygon) -> Repaired:
    """What repairs came to on the whole."""
    lost, gained = overlay.both_differences(before, after)
    return Repaired(clean(gained), clean(lost))


def _with(cut: MultiPolygon, gained: Sequence[BaseGeometry]) -> MultiPolygon:
    more = _blended(cut, clean(overlay.union_all(gained)))
    return cut if more.is_empty else _without_cracks(overlay.union(cut, more))


def _without_cracks(shape: BaseGeometry) -> MultiPolygon:
    """A film without holes of no width, which stay where edges that were cut along its own are off it by rounding."""
    out = []
    for part in clean(shape).geoms:
        holes = [ring for ring in part.interiors if Polygon(ring).area > TOUCH_MM * ring.length]
        out.append(part if len(holes) == len(part.interiors) else Polygon(part.exterior, holes))
    return MultiPolygon(out)


def _blended(cut: MultiPolygon, gained: MultiPolygon) -> MultiPolygon:
    """What a film gains, without what only grazes its edges, and with the cracks filled between it and them."""
    real = _wide(overlay.difference(gained, cut))
    if real.is_empty:
        return real
    around = shapely.box(*shapely.bounds(grow(real, 4 * _CRACK_MM)))
    near = overlay.intersection(meeting(cut, real, 4 * _CRACK_MM), around)
    joined = overlay.union(near, real)
    closed = grow(grow(joined, _CRACK_MM), -_CRACK_MM)
    cracks = overlay.intersection(overlay.difference(closed, joined), grow(real, 2 * _CRACK_MM))
    return clean(overlay.union_all([real, *clean(cracks).geoms]))


def _wide(shape: BaseGeometry) -> MultiPolygon:
    """The pieces of a shape that are wider than a hair somewhere."""
    pieces = clean(shape).geoms
    return MultiPolygon([p for p in pieces if not shapely.buffer(p, -_HAIR_MM / 2).is_empty])


def _meant(run: Run, repair: Repair) -> bool:
    return repair.at is None or float(_line(run).distance(shapely.Point(repair.at))) <= max(_REACH_MM, repair.mm)


def _is_at(spot: Point, repair: Repair) -> bool:
    return repair.at is None or math.dist(spot, repair.at) <= max(_REACH_MM, repair.mm)


def _line(run: Run) -> BaseGeometry:
    """The middle of a run."""
    return MultiLineString([line if len(line) > 1 else np.repeat(line, 2, axis=0) for line in run.lines])


def _discs(run: Run, mm: float) -> BaseGeometry:
    """Discs as wide as is wanted, all along a run: where it ends they touch both edges, so that they blend into them."""
    return grow(_line(run), mm / 2)


def _near(cut: MultiPolygon, run: Run, mm: float) -> BaseGeometry:
    """As much of a film as matters for a run."""
    return overlay.intersection(meeting(cut, _line(run), mm), shapely.box(*shapely.bounds(grow(_line(run), 3 * mm))))


def _beyond_discs(cut: MultiPolygon, run: Run, mm: float) -> BaseGeometry:
    """What of a needle no disc reaches that is as wide as is wanted: without it the needle ends round."""
    near = _near(cut, run, mm)
    kept = grow(grow(near, -mm / 2), mm / 2)
    gone = overlay.intersection(overlay.difference(near, kept), grow(_line(run), _BEYOND * mm))
    return MultiPolygon([p for p in clean(gone).geoms if p.dwithin(_line(run), mm / 4)])


def _closed(cut: MultiPolygon, run: Run, mm: float) -> BaseGeometry:
    """What is missing where no disc as wide as is wanted finds room between edges."""
    near = _near(cut, run, mm)
    # Between round edges that soon part again, what is closed would not meet in the middle without a bridge.
    bridged = near if run.tip else overlay.union(near, grow(shapely.Point(run.at), run.mm / 2 + _BRIDGE_MM))
    filled = grow(grow(bridged, mm / 2), -mm / 2)
    return overlay.intersection(overlay.difference(filled, near), grow(_line(run), _BEYOND * mm))


def _small_holes(cut: MultiPolygon, repair: Repair) -> list[BaseGeometry]:
    holes = [Polygon(ring) for part in cut.geoms for ring in part.interiors]
    at = None if repair.at is None else shapely.Point(repair.at)
    return [h for h in holes if (at is None or h.dwithin(at, _REACH_MM)) and widest(h, repair.mm) < repair.mm]
