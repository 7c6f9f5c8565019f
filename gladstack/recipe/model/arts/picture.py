"""Pictures, parted into the films of their colours."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from gladstack.core.picture.palette import MAX_COLOURS
from gladstack.core.picture.rims import Rims
from gladstack.core.picture.tidy import Kind
from gladstack.recipe.model.arts.base import Asset, Merge, RegionArt
from gladstack.recipe.model.values import Colour, DetailMm, Frozen, Hash, WidthMm, changed

Background = Literal["auto", "drop", "outside", "keep"]
"""What becomes of a picture's background: dropped everywhere, or outside only, or kept. `auto` drops it outside, and inside
as well where the ground has its colour.
"""


class Separation(Frozen):
    """How a picture is parted into colours.

    `count` includes the background (None: as proposed); `picked` are colours taken from the picture by the maker. With
    `rest` they are the whole palette: what has another colour goes to the nearest of them, or is left out. `held` are
    colours that are not given up when fewer are asked for. What is put right in a picture before (a soft shadow taken off,
    dither undone) stays as it came where `as_is` names it; graded fills come out in so many `bands`; of thin
    `rims` between colours those that are broken are given to their neighbours, or all.
    """

    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None = None
    picked: Annotated[tuple[Colour, ...], Field(max_length=MAX_COLOURS)] = ()
    rest: Literal["found", "nearest", "out"] = "found"
    held: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    merges: Annotated[tuple[Merge, ...], Field(max_length=64)] = ()
    dropped: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    background: Background = "auto"
    detail_mm: DetailMm = 0.02
    smoothing_mm: DetailMm = 0.0
    speck_mm: DetailMm = 0.4
    as_is: Annotated[tuple[Kind, ...], Field(max_length=8)] = ()
    bands: Annotated[int, Field(ge=1, le=8)] = 1
    rims: Rims = "broken"


class Corner(Frozen):
    """A place on a picture, as shares of its width and height."""

    x: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    y: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


FourCorners = Annotated[tuple[Corner, ...], Field(min_length=4, max_length=4)]
"""The corners of what a photograph shows: top left, top right, bottom right, bottom left."""


def shares_of(corners: tuple[Corner, ...]) -> tuple[tuple[float, float], ...]:
    """Corners as plain pairs of shares."""
    return tuple((corner.x, corner.y) for corner in corners)


class Frame(Frozen):
    """The part of a picture that is taken: where its sides lie, all of them in shares of the picture's width."""

    left: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    top: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
    right: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    bottom: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]

    @model_validator(mode="after")
    def _holds_something(self) -> Frame:
        if min(self.right - self.left, self.bottom - self.top) < _LEAST_FRAME:
            raise ValueError("a frame has some width and height")
        return self

    @property
    def width(self) -> float:
        """Its width, in shares of the picture's."""
        return self.right - self.left


_LEAST_FRAME = 0.01


class RasterArt(RegionArt):
    """Art that comes from a picture: its content hash, and how wide it is.

    A photograph taken aslant is put straight by its `corners`; of what there is then, only what lies within its `frame` is
    taken, and `width_mm` is the width of that.
    """

    picture: Hash
    corners: FourCorners | None = None
    frame: Frame | None = None
    width_mm: WidthMm

    @property
    def assets(self) -> tuple[Asset, ...]:
        """Its picture."""
        return (("picture", self.picture),)

    def from_source(self, digest: str, filename: str) -> Self:
        """Another picture is taken as it comes, corners and all."""
        return changed(self, picture=digest, filename=filename, corners=None, frame=None)


class PictureArt(RasterArt):
    """A picture brought in, and how it is separated. Each of its colours is a film."""

    kind: Literal["picture"] = "picture"
    separation: Separation = Separation()

    @property
    def title(self) -> str:
        """Its file's name."""
        return self.filename or "picture"
