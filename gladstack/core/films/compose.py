"""A film's own shape, from the pieces that art and makings give it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.plane import Point
from gladstack.core.films import bits, shadows
from gladstack.core.geometry import overlay
from gladstack.core.geometry.rings import as_multi
from gladstack.core.geometry.shapes import clean, cut_away, grow


def kept_of(shape: MultiPolygon, within: MultiPolygon | None, without: Sequence[MultiPolygon]) -> MultiPolygon:
    """What of a shape lies inside one and outside others."""
    return cut_away(shape if within is None else clean(overlay.intersection(shape, within)), without)


def joined(shapes: Sequence[MultiPolygon]) -> MultiPolygon:
    """Shapes as one."""
    held = [s for s in shapes if not s.is_empty]
    return clean(overlay.union_all(held)) if held else MultiPolygon()


def laid_together(shapes: Sequence[MultiPolygon]) -> MultiPolygon:
    """Shapes welded where they meet; pieces that lie apart stay as they are."""
    return as_multi([p for s in shapes for p in s.geoms])


def film_shape(
    parts: Sequence[MultiPolygon],
    thicken_mm: float,
    keep_size: bool,
    close_mm: float,
    gaps: Sequence[tuple[Point, Point]],
    openings: Sequence[tuple[MultiPolygon, float]],
) -> MultiPolygon:
    """A film's shape: its parts welded, made heavier or lighter, its gaps closed, and openings (each grown by a margin) cut
    out. With `keep_size` it stays as wide and high as it was.
    """
    shape = laid_together(parts)
    if thicken_mm:
        thick = shadows.thicken(shape, thicken_mm)
        shape = _as_large_as(thick, shape) if keep_size else thick
    if close_mm > 0 or gaps:
        shape = bits.closed(shape, close_mm, gaps)
    if openings:
        holes = [grow(opening, margin) for opening, margin in openings]
        shape = clean(overlay.difference(shape, overlay.union_all(holes)))
    return shape


def _as_large_as(shape: MultiPolygon, before: MultiPolygon) -> MultiPolygon:
    """A shape stretched into the box of another."""
    if shape.is_empty or before.is_empty:
        return shape
    now, then = np.array(shape.bounds), np.array(before.bounds)
    factor = (then[2:] - then[:2]) / np.maximum(now[2:] - now[:2], 1e-9)
    return clean(shapely.transform(shape, lambda p: then[:2] + (p - now[:2]) * factor))
