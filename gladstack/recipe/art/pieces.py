"""What each kind of art comes to: the one place that knows which kinds there are."""

from __future__ import annotations

from typing import assert_never

from gladstack.core.films.regions import Regions
from gladstack.recipe.art.claimed import region_pieces, regions_in
from gladstack.recipe.art.given import ArtPieces, Assets
from gladstack.recipe.art.lines import line_origin
from gladstack.recipe.art.origin import Origin
from gladstack.recipe.art.pictures import picture_origin
from gladstack.recipe.art.shapes import shape_pieces
from gladstack.recipe.art.vectors import vector_origin
from gladstack.recipe.art.words import word_pieces
from gladstack.recipe.model.arts import AnyArt, Art, LetteringArt, LineArt, PictureArt, ShapeArt, VectorArt
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Keyed


def pieces_of(art: Art, assets: Assets, stages: Stages, ground: str | None = None) -> ArtPieces:
    """What one art comes to, on a ground of some colour (None: not known). Raises GladStackError."""
    match art:
        case LetteringArt():
            return word_pieces(art, assets, stages)
        case ShapeArt():
            return shape_pieces(art, stages)
        case PictureArt() | LineArt() | VectorArt():
            return region_pieces(art, origin_of(art, assets, stages, ground), stages)
        case _:
            assert_never(art)


def origin_of(art: PictureArt | LineArt | VectorArt, assets: Assets, stages: Stages, ground: str | None = None) -> Origin:
    """An art as its source has it; what takes long is the value of its `source`."""
    match art:
        case PictureArt():
            return picture_origin(art, assets, stages, ground)
        case LineArt():
            return line_origin(art, assets, stages)
        case VectorArt():
            return vector_origin(art, assets, stages)
        case _:
            assert_never(art)


def regions_of_art(art: AnyArt, assets: Assets, stages: Stages) -> Keyed[Regions] | None:
    """The regions of an art, in its own mm; None if it does not come as regions. Raises GladStackError."""
    if not isinstance(art, PictureArt | LineArt | VectorArt):
        return None
    return regions_in(art, origin_of(art, assets, stages), stages)[0]


def costly_stages(recipe: Recipe, assets: Assets, stages: Stages) -> None:
    """Works out what takes long, and nothing else: pictures separated, lines traced, files read. Raises GladStackError."""
    for art in recipe.arts:
        if isinstance(art, PictureArt | LineArt | VectorArt):
            _ = origin_of(art, assets, stages).source.value
