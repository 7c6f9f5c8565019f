"""Pieces and holes that no cutter resolves: what rounding leaves between edges, and what is drawn finer than any blade."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.base.plane import Box
from gladstack.core.geometry.shapes import clean


@dataclass(frozen=True)
class Resolved:
    """A shape to be cut without its needles; the boxes of those that were left out, the largest first."""

    shape: MultiPolygon
    dropped: tuple[Box, ...]


def without_needles(shape: MultiPolygon) -> Resolved:
    """The shape without pieces and holes below what a cutter resolves; the very same if it has none.

    A ring is a needle if it covers less than one step of a cutter square, or is on average thinner than rounding may be.
    """
    if shape.is_empty:
        return Resolved(shape, ())
    polygons = np.array(shape.geoms, dtype=object)
    rings, owner = shapely.get_rings(polygons, return_index=True)
    needles = _are_needles(rings)
    if not needles.any():
        return Resolved(shape, ())
    kept = []
    for k, polygon in enumerate(polygons):
        # A polygon's first ring is its outer one.
        own = needles[owner == k]
        if own[0]:
            continue
        holes = [r for r, is_needle in zip(polygon.interiors, own[1:], strict=True) if not is_needle]
        kept.append(Polygon(polygon.exterior, holes) if own.any() else polygon)
    gone = rings[needles]
    order = np.argsort(-shapely.area(shapely.polygons(gone)), kind="stable")
    boxes = shapely.bounds(gone[order]).tolist()
    return Resolved(clean(MultiPolygon(kept)), tuple((left, top, right, bottom) for left, top, right, bottom in boxes))


def _are_needles(rings: npt.NDArray[np.object_]) -> npt.NDArray[np.bool_]:
    areas, lengths = shapely.area(shapely.polygons(rings)), shapely.length(rings)
    step = tolerances.RESOLVED_MM
    return np.asarray((areas < step * step) | (areas < tolerances.TOUCH_MM * lengths))
