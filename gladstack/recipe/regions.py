"""Regions and claims: what areas an art comes as, and whose each is once pins have been met."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core import overlay, tolerances
from gladstack.core.joints import clean, grow
from gladstack.core.partition import borders, longest_border, nesting, share_out
from gladstack.core.rings import as_multi
from gladstack.recipe.pins import Pin

_SURROUNDED = 0.98
"""A dropped region that one other goes round along so much of its outline closes over."""
_LEAST_MM2 = 0.02
"""Enclosed areas below this are loops of a jagged line, which wait for no film."""
_DISSOLVED = ("dropped", "merged", "outer", "inner", "middle")


@dataclass(frozen=True)
class Painted:
    """What an art paints with one of its colours: the film it has by itself (None: nobody's), and the shape."""

    film: str | None
    colour: str
    shape: MultiPolygon


@dataclass(frozen=True)
class Painting:
    """An art before any claim: what it paints, none of it overlapping, in its own mm.

    `waits` says that unpainted areas which it encloses wait for a film.
    """

    key: str
    size_mm: tuple[float, float]
    painted: tuple[Painted, ...]
    waits: bool


@dataclass(frozen=True)
class Region:
    """One connected area: the film it has by itself, its colour in the source (None: enclosed paper), a point inside it,
    within how many other outlines it lies and the closest of these (-1: none), and whether it waits to be claimed.
    """

    film: str | None
    colour: str | None
    shape: Polygon
    at: tuple[float, float]
    depth: int
    parent: int
    waits: bool


@dataclass(frozen=True)
class Regions:
    """All regions of an art, which do not overlap; pins are told in shares of `width_mm`."""

    key: str
    width_mm: float
    all: tuple[Region, ...]

    @cached_property
    def tree(self) -> shapely.STRtree:
        """Finds the regions at a point."""
        return shapely.STRtree([r.shape for r in self.all])

    def at(self, pin: Pin) -> int | None:
        """The region at a pin."""
        met = self.tree.query(shapely.Point(pin.x * self.width_mm, pin.y * self.width_mm), predicate="intersects")
        return int(met[0]) if len(met) else None

    def near(self, k: int) -> list[int]:
        """The regions that border on one of them."""
        met = self.tree.query(grow(self.all[k].shape, 0.01), predicate="intersects")
        return [int(j) for j in met if j != k]


@dataclass(frozen=True)
class Unclaimed:
    """An enclosed area that belongs to no film: its region, a point within it and its area in mm2."""

    region: int
    x_mm: float
    y_mm: float
    area_mm2: float


@dataclass(frozen=True)
class Claimed:
    """Shapes by film, none overlapping; what is a hole through everything; what is to be solid or open below.

    `pins` are those that hold, by region; `waiting` the areas that none has met; `lost` counts pins that met no region.
    """

    by_film: dict[str, MultiPolygon]
    holes: MultiPolygon
    solid: MultiPolygon
    open: MultiPolygon
    pins: tuple[tuple[int, Pin], ...]
    waiting: tuple[Unclaimed, ...]
    lost: int


def regions_of(painting: Painting) -> Regions:
    """The connected areas that an art paints, and those it encloses."""
    found: list[tuple[str | None, str | None, Polygon, bool]] = []
    for painted in painting.painted:
        found += [(painted.film, painted.colour, p, False) for p in painted.shape.geoms]
    if painting.waits:
        found += [(None, None, p, p.area >= _LEAST_MM2) for p in _enclosed([p.shape for p in painting.painted])]
    shapes = [p for _, _, p, _ in found]
    depth, parent = nesting(shapes)
    at = shapely.get_coordinates(shapely.point_on_surface(shapes)).tolist() if shapes else []
    return Regions(
        painting.key,
        painting.size_mm[0],
        tuple(
            Region(film, colour, shape, (at[k][0], at[k][1]), depth[k], parent[k], waits)
            for k, (film, colour, shape, waits) in enumerate(found)
        ),
    )


def _enclosed(shapes: Sequence[MultiPolygon]) -> list[Polygon]:
    """The unpainted areas that painted ones enclose."""
    holes = [Polygon(r) for s in shapes for p in s.geoms for r in p.interiors]
    if not holes:
        return []
    return list(clean(overlay.difference(overlay.union_all(holes), overlay.union_all(list(shapes)))).geoms)


def claim(regions: Regions, pins: Sequence[Pin]) -> Claimed:
    """Whose each region is; of two pins on one region the later holds."""
    held: dict[int, Pin] = {}
    lost = 0
    for pin in pins:
        if (k := regions.at(pin)) is None:
            lost += 1
        else:
            held[k] = pin
    held = {k: p for k, p in held.items() if p.becomes != "own"}
    parts: dict[int, list[BaseGeometry]] = {k: [r.shape] for k, r in enumerate(regions.all)}
    gone = {k for k, p in held.items() if p.becomes in _DISSOLVED}
    for k in sorted(gone, key=lambda k: regions.all[k].shape.area):
        for j, area in _handed_over(regions, k, held[k], gone):
            parts[j].append(area)
        del parts[k]
    films: dict[str, list[BaseGeometry]] = {}
    holes, solid, open_ = [], [], []
    for k, own in parts.items():
        pin_here = held.get(k)
        film = pin_here.film if pin_here else regions.all[k].film
        if pin_here and pin_here.becomes == "hole":
            holes += own
        if film is not None:
            films.setdefault(film, []).extend(own)
            if pin_here and pin_here.under == "solid":
                solid += own
            if pin_here and pin_here.under == "open":
                open_ += own
    waiting = [Unclaimed(k, *r.at, float(r.shape.area)) for k, r in enumerate(regions.all) if r.waits and k not in held]
    waiting.sort(key=lambda w: -w.area_mm2)
    return Claimed(
        {film: _one(own) for film, own in films.items()},
        _one(holes), _one(solid), _one(open_),
        tuple(sorted(held.items(), key=lambda item: item[0])), tuple(waiting), lost,
    )  # fmt: skip


def _one(areas: Sequence[BaseGeometry]) -> MultiPolygon:
    """Areas that do not overlap as one shape; those that lie apart are taken as they are."""
    return as_multi([p for area in areas for p in shapely.get_parts(area) if p.area > tolerances.AREA_MM2])


def _handed_over(regions: Regions, k: int, pin: Pin, gone: set[int]) -> list[tuple[int, BaseGeometry]]:
    """Which regions get what of one that is no more."""
    area = regions.all[k].shape
    others = [j for j in regions.near(k) if j not in gone]
    shapes = [regions.all[j].shape for j in others]
    if pin.becomes == "merged":
        best = longest_border(area, shapes)
        return [] if best is None else [(others[best], area)]
    if pin.becomes == "dropped":
        lengths = borders(area, shapes)
        best = max(range(len(lengths)), key=lengths.__getitem__, default=None)
        return [] if best is None or lengths[best] < _SURROUNDED * area.length else [(others[best], area)]
    within = Polygon(area.exterior)
    inside = [shapely.contains_xy(within, *regions.all[j].at) for j in others]
    if pin.becomes != "middle":
        wanted = pin.becomes == "outer"
        others = [j for j, yes in zip(others, inside, strict=True) if yes == wanted]
        shapes = [regions.all[j].shape for j in others]
    shared = share_out(area, shapes, leave=pin.becomes == "middle")
    return [(j, part) for j, part in zip(others, shared, strict=True) if not part.is_empty]
