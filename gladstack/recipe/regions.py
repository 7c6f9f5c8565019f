"""Regions and claims: whose area is whose, once pins have given some to other films."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.joints import clean
from gladstack.recipe.arts import Pin


@dataclass(frozen=True)
class Unclaimed:
    """An enclosed area that belongs to no film: a point within it and its area in mm2."""

    x_mm: float
    y_mm: float
    area_mm2: float


@dataclass(frozen=True)
class Claimed:
    """Shapes by film (None: nobody's), the areas still waiting for one, and how many pins met no region."""

    by_film: dict[str | None, MultiPolygon]
    waiting: tuple[Unclaimed, ...]
    lost: int


def claim(regions: Iterable[tuple[str | None, Polygon]], pins: Sequence[Pin], width_mm: float) -> Claimed:
    """`regions` with those at pins given to the pins' films; of two pins on one region the later holds.

    `width_mm` is that of the art, which pins are told in shares of.
    """
    known = list(regions)
    parts = [p for _, p in known]
    owner = [f for f, _ in known]
    pinned: set[int] = set()
    lost = 0
    tree = shapely.STRtree(parts)
    for pin in pins:
        met = tree.query(shapely.Point(pin.x * width_mm, pin.y * width_mm), predicate="intersects")
        if not len(met):
            lost += 1
            continue
        owner[int(met[0])] = pin.film
        pinned.add(int(met[0]))
    films: dict[str | None, list[Polygon]] = {}
    for film, part in zip(owner, parts, strict=True):
        films.setdefault(film, []).append(part)
    waiting = []
    for k, (film, part) in enumerate(zip(owner, parts, strict=True)):
        if film is None and k not in pinned:
            at = part.representative_point()
            waiting.append(Unclaimed(float(at.x), float(at.y), float(part.area)))
    waiting.sort(key=lambda w: -w.area_mm2)
    return Claimed({f: clean(shapely.union_all(own)) for f, own in films.items()}, tuple(waiting), lost)
