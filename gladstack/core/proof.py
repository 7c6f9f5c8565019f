"""What must hold for a stack, measured on its geometry: the painted result, and how many films lie on one another."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core import tolerances
from gladstack.core.joints import Joint, JointKind, grow


def wrong_area(shape: MultiPolygon, cut: MultiPolygon, above: Sequence[tuple[MultiPolygon, MultiPolygon, Joint]]) -> float:
    """Area in mm2 where a layer fails to show, or shows where it should not; wanted gaps are left out.

    `above` lists the layers above as (wanted shape, cut shape, joint with this layer).
    """
    if cut is shape:
        return 0.0
    rest = shapely.symmetric_difference(shape, cut)
    # What differs is seen only where no upper film hides it; taking these away one by one soon leaves nothing.
    for _, upper, _ in above:
        if rest.is_empty:
            return 0.0
        rest = shapely.difference(rest, upper)
    gaps = [grow(v, joint.mm + 2 * tolerances.FLATTEN_MM) for v, _, joint in above if joint.kind is JointKind.GAP]
    return float(shapely.difference(rest, shapely.union_all(gaps)).area if gaps else rest.area)


def overlap(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """Where two films lie on each other, without the rounding along a common edge."""
    if not shapely.intersects(a, b):
        return MultiPolygon()
    common = shapely.intersection(a, b)
    parts = [p for p in shapely.get_parts(common) if p.area > tolerances.AREA_MM2 and _is_thick(p)]
    return shapely.multipolygons(parts) if parts else MultiPolygon()


def _is_thick(part: BaseGeometry) -> bool:
    """Whether a piece is wider than rounding: its area against its outline."""
    return bool(part.area > 1e-4 * part.length)


def max_thickness(cuts: Sequence[MultiPolygon], pair: Callable[[int, int], BaseGeometry]) -> int:
    """The largest number of films that lie on one another anywhere; `pair(i, j)` gives the overlap of two cuts, i < j."""
    best = 1 if any(not c.is_empty for c in cuts) else 0

    def deepen(common: BaseGeometry, last: int, depth: int) -> None:
        nonlocal best
        for k in range(last + 1, len(cuts)):
            if depth + len(cuts) - k <= best:
                return
            both = pair(last, k)
            deeper = both if depth == 1 or both.is_empty else overlap(common, cuts[k])
            if not deeper.is_empty:
                best = max(best, depth + 1)
                deepen(deeper, k, depth + 1)

    for k, cut in enumerate(cuts):
        deepen(cut, k, 1)
    return best
