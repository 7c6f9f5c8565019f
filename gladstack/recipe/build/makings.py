"""Makings applied: shadows, bands and stitch lines made of the shapes of other films."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import assert_never

from shapely import MultiPolygon, Point, Polygon

from gladstack.core.films import shadows
from gladstack.core.films.compose import laid_together
from gladstack.core.geometry.shapes import clean, grow
from gladstack.recipe.model.makings import Band, DropShadow, Making, OutlineShadow, StitchLine


def holes_of(making: OutlineShadow, sources: Sequence[MultiPolygon]) -> tuple[tuple[Polygon, bool], ...]:
    """The holes of an outline shadow before any is filled, each with whether it was chosen to be."""
    grown = clean(grow(laid_together(sources), making.mm, making.corners))
    spots = [Point(s.x_mm, s.y_mm) for s in making.chosen]
    holes = [Polygon(ring) for p in grown.geoms for ring in p.interiors]
    return tuple((hole, any(hole.intersects(s) for s in spots)) for hole in holes)


def make_shape(making: Making, sources: Sequence[MultiPolygon]) -> MultiPolygon:
    """A making's shape from those of its sources, which may overlap."""
    source = laid_together(sources)
    match making:
        case OutlineShadow():
            grown = grow(source, making.mm, making.corners)
            if making.holes == "fill":
                return shadows.fill_holes(grown)
            if making.holes == "fill-small":
                return shadows.fill_holes(grown, making.small_mm2)
            if making.holes == "fill-chosen" and making.chosen:
                return shadows.fill_holes(grown, at=[(s.x_mm, s.y_mm) for s in making.chosen])
            return clean(grown)
        case DropShadow():
            angle = math.radians(making.angle_deg)
            dx, dy = making.length_mm * math.cos(angle), making.length_mm * math.sin(angle)
            if making.style == "copy":
                return shadows.copy_shadow(source, dx, dy, making.grow_mm)
            return shadows.thicken(shadows.block_shadow(source, dx, dy), making.grow_mm)
        case StitchLine():
            return shadows.stitches(source, making.mm, making.dash_mm, making.gap_mm, making.width_mm, making.ends)
        case Band():
            return shadows.band(source, making.inner_mm, making.outer_mm, making.corners)
    assert_never(making)
