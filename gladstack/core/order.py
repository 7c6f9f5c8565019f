"""Proposals a maker can take or leave: which colour is background, which film lies under which, what films are called."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from shapely import MultiPolygon, Polygon

from gladstack.core.colour import Rgb, colour_name
from gladstack.core.partition import nesting

_BACKGROUND_SHARE = 0.5
"""A colour that makes up more of the picture's border than this is taken for background."""


def border_background(border_labels: npt.NDArray[np.int16]) -> int | None:
    """The label that most of the picture's border has, if it is plainly background."""
    counts = np.bincount(border_labels)
    best = int(np.argmax(counts))
    return best if counts[best] > _BACKGROUND_SHARE * len(border_labels) else None


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


def film_names(colours: Sequence[Rgb]) -> list[str]:
    """A name for every colour, numbered where two would be called the same."""
    return numbered([colour_name(rgb) for rgb in colours])


def numbered(names: Sequence[str], taken: Sequence[str] = ()) -> list[str]:
    """The names with a number where one is taken already."""
    out: list[str] = []
    for name in names:
        unique, k = name, 2
        while unique in out or unique in taken:
            unique, k = f"{name} {k}", k + 1
        out.append(unique)
    return out
