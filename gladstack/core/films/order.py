"""Which film lies under which, as a proposal the maker can take or leave."""

from __future__ import annotations

from collections.abc import Sequence

from shapely import MultiPolygon, Polygon

from gladstack.core.geometry.partition import nesting


def filled_area(shape: MultiPolygon) -> float:
    """Area in mm2 of a shape with all its holes filled, pieces within holes not counted twice."""
    if not any(len(p.interiors) for p in shape.geoms):
        return float(shape.area)
    depth, _ = nesting(list(shape.geoms))
    return float(sum(Polygon(p.exterior).area for p, d in zip(shape.geoms, depth, strict=True) if d == 0))


def propose_order(shapes: Sequence[MultiPolygon]) -> list[int]:
    """Indices from the ground up: large and enclosing ones low, small and enclosed ones high.

    What encloses another has the larger filled outline, so ordering by it puts every encloser below what it encloses.
    """
    return sorted(range(len(shapes)), key=lambda k: (-filled_area(shapes[k]), -shapes[k].area, k))
