"""See-through paint of a vector file: taken for solid, or for the colour it makes with what lies under it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, to_hex
from gladstack.core.drawing.drawing import Painted

Tints = Literal["solid", "mixed"]

LEAST_SEEN = 0.35
"""Paint that shows less than this is no film of its own."""
_OVER_ONE = 0.9
"""A tint lies over one colour if so much of it does."""
_SAMPLES = 64


def tinted(items: Sequence[Painted], how: Tints) -> tuple[Painted, ...]:
    """Painted shapes with their see-through ones made films, bottom first.

    As "solid", one that hardly shows is left out. As "mixed", one over a single colour takes the colour the two make.
    """
    if how == "solid" or all(item.seen >= 1 for item in items):
        return tuple(item for item in items if item.seen >= LEAST_SEEN)
    tree = shapely.STRtree([item.shape for item in items])
    out: list[Painted | None] = []
    for k, item in enumerate(items):
        under = _under(k, item.shape, tree, out) if item.seen < 1 else None
        if under is not None:
            mix = item.seen * np.array(from_hex(item.colour)) + (1 - item.seen) * np.array(from_hex(under))
            r, g, b = (int(v) for v in np.rint(mix))
            out.append(replace(item, colour=to_hex((r, g, b)), seen=1.0))
        else:
            out.append(item if item.seen >= LEAST_SEEN else None)
    return tuple(item for item in out if item is not None)


def _under(k: int, shape: MultiPolygon, tree: shapely.STRtree, below: Sequence[Painted | None]) -> str | None:
    """The one colour that a shape lies over, if it is one."""
    points = _points_in(shape)
    at, found = tree.query(points, predicate="intersects")
    top = np.full(len(points), -1, np.int64)
    held = np.array([j < k and below[j] is not None for j in found.tolist()], np.bool_)
    np.maximum.at(top, at[held], found[held])
    colours = [item.colour for j in top.tolist() if j >= 0 and (item := below[j]) is not None]
    commonest = max(sorted(set(colours)), key=colours.count, default=None)
    return commonest if commonest is not None and colours.count(commonest) >= _OVER_ONE * len(points) else None


def _points_in(shape: MultiPolygon) -> npt.NDArray[np.object_]:
    """Points spread over a shape, at least one in each of its largest parts."""
    parts = sorted(shape.geoms, key=lambda p: -p.area)[:_SAMPLES]
    inner = list(shapely.point_on_surface(np.array(parts, dtype=object)))
    left, top, right, bottom = shape.bounds
    side = int(np.sqrt(_SAMPLES))
    across, down = (np.arange(side) + 0.5) / side, (np.arange(side) + 0.5) / side
    grid = [shapely.Point(left + u * (right - left), top + v * (bottom - top)) for v in down for u in across]
    shapely.prepare(shape)
    return np.array(inner + [p for p in grid if shape.contains(p)], dtype=object)
