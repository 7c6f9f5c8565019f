"""Numbers of parts that are easily lost or mixed up: the same on the placement map and on the pictures of the sheets."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gladstack.shop.papers.steps import lying
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import WantedFilm

EASY_TO_LOSE_MM2 = 40.0
"""A part smaller than this is easily lost in weeding."""
_MOST = 400

PartKey = tuple[str, str, int]
"""The design, the film and the number of a part in the film's outline."""


@dataclass(frozen=True)
class MapNumber:
    """A number beside a part: where the part ends, and at which height its middle is, in mm."""

    number: int
    x_mm: float
    y_mm: float


def numbered(plan: Plan, designs: Sequence[str]) -> dict[PartKey, int]:
    """The numbers of parts of some designs: of all that are small, and of all that lie scattered over their film.

    Each design counts from 1, film by film from the ground up, for as many parts as can still be told apart.
    """
    out: dict[PartKey, int] = {}
    loose = lying(plan).loose
    for design in designs:
        keys: list[PartKey] = []
        for film in plan.films_of(design):
            all_of_it = (design, film.film) in loose
            keys += [
                (design, film.film, k)
                for k, shape in enumerate(film.cutting.shape.geoms)
                if all_of_it or shape.area < EASY_TO_LOSE_MM2
            ]
        out |= {key: n for n, key in enumerate(keys[:_MOST], 1)}
    return out


def on_map(films: Sequence[WantedFilm], numbers: Mapping[PartKey, int]) -> tuple[MapNumber, ...]:
    """Where the numbers of some films stand in their design."""
    out = []
    for film in films:
        for k, shape in enumerate(film.cutting.shape.geoms):
            if (n := numbers.get((film.design, film.film, k))) is not None:
                _, top, right, bottom = shape.bounds
                out.append(MapNumber(n, right, (top + bottom) / 2))
    return tuple(out)


def ranges(films: Sequence[WantedFilm], numbers: Mapping[PartKey, int]) -> dict[int, str]:
    """The first and the last number of each film that has a number for every part."""
    out = {}
    for at, film in enumerate(films):
        own = [numbers.get((film.design, film.film, k)) for k in range(len(film.cutting.outline.parts))]
        held = [n for n in own if n is not None]
        if held and len(held) == len(own):
            out[at] = f"{held[0]}" if len(held) == 1 else f"{held[0]} to {held[-1]}"
    return out
