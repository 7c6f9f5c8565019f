"""Where straight lines across a shape run through it: the sections that seams and weed lines are chosen by."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.compiled import jit

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


def narrowness(edges: Sequence[Edges], places: FloatArray, narrow_mm: float, most: float) -> FloatArray:
    """For each place how much its line crosses of some shapes, each by its own edges: a section counts one, and more the
    narrower it is, the square of `narrow_mm` against its width, up to `most`."""
    ends = np.concatenate([e.ends for e in edges] or [np.zeros((0, 2, 2))])
    first = np.cumsum([0, *(len(e.ends) for e in edges)])
    return _narrowness(ends, first, np.ascontiguousarray(places, dtype=np.float64), narrow_mm, most)


@jit
def _narrowness(ends: FloatArray, first: Any, places: FloatArray, narrow: float, most: float) -> FloatArray:
    out = np.zeros(len(places))
    met = np.empty(len(ends))
    for p in range(len(places)):
        at = places[p]
        for f in range(len(first) - 1):
            count = 0
            for k in range(first[f], first[f + 1]):
                low, high = ends[k, 0, 0], ends[k, 1, 0]
                if low <= at < high:
                    met[count] = ends[k, 0, 1] + (ends[k, 1, 1] - ends[k, 0, 1]) * (at - low) / (high - low)
                    count += 1
            along = np.sort(met[:count])
            for j in range(0, count - 1, 2):
                wide = max(along[j + 1] - along[j], 1e-6)
                out[p] += 1.0 + min(most, (narrow / wide) ** 2)
    return out
