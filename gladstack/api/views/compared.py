"""Two states of a design held against each other, as they are sent."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from gladstack.api.views.proof import path_of
from gladstack.recipe.build.compared import FilmChange


class FilmChangeView(BaseModel):
    """A film that is not cut now as it was: what is gone and what has come, as paths in mm and areas in mm2, and how far the
    farthest of it lies from the other state, mm (None where there is no other).
    """

    film: str
    colour: str
    name: str
    state: Literal["changed", "new", "gone"]
    gone: str
    gone_mm2: float
    come: str
    come_mm2: float
    apart_mm: float | None


def compared_view(changes: Sequence[FilmChange]) -> list[FilmChangeView]:
    """The films that are cut otherwise."""
    return [
        FilmChangeView(
            film=one.film, colour=one.colour, name=one.name, state=one.state,
            gone=path_of(one.change.gone), gone_mm2=round(one.change.gone.area, 4),
            come=path_of(one.change.come), come_mm2=round(one.change.come.area, 4), apart_mm=one.change.apart_mm,
        )
        for one in changes
    ]  # fmt: skip
