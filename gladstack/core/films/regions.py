"""Regions and claims: what areas an art comes as, and whose each is once claims have been met."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.geometry import overlay
from gladstack.core.geometry.partition import borders, longest_border, nesting, share_out
from gladstack.core.geometry.rings import as_multi
from gladstack.core.geometry.shapes import clean, grow

_SEAM_MM = 0.01
"""Regions within this distance border on each other."""
_SURROUNDED = 0.98
"""A dropped region that one other goes round along so much of its outline closes over."""
_LEAST_MM2 = 0.02
"""Enclosed areas below this are loops of a jagged line, which wait for no film."""
NOTHING = MultiPolygon()
_DISSOLVED = ("dropped", "merged", "outer", "inner", "middle")


Becomes = Literal["film", "open", "hole", "dropped", "merged", "outer", "inner", "middle", "own"]
"""What a region becomes: part of a film; left open, so that what lies below shows; a hole through everything; dropped as not
worth cutting; merged with the neighbour of the longest border; a double line brought to its outer, inner or middle line;
or again what it was by itself."""
Under = Literal["as-film", "solid", "open"]
"""What lies below a region: as the films' joints say, kept solid under it, or open."""


@dataclass(frozen=True)
class Claim:
    """What is said of the region at a point, in the art's own mm."""

    x_mm: float
    y_mm: float
    film: str | None = None
    becomes: Becomes = "open"
    under: Under = "as-film"


@dataclass(frozen=True)
class Paint:
    """What an art paints with one of its colours: the film it has by itself (None: nobody's), the shape, and whether it
    is only what the art lies on.
    """

    film: str | None
    colour: str
    shape: MultiPolygon
    behind: bool = False


@dataclass(frozen=True)
class Painting:
    """An art before any claim: what it paints, none of it overlapping, in its own mm.

    `waits` says that unpainted areas which it encloses wait for a film.
    """

    size_mm: tuple[float, float]
    painted: tuple[Paint, ...]
    waits: bool


@dataclass(frozen=True)
class Region:
    """One connected area: the film it has by itself, its colour in the source (None: enclosed paper), a point inside it,
    within how many other outlines it lies and the closest of these (-1: none), whether it waits to be claimed, and which
    painted shape it is a part of (-1: none).
    """

    film: str | None
    colour: str | None
    shape: Polygon
    at: tuple[float, float]
    depth: int
    parent: int
    waits: bool
    source: int = -1


