"""What the blade's tip cuts and where its holder must go: passes, overcut, and the swivel blade that trails behind.

A drag blade's tip lies `offset` behind the axis of its holder and follows it like a castor. For the tip to run along a
curve the holder goes ahead of it by the offset, along the tangent; where the curve turns sharply the tip stands in the
corner while the holder swings round it on an arc of that radius. The tip's way is then the curve itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]
Heading = tuple[float, float]

FORWARD: Heading = (1.0, 0.0)
"""How a blade points that was just set: along the film."""
_SWING_DEG = 5.0
"""The largest step of the holder on its arc round a corner."""


@dataclass(frozen=True)
class Stroke:
    """One lowering of the tool: the way of the tip (n, 2) along which contour, and which pass over it that is."""

    contour: int
    turn: int
    points: FloatArray


@dataclass(frozen=True)
class HolderStroke:
    """The way of the holder (m, 2) for one stroke; `tip_mm` is how far the tip has come at each of its points."""

    points: FloatArray
    tip_mm: FloatArray


def strokes_of(contours: Sequence[FloatArray], overcut_mm: float = 0.0, passes: int = 1) -> list[Stroke]:
    """Strokes over contours (polylines (n, 2), closed ones ending where they begin) in their order.

    Each closed one is cut on beyond its beginning by `overcut_mm`, so that its corner comes free; all passes over one
    contour come before the next.
    """
    out = []
    for k, points in enumerate(contours):
        kept = _distinct(points)
        if len(kept) < 2:
            continue
        closed = len(kept) > 3 and bool(np.all(kept[0] == kept[-1]))
        # An overcut that ends in a node, but for rounding, comes to it twice.
        way = _distinct(np.vstack([kept, _beginning(kept, overcut_mm)])) if closed and overcut_mm > 0 else kept
        out += [Stroke(k, turn, way) for turn in range(max(1, passes))]
    return out


def rest_of(stroke: Stroke, from_mm: float) -> Stroke | None:
    """What is left of a stroke from so far along it; None if that is nothing."""
    along = lengths_along(stroke.points)
    if from_mm >= along[-1] - 1e-6:
        return None
    if from_mm <= 0:
        return stroke
    k = int(np.searchsorted(along, from_mm, side="right"))
    t = (from_mm - along[k - 1]) / (along[k] - along[k - 1])
    begin = stroke.points[k - 1] + t * (stroke.points[k] - stroke.points[k - 1])
    return Stroke(stroke.contour, stroke.turn, _distinct(np.vstack([begin, stroke.points[k:]])))


def holder_strokes(strokes: Sequence[Stroke], offset_mm: float, heading: Heading = FORWARD) -> list[HolderStroke]:
    """Where the holder goes for strokes in their order, its blade pointing along `heading` before the first.

    A lifted blade keeps its heading, so each stroke begins by swinging from that of the one before.
    """
    if offset_mm <= 0:
        return [HolderStroke(s.points, lengths_along(s.points)) for s in strokes]
    out = []
    for stroke in strokes:
        made, heading = _held(stroke.points, offset_mm, heading)
        out.append(made)
    return out


def lengths_along(points: FloatArray) -> FloatArray:
    """How far along a polyline each of its points lies (n,)."""
    return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])


def _held(points: FloatArray, offset: float, heading: Heading) -> tuple[HolderStroke, Heading]:
    steps = np.diff(points, axis=0)
    size = np.hypot(*steps.T)
    ways = steps / size[:, None]
    angles = np.arctan2(ways[:, 1], ways[:, 0])
    before = np.concatenate([[math.atan2(heading[1], heading[0])], angles[:-1]])
    turns = (angles - before + math.pi) % (2 * math.pi) - math.pi
    along = lengths_along(points)
    counts = np.maximum(1, np.ceil(np.abs(turns) / math.radians(_SWING_DEG)).astype(np.int64))
    # At each corner the holder swings from where it stands to ahead of the next side; then it runs along that side.
    side = np.repeat(np.arange(len(steps)), counts + 1)
    first = np.cumsum(counts + 1) - (counts + 1)
    nth = np.arange(len(side)) - first[side] + 1
    swing = before[side] + turns[side] * np.minimum(nth, counts[side]) / counts[side]
    ends = nth > counts[side]
    rows = points[side + ends] + offset * np.stack([np.cos(swing), np.sin(swing)], axis=1)
    begin = points[:1] + offset * np.array([[math.cos(before[0]), math.sin(before[0])]])
    tips = np.concatenate([[0.0], along[side + ends]])
    return HolderStroke(np.vstack([begin, rows]), tips), (float(ways[-1, 0]), float(ways[-1, 1]))


def _beginning(points: FloatArray, length: float) -> FloatArray:
    """The way from a polyline's first point on, so long, without that point."""
    along = lengths_along(points)
    reach = min(length, float(along[-1]) / 2)
    k = int(np.searchsorted(along, reach))
    t = (reach - along[k - 1]) / (along[k] - along[k - 1])
    return np.vstack([points[1:k], points[k - 1] + t * (points[k] - points[k - 1])])


def _distinct(points: FloatArray) -> FloatArray:
    keep = np.ones(len(points), np.bool_)
    keep[1:] = np.hypot(*np.diff(points, axis=0).T) > 1e-7
    return points[keep]
