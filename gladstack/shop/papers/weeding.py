"""What weeding a film asks for: its pieces of waste, the minutes of a hand, and what makes it easier."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from gladstack.shop.papers.costs import WEED_PART_S, WEED_WASTE_S
from gladstack.shop.plan.wanted import WantedFilm

_LONG_MM = 150.0
_MANY_TINY = 6
_TINY = 3.0


@dataclass(frozen=True)
class Weeded:
    """One film of one decal: how many parts stay, how many pieces of waste come off, how many of them are enclosed, the
    area of the smallest (mm2), and how many minutes a hand takes.

    `reverse`: it is best weeded the other way round, from under the tape, for its parts are small. `lines`: its waste is so
    long in one piece that lines to weed by would help.
    """

    film: WantedFilm
    parts: int
    waste: int
    enclosed: int
    smallest_mm2: float | None
    minutes: float
    reverse: bool
    lines: bool


def weeded(film: WantedFilm) -> Weeded:
    """What weeding one copy of a film asks for."""
    shape = film.layer.cut
    rings = [r for p in shape.geoms for r in p.interiors]
    holes = shapely.area(shapely.polygons(rings)) if rings else np.zeros(0)
    small = _TINY * film.material.least_part_mm
    tiny = int((shapely.area(np.array(shape.geoms, dtype=object)) < small * small).sum()) if shape.geoms else 0
    left, top, right, bottom = shape.bounds
    minutes = (WEED_PART_S * len(shape.geoms) + WEED_WASTE_S * (len(holes) + 1)) / 60
    return Weeded(
        film, len(shape.geoms), len(holes) + 1, len(holes), float(holes.min()) if len(holes) else None, minutes,
        not film.reverse_weed and tiny >= _MANY_TINY and film.material.method == "adhesive",
        max(right - left, bottom - top) > _LONG_MM,
    )  # fmt: skip


def easiest_first(films: list[Weeded]) -> list[Weeded]:
    """The order to weed in: what is done soon first, so that what is tricky is done with a warm hand."""
    return sorted(films, key=lambda one: one.minutes)
