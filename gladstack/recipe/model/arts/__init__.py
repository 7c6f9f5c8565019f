"""Art: what is brought onto the stack, each with its place. A module for each kind; what there are stands in `Art`."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from gladstack.recipe.model.arts.base import NEW, AnyArt, Asset, FontKey, Merge, OneFilmArt, Place, RegionArt
from gladstack.recipe.model.arts.lettering import (
    Axis,
    BendChoice,
    LetterFilm,
    LetterForm,
    LetteringArt,
    LetterTweak,
    LineStyle,
)
from gladstack.recipe.model.arts.line_art import LineArt
from gladstack.recipe.model.arts.picture import (
    Background,
    Corner,
    FourCorners,
    Frame,
    PictureArt,
    RasterArt,
    Separation,
    shares_of,
)
from gladstack.recipe.model.arts.shape import (
    Ellipse,
    Form,
    Heart,
    Rectangle,
    RegularPolygon,
    Ribbon,
    RingShape,
    ShapeArt,
    Star,
)
from gladstack.recipe.model.arts.vector import NEW_GAP_MM, Beyond, VectorArt

Art = Annotated[PictureArt | LetteringArt | ShapeArt | VectorArt | LineArt, Field(discriminator="kind")]
"""One of the kinds of art there are."""

__all__ = [
    "NEW", "NEW_GAP_MM",
    "AnyArt", "Art", "Asset", "Axis", "Background", "BendChoice", "Beyond", "Corner", "Ellipse", "FontKey", "Form",
    "FourCorners", "Frame", "Heart", "LetterFilm", "LetterForm", "LetterTweak", "LetteringArt", "LineArt", "LineStyle",
    "Merge", "OneFilmArt", "PictureArt", "Place", "RasterArt", "Rectangle", "RegionArt", "RegularPolygon",
    "Ribbon", "RingShape", "Separation", "ShapeArt", "Star", "VectorArt", "shares_of",
]  # fmt: skip
