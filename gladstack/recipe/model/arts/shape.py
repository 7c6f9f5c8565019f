"""Plain shapes."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from gladstack.recipe.model.arts.base import OneFilmArt
from gladstack.recipe.model.values import MOTIF, DetailMm, Frozen, SizeMm


class Rectangle(Frozen):
    """A rectangle with rounded corners."""

    form: Literal["rectangle"] = "rectangle"
    width_mm: SizeMm = 60.0
    height_mm: SizeMm = 40.0
    radius_mm: Annotated[DetailMm | SizeMm, MOTIF] = 0.0


class Ellipse(Frozen):
    """An ellipse, or a circle."""

    form: Literal["ellipse"] = "ellipse"
    width_mm: SizeMm = 50.0
    height_mm: SizeMm = 50.0


class RegularPolygon(Frozen):
    """A regular polygon with its corners on a circle."""

    form: Literal["polygon"] = "polygon"
    sides: Annotated[int, Field(ge=3, le=60)] = 6
    across_mm: SizeMm = 50.0


class Star(Frozen):
    """A star; `inner` is where its notches lie, as a share of its radius."""

    form: Literal["star"] = "star"
    points: Annotated[int, Field(ge=3, le=60)] = 5
    across_mm: SizeMm = 50.0
    inner: Annotated[float, Field(ge=0.05, le=0.98)] = 0.42


class Heart(Frozen):
    """A heart."""

    form: Literal["heart"] = "heart"
    width_mm: SizeMm = 50.0
    height_mm: SizeMm = 46.0


class RingShape(Frozen):
    """A circular band."""

    form: Literal["ring"] = "ring"
    across_mm: SizeMm = 60.0
    band_mm: SizeMm = 4.0

    @model_validator(mode="after")
    def _has_hole(self) -> RingShape:
        if 2 * self.band_mm >= self.across_mm:
            raise ValueError("the band must be narrower than half the ring")
        return self


class Ribbon(Frozen):
    """A banner ribbon whose ends hang lower by `fold_mm`."""

    form: Literal["ribbon"] = "ribbon"
    width_mm: SizeMm = 100.0
    height_mm: SizeMm = 30.0
    fold_mm: SizeMm = 8.0

    @model_validator(mode="after")
    def _has_panel(self) -> Ribbon:
        if self.fold_mm >= 0.6 * self.height_mm:
            raise ValueError("the ends cannot hang lower than 0.6 of the ribbon's height")
        return self


Form = Annotated[Rectangle | Ellipse | RegularPolygon | Star | Heart | RingShape | Ribbon, Field(discriminator="form")]


class ShapeArt(OneFilmArt):
    """A plain shape about its own middle."""

    kind: Literal["shape"] = "shape"
    form: Form

    @property
    def title(self) -> str:
        """What form it has."""
        return self.form.form
