"""Plain shapes as art."""

from __future__ import annotations

from dataclasses import dataclass
from typing import assert_never

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.geometry import figures
from gladstack.core.geometry.curves import Chain, Curve, curves_of, on_grid, transform_chain
from gladstack.core.geometry.rings import fill, nest_rings, polygons_of
from gladstack.recipe.art.given import ArtPieces
from gladstack.recipe.art.words import mended_pieces
from gladstack.recipe.model.arts import (
    Ellipse,
    Form,
    Heart,
    Place,
    Rectangle,
    RegularPolygon,
    Ribbon,
    RingShape,
    ShapeArt,
    Star,
)
from gladstack.stages.engine import Stages, part


@dataclass(frozen=True)
class DrawnForm:
    """A plain shape where it lies, and its curves."""

    shape: MultiPolygon
    curves: tuple[Curve, ...]


def shape_pieces(art: ShapeArt, stages: Stages) -> ArtPieces:
    """The pieces of a plain shape."""
    drawn = stages.run("art", draw_form, art.form, art.place)
    own = np.concatenate([c.pieces.reshape(-1, 2) for c in form_chains(art.form)])
    width = float(own[:, 0].max() - own[:, 0].min())
    done = mended_pieces(art, {art.film: part(drawn, "shape", lambda d: d.shape)}, width, stages)
    return ArtPieces(
        art.id,
        done.pieces,
        part(drawn, "curves", lambda d: d.curves),
        drawn.value.shape.bounds,
        own_width_mm=width,
        idle=done.idle,
    )


def draw_form(form: Form, place: Place) -> DrawnForm:
    """A plain shape where it lies."""
    chains = [on_grid(transform_chain(c, place.matrix)) for c in form_chains(form)]
    curves = curves_of(chains, tolerances.FLATTEN_MM)
    nesting = nest_rings([c.points for c in curves])
    shape = MultiPolygon(polygons_of(curves, nesting) if nesting is not None else fill(curves))
    return DrawnForm(shape, tuple(curves))


def form_chains(form: Form) -> tuple[Chain, ...]:
    """The closed curves of a plain shape about its own middle."""
    match form:
        case Rectangle():
            return figures.rectangle(form.width_mm, form.height_mm, form.radius_mm)
        case Ellipse():
            return figures.ellipse(form.width_mm, form.height_mm)
        case RegularPolygon():
            return figures.polygon(form.sides, form.across_mm)
        case Star():
            return figures.star(form.points, form.across_mm, form.inner)
        case Heart():
            return figures.heart(form.width_mm, form.height_mm)
        case RingShape():
            return figures.ring(form.across_mm, form.band_mm)
        case Ribbon():
            return figures.ribbon(form.width_mm, form.height_mm, form.fold_mm)
    assert_never(form)
