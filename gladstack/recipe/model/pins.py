"""Pins: what a maker says of the region at a point, told so that it survives another tracing or size."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from gladstack.core.films.regions import Becomes, Claim, Under
from gladstack.recipe.model.values import FilmKey, Frozen


class ArtPoint(Frozen):
    """A point of an art, from its top-left corner in shares of its width."""

    x: Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]
    y: Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]


class Pin(ArtPoint):
    """The region at this point belongs to that film, or becomes what is said without one."""

    film: FilmKey | None = None
    becomes: Becomes = "open"
    under: Under = "as-film"

    @model_validator(mode="before")
    @classmethod
    def _told_by_film(cls, data: object) -> object:
        if isinstance(data, dict) and data.get("film") is not None:
            return {**data, "becomes": data.get("becomes", "film")}
        return data

    @model_validator(mode="after")
    def _hangs_together(self) -> Pin:
        if (self.film is not None) != (self.becomes == "film"):
            raise ValueError("a region belongs to a film or becomes something else, not both")
        return self

    def claim(self, width_mm: float) -> Claim:
        """What it says of an art that is `width_mm` wide."""
        return Claim(self.x * width_mm, self.y * width_mm, self.film, self.becomes, self.under)
