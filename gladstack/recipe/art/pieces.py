"""From art to pieces: the shapes that each art gives to films or takes out of them, with the curves they came from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import assert_never

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.films.regions import Regions
from gladstack.core.geometry import figures
from gladstack.core.geometry.curves import Chain, Curve, curves_of, on_grid, transform_chain
from gladstack.core.geometry.rings import fill, nest_rings, polygons_of
from gladstack.recipe.art.claimed import region_pieces, regions_in
from gladstack.recipe.art.given import ArtPieces, Assets
from gladstack.recipe.art.origins import origin_of
from gladstack.recipe.art.words import mended_pieces, word_pieces
from gladstack.recipe.model.arts import (
    AnyArt,
    Art,
    Ellipse,
    Form,
    Heart,
    LetteringArt,
    Place,
    Rectangle,
    RegionArt,
    RegularPolygon,
    Ribbon,
    RingShape,
    ShapeArt,
    Star,
)
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages, part
from gladstack.stages.memo import Keyed


@dataclass(frozen=True)
class DrawnForm:
    """A plain shape where it lies, and its curves."""

    shape: MultiPolygon
    curves: tuple[Curve, ...]


def pieces_of(art: Art, assets: Assets, stages: Stages, ground: str | None = None) -> ArtPieces:
    """What one art comes to, on a ground of some colour (None: not known). Raises GladStackError."""
    if isinstance(art, RegionArt):
        return region_pieces(art, origin_of(art, assets, stages, ground), stages)
    if isinstance(art, LetteringArt):
        return word_pieces(art, assets, stages)
    return _shape_pieces(art, stages)


def regions_of_art(art: AnyArt, assets: Assets, stages: Stages) -> Keyed[Regions] | None:
    """The regions of an art, in its own mm; None if it does not come as regions. Raises GladStackError."""
    if not isinstance(art, RegionArt):
        return None
    return regions_in(art, origin_of(art, assets, stages), stages)[0]


def costly_stages(recipe: Recipe, assets: Assets, stages: Stages) -> None:
    """Works out what takes long, and nothing else: pictures separated, lines traced, files read. Raises GladStackError."""
    for art in recipe.arts:
        if isinstance(art, RegionArt):
            _ = origin_of(art, assets, stages).source.value


def _shape_pieces(art: ShapeArt, stages: Stages) -> ArtPieces:
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