@dataclass(frozen=True)
class Regions:
    """All regions of an art, which do not overlap."""

    width_mm: float
    all: tuple[Region, ...]

    @cached_property
    def tree(self) -> shapely.STRtree:
        """Finds the regions at a point."""
        return shapely.STRtree([r.shape for r in self.all])

    def at(self, claim: Claim) -> int | None:
        """The region that a claim is about."""
        met = self.tree.query(shapely.Point(claim.x_mm, claim.y_mm), predicate="intersects")
        return int(met[0]) if len(met) else None

    def near(self, shape: BaseGeometry) -> list[int]:
        """The regions that border on a shape, those it is made of included."""
        return [int(j) for j in self.tree.query(grow(shape, _SEAM_MM), predicate="intersects")]


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

    `held` are the claims that hold, by region; `waiting` the areas that none has met; `lost` those that met no region.
    """

    by_film: dict[str, MultiPolygon]
    holes: MultiPolygon = NOTHING
    solid: MultiPolygon = NOTHING
    open: MultiPolygon = NOTHING
    held: tuple[tuple[int, Claim], ...] = ()
    waiting: tuple[Unclaimed, ...] = ()
    lost: tuple[Claim, ...] = ()


def regions_of(painting: Painting) -> Regions:
    """The connected areas that an art paints, and those it encloses."""
    found: list[tuple[str | None, str | None, Polygon, bool, int]] = []
    for k, painted in enumerate(painting.painted):
        found += [(painted.film, painted.colour, p, False, k) for p in painted.shape.geoms]
    if painting.waits:
        found += [(None, None, p, p.area >= _LEAST_MM2, -1) for p in _enclosed([p.shape for p in painting.painted])]
    shapes = [p for _, _, p, _, _ in found]
    depth, parent = nesting(shapes)
    at = shapely.get_coordinates(shapely.point_on_surface(shapes)).tolist() if shapes else []
    return Regions(
        painting.size_mm[0],
        tuple(
            Region(film, colour, shape, (at[k][0], at[k][1]), depth[k], parent[k], waits, source)
            for k, (film, colour, shape, waits, source) in enumerate(found)
        ),
    )


def _enclosed(shapes: Sequence[MultiPolygon]) -> list[Polygon]:
    """The unpainted areas that painted ones enclose: the holes of all that is painted, without the islands in them."""
    held = [s for s in shapes if not s.is_empty]
    painted = list(clean(held[0] if len(held) == 1 else overlay.union_all(held)).geoms)
    holed = [k for k, p in enumerate(painted) if len(p.interiors)]
    if not holed:
        return []
    _, parent = nesting(painted)
    islands: dict[int, list[Polygon]] = {k: [] for k in holed}
    for k, above in enumerate(parent):
        if above >= 0:
            islands[above].append(Polygon(painted[k].exterior))
    out: list[Polygon] = []
    for k in holed:
        for hole in map(Polygon, painted[k].interiors):
            inside = [p for p in islands[k] if shapely.intersects(hole, p)]
            out += clean(overlay.difference(hole, overlay.union_all(inside))).geoms
    return out


def as_painted(painting: Painting) -> Claimed:
    """What each film has where nothing was claimed and nothing waits to be."""
    by_film: dict[str, list[MultiPolygon]] = {}
    for paint in painting.painted:
        if paint.film is not None and not paint.shape.is_empty:
            by_film.setdefault(paint.film, []).append(paint.shape)
    return Claimed({film: own[0] if len(own) == 1 else _one(own) for film, own in by_film.items()})


def claim(regions: Regions, claims: Sequence[Claim]) -> Claimed:
    """Whose each region is; of two claims on one region the later holds."""
    met = [(regions.at(c), c) for c in claims]
    held = {k: c for k, c in met if k is not None}
    lost = tuple(c for k, c in met if k is None)
    held = {k: c for k, c in held.items() if c.becomes != "own"}
    parts = _parted(regions, held)
    films: dict[str, list[int]] = {}
    holes, solid, open_ = [], [], []
    for k, own in parts.items():
        # What was to go to a neighbour and found none stays what it was.
        said = held.get(k)
        here = None if said is None or said.becomes in _DISSOLVED else said
        film = here.film if here else regions.all[k].film
        if here and here.becomes == "hole":
            holes += own
        if film is not None:
            films.setdefault(film, []).append(k)
            if here and here.under == "solid":
                solid += own
            if here and here.under == "open":
                open_ += own
    waiting = [Unclaimed(k, *r.at, float(r.shape.area)) for k, r in enumerate(regions.all) if r.waits and k not in held]
    waiting.sort(key=lambda w: -w.area_mm2)
    return Claimed(
        {film: _whole(regions, parts, own) for film, own in films.items()},
        _one(holes), _one(solid), _one(open_),
        tuple(sorted(held.items(), key=lambda item: item[0])), tuple(waiting), lost,
    )  # fmt: skip


def _one(areas: Sequence[BaseGeometry]) -> MultiPolygon:
    """Areas that do not overlap as one shape; those that lie apart are taken as they are."""
    return as_multi([p for area in areas for p in shapely.get_parts(area) if p.area > tolerances.AREA_MM2])


def _whole(regions: Regions, parts: Mapping[int, list[BaseGeometry]], own: Sequence[int]) -> MultiPolygon:
    """Regions as one shape; those that were painted as one lie apart."""
    shapes = [p for k in own for p in parts[k]]
    if len(shapes) == len(own) and len(sources := {regions.all[k].source for k in own}) == 1 and sources != {-1}:
        return MultiPolygon([p for p in shapes if isinstance(p, Polygon) and p.area > tolerances.AREA_MM2])
    return _one(shapes)


def _parted(regions: Regions, held: Mapping[int, Claim]) -> dict[int, list[BaseGeometry]]:
    """What each region comes to, after those that are dissolved were handed over, smallest first.

    One that has no neighbour to go to stays; so no area is lost but what is dropped, and what a middle line leaves to none.
    """
    parts: dict[int, list[BaseGeometry]] = {k: [r.shape] for k, r in enumerate(regions.all)}
    heirs: dict[int, list[int]] = {}
    gone = [k for k, p in held.items() if p.becomes in _DISSOLVED]
    for k in sorted(gone, key=lambda k: (regions.all[k].shape.area, k)):
        area = overlay.union_all(parts[k])
        others = [j for j in _resolved(regions.near(area), heirs) if j != k]
        beside = [overlay.union_all([p for p in parts[j] if shapely.dwithin(p, area, _SEAM_MM)]) for j in others]
        shares = _handed_over(regions, k, held[k], area, others, beside)
        if not shares and held[k].becomes != "dropped":
            continue
        for j, share in shares:
            parts[j].append(share)
        heirs[k] = [j for j, _ in shares]
        del parts[k]
    return parts


def _resolved(regions: Sequence[int], heirs: Mapping[int, list[int]]) -> list[int]:
    """The regions that are still there, or have taken over what is not."""
    out: dict[int, None] = {}
    left = list(regions)
    while left:
        k = left.pop(0)
        if k in heirs:
            left += [j for j in heirs[k] if j not in out]
        else:
            out[k] = None
    return list(out)


def _handed_over(
    regions: Regions, k: int, said: Claim, area: BaseGeometry, others: list[int], shapes: list[BaseGeometry]
) -> list[tuple[int, BaseGeometry]]:
    """Which of the regions `others`, as they are now, get what of the `area` of one that is no more."""
    if said.becomes == "merged":
        best = longest_border(area, shapes)
        return [] if best is None else [(others[best], area)]
    if said.becomes == "dropped":
        lengths = borders(area, shapes)
        best = max(range(len(lengths)), key=lengths.__getitem__, default=None)
        return [] if best is None or lengths[best] < _SURROUNDED * area.length else [(others[best], area)]
    within = Polygon(regions.all[k].shape.exterior)
    inside = [shapely.contains_xy(within, *regions.all[j].at) for j in others]
    if said.becomes != "middle":
        wanted = said.becomes == "outer"
        kept = [yes == wanted for yes in inside]
        others = [j for j, yes in zip(others, kept, strict=True) if yes]
        shapes = [s for s, yes in zip(shapes, kept, strict=True) if yes]
    shared = share_out(area, shapes, leave=said.becomes == "middle")
    return [(j, part) for j, part in zip(others, shared, strict=True) if not part.is_empty]
