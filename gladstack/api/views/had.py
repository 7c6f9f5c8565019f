"""The colours of a picture as films of the shelf, as they are sent."""

from __future__ import annotations

from pydantic import BaseModel

from gladstack.recipe.edit.edits import Edit
from gladstack.shop.plan.had import Had, take_had


class HadFilmView(BaseModel):
    """A film, the material it would be cut from, how far off its colour is, and the film it would become one with."""

    film: str
    name: str
    colour: str
    material_name: str
    material_colour: str
    delta_e: float
    into: str | None


class HadView(BaseModel):
    """All films of a picture, and the step that takes them so; none where the shelf has no film for the use."""

    films: list[HadFilmView]
    edit: Edit | None


def had_view(art: str, found: tuple[Had, ...]) -> HadView:
    """What a picture's films become, as it is sent."""
    films = [
        HadFilmView(
            film=h.film, name=h.name, colour=h.colour, material_name=h.material.name, material_colour=h.material.colour,
            delta_e=h.delta_e, into=h.into,
        )
        for h in found
    ]  # fmt: skip
    return HadView(films=films, edit=take_had(art, found) if found else None)
