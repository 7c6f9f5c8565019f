"""What has changed between two shapes of one film."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry import overlay

_APART_MM = 0.002
"""Edges nearer than this are one: films are rounded by less."""
_STEP_MM = 0.5
"""How far apart edges are asked how far they lie from the other shape."""


@dataclass(frozen=True)
class Change:
    """What a shape has lost and what has come to it, and how far the farthest of it lies from the other shape, in mm.

    `apart_mm` is None where there was nothing before, or is nothing now: then there is no edge to measure from.
    """

    gone: MultiPolygon
    come: MultiPolygon
    apart_mm: float | None

    @property
    def is_none(self) -> bool:
        """Whether nothing has changed."""
        return bool(self.gone.is_empty and self.come.is_empty)


NO_CHANGE = Change(MultiPolygon(), MultiPolygon(), 0.0)


def compared(before: MultiPolygon, now: MultiPolygon) -> Change:
    """What of `before` is gone and what of `now` has come; edges that differ by rounding alone are the same."""
    if before is now:
        return NO_CHANGE
    lost, found = overlay.both_differences(before, now)
    gone, far_gone = _beyond(lost, now)
    come, far_come = _beyond(found, before)
    if before.is_empty or now.is_empty:
        return Change(gone, come, None)
    return Change(gone, come, max(far_gone, far_come))


def _beyond(parts: BaseGeometry, other: MultiPolygon) -> tuple[MultiPolygon, float]:
    """The parts that reach away from another shape by more than rounding, and how far the farthest does."""
    pieces = [p for p in shapely.get_parts(shapely.get_parts(parts)) if p.geom_type == "Polygon" and not p.is_empty]
    if other.is_empty or not pieces:
        return MultiPolygon(pieces), 0.0
    points, owners = shapely.get_coordinates(shapely.segmentize(pieces, _STEP_MM), return_index=True)
    shapely.prepare(other)
    far = np.zeros(len(pieces))
    np.maximum.at(far, owners, shapely.distance(shapely.points(points), other))
    left = [p for p, mm in zip(pieces, far, strict=True) if mm > _APART_MM]
    return MultiPolygon(left), float(far.max()) if left else 0.0
