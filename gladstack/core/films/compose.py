"""A film's own shape, from the pieces that art and makings give it."""

from __future__ import annotations

from collections.abc import Sequence

from shapely import MultiPolygon

from gladstack.core.films import shadows
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
    parts: Sequence[MultiPolygon], thicken_mm: float, openings: Sequence[tuple[MultiPolygon, float]]
) -> MultiPolygon:
    """A film's shape: its parts welded, made heavier or lighter, with openings (each grown by a margin) cut out."""
    shape = laid_together(parts)
    if thicken_mm:
        shape = shadows.thicken(shape, thicken_mm)
    if openings:
        holes = [grow(opening, margin) for opening, margin in openings]
        shape = clean(overlay.difference(shape, overlay.union_all(holes)))
    return shape
