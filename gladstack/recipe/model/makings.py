"""Makings: shapes that follow from others. Each goes to a film, and changes with what it is made of."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from gladstack.recipe.model.arts import NEW
from gladstack.recipe.model.values import AreaMm2, Degrees, FilmKey, Frozen, Id, OffsetMm, PlaceMm, StitchMm

Corners = Literal["round", "mitre", "bevel"]


class MadeOf(Frozen):
    """What every making has: the film it belongs to, and the films or arts it is made `of` (none: the whole decal).

    Each kind says what it is `called`, and whether it `casts` a shadow: it then lies under what it is made of, and is
    solid below it; what does not lies over it.
    """

    called: ClassVar[str]
    casts: ClassVar[bool]
    id: Id = NEW
    film: FilmKey
    of: Annotated[tuple[FilmKey, ...], Field(max_length=64)] = ()


class HoleSpot(Frozen):
    """A point on the stack."""

    x_mm: PlaceMm
    y_mm: PlaceMm


class OutlineShadow(MadeOf):
    """Its sources grown by `mm`. Holes are kept, filled, filled below an area, or filled round chosen points."""

    called: ClassVar[str] = "outline shadow"
    casts: ClassVar[bool] = True
    kind: Literal["outline-shadow"] = "outline-shadow"
    mm: Annotated[OffsetMm, Field(gt=0)]
    corners: Corners = "round"
    holes: Literal["keep", "fill", "fill-small", "fill-chosen"] = "keep"
    small_mm2: AreaMm2 = 20.0
    chosen: Annotated[tuple[HoleSpot, ...], Field(max_length=200)] = ()


class DropShadow(MadeOf):
    """Its sources swept (`block`), or copied and made heavier by `grow_mm` (`copy`), along an angle.

    The angle is clockwise from the right: 45 points down to the right.
    """

    called: ClassVar[str] = "drop shadow"
    casts: ClassVar[bool] = True
    kind: Literal["drop-shadow"] = "drop-shadow"
    angle_deg: Degrees = 45.0
    length_mm: Annotated[OffsetMm, Field(gt=0)]
    style: Literal["block", "copy"] = "block"
    grow_mm: OffsetMm = 0.0


class StitchLine(MadeOf):
    """A dashed line at a distance from its sources' edge, positive outside; its dashes are cut shapes."""

    called: ClassVar[str] = "stitches"
    casts: ClassVar[bool] = False
    kind: Literal["stitch-line"] = "stitch-line"
    mm: OffsetMm = -2.0
    dash_mm: StitchMm = 3.0
    gap_mm: StitchMm = 2.0
    width_mm: StitchMm = 0.8
    ends: Literal["round", "square"] = "round"


class Band(MadeOf):
    """The ring between two distances from its sources' edge, positive outside."""

    called: ClassVar[str] = "band"
    casts: ClassVar[bool] = False
    kind: Literal["band"] = "band"
    inner_mm: OffsetMm = 1.0
    outer_mm: OffsetMm = 2.5
    corners: Corners = "round"


Making = Annotated[OutlineShadow | DropShadow | StitchLine | Band, Field(discriminator="kind")]
