"""Where straight lines across a shape run through it: the sections that seams and weed lines are chosen by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

FloatArray = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Edges:
    """All edges of a shape, the lower end along the axis first: (n, 2, 2) with the axis as the first coordinate."""

    ends: FloatArray


def edges_of(shape: BaseGeometry, axis: int) -> Edges:
    """The edges of a shape's rings, seen along an axis: 0 for lines x = c, 1 for lines y = c."""
    rings = [r for p in shapely.get_parts(shape) for r in (p.exterior, *p.interiors)]
    if not rings:
        return Edges(np.zeros((0, 2, 2)))
    points = [np.asarray(r.coords)[:, ::-1] if axis else np.asarray(r.coords) for r in rings]
    pairs = np.concatenate([np.stack([p[:-1], p[1:]], axis=1) for p in points])
    turned = pairs[:, 0, 0] > pairs[:, 1, 0]
    pairs[turned] = pairs[turned][:, ::-1]
    return Edges(pairs[pairs[:, 0, 0] < pairs[:, 1, 0]])


def sections_at(edges: Edges, at: float) -> FloatArray:
    """The sections (n, 2) of the line at `at` that lie in the shape, in order along the line."""
    low, high = edges.ends[:, 0], edges.ends[:, 1]
    # Half-open, so that a corner on the line counts once.
    met = (low[:, 0] <= at) & (at < high[:, 0])
    if not met.any():
        return np.zeros((0, 2))
    a, b = low[met], high[met]
    along = np.sort(a[:, 1] + (b[:, 1] - a[:, 1]) * (at - a[:, 0]) / (b[:, 0] - a[:, 0]))
    return np.asarray(along[: len(along) // 2 * 2].reshape(-1, 2))
