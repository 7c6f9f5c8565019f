"""What a plan saves: the film that would go if nothing were laid close."""

from __future__ import annotations

import math
from collections.abc import Sequence

from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.supply import Supply, widest_room


def naive_length(films: Sequence[WantedFilm], supply: Supply) -> float:
    """The film that goes if each film of each copy is laid by itself, as it lies in the decal, one after another."""
    total = 0.0
    for film in films:
        margin = supply.margin(film.material)
        w, h = film.frame[2] - film.frame[0], film.frame[3] - film.frame[1]
        room = widest_room(film.material, supply, margin).width_mm
        # What is wider than the film goes in strips.
        total += film.copies * math.ceil(h / max(room, 1.0) - 1e-9) * (w + 2 * margin)
    return round(total, 1)
