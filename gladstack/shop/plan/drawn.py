"""What pens draw on a sheet: lines of the design, each moved with the part it lies on, or with the copy it belongs to."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import Point

from gladstack.core.geometry.curves import Chain, transform_chain
from gladstack.shop.plan.planned import PlacedPart
from gladstack.shop.plan.wanted import PenLines

_NEAR_MM = 0.5


def drawn_on(parts: Sequence[PlacedPart], size: tuple[float, float], margin: float) -> tuple[tuple[PenLines, ...], int]:
    """The lines of each pen on a sheet, and how many found no place on it.

    A line that begins on a part goes with it. One beside all parts goes with its copy where films lie in register, if there
    is film under it.
    """
    out: dict[str, list[Chain]] = {}
    colours: dict[str, str] = {}
    beside = 0
    copies: dict[tuple[str, str, int, int | None], list[PlacedPart]] = {}
    for part in parts:
        if part.bit.film.pens:
            key = (part.bit.film.design, part.bit.film.film, part.bit.copy, part.bit.tile)
            copies.setdefault(key, []).append(part)
    for own in copies.values():
        film = own[0].bit.film
        tree = shapely.STRtree([p.bit.polygon for p in own])
        rigid = film.layout != "nested"
        for pen, chain in ((one, line) for one in film.pens for line in one.lines):
            near = tree.query_nearest(Point(chain.start), max_distance=_NEAR_MM)
            on = own[int(near[0])] if len(near) else own[0] if rigid else None
            moved = transform_chain(chain, on.matrix) if on else None
            if moved is None or not _on_film(moved, size, margin):
                beside += 1
                continue
            out.setdefault(pen.name, []).append(moved)
            colours[pen.name] = pen.colour
    return tuple(PenLines(name, colours[name], tuple(lines)) for name, lines in out.items()), beside


def _on_film(chain: Chain, size: tuple[float, float], margin: float) -> bool:
    points = chain.pieces.reshape(-1, 2)
    low, high = points.min(axis=0), points.max(axis=0)
    edge = min(margin, 2.0)
    return bool(np.all(low >= edge) and high[0] <= size[0] - edge and high[1] <= size[1] - edge)
