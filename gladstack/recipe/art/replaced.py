"""An art beside another source of the same motif: how the new one lies on the old, and what of the maker's choices finds its
place in it again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.colour import SAME_COLOUR, delta_e, from_hex
from gladstack.core.films.regions import Paint, Painting, Regions
from gladstack.core.films.registering import AGREES, Edges, Fit, agreement, edges_of, near_edges, reach_of, registered
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Matrix, transform_points
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import origin_of, regions_of_art
from gladstack.recipe.model.arts import LineArt, PictureArt, RegionArt, VectorArt
from gladstack.recipe.model.mends import (
    Bridge,
    Brush,
    DrawArea,
    DrawEdge,
    LetGo,
    Mend,
    MoveEdge,
    PushEdge,
    PutNode,
    SmoothEdge,
    Straighten,
    TakeOver,
)
from gladstack.recipe.model.pins import ArtPoint, Pin
from gladstack.stages.engine import Stages

_SAME_FILM = 0.3
"""A film is the one that covers at least this share of what both of them cover."""
_CHANGED = 0.3
"""A region of which more than this share lies elsewhere is another one."""
_AROUND_MM = 1.5
_UNCHANGED = 0.6
"""Edges round a step of mending of which this share is as it was are what it was made for."""


@dataclass(frozen=True)
class Replaced:
    """What becomes of an art with another source: where that lies on the old one and how much of its edges agrees (0 to 1);
    films whose colour changes; claims by where they come to lie, in shares of the new source's width; and which claims and
    steps of mending (by number, and by id) found no like place.

    `widths_mm` are those of the old and the new source, in their own mm, `page_mm` is the size of the new one. `look` is
    what it paints, by colour, where it lies, and `before` are the old outlines.
    """

    fit: Fit
    agrees: float
    colours: Mapping[str, str]
    gone: tuple[str, ...]
    fresh: tuple[str, ...]
    pins: Mapping[int, ArtPoint]
    strayed: tuple[int, ...]
    idle: tuple[str, ...]
    widths_mm: tuple[float, float]
    page_mm: tuple[float, float]
    look: Sequence[tuple[str, MultiPolygon]] = field(default=(), compare=False)
    before: MultiPolygon = field(default_factory=MultiPolygon, compare=False)


def replaced(art: RegionArt, new: RegionArt, assets: Assets, stages: Stages, fit: Fit | None = None) -> Replaced:
    """An art beside the same art from another source, laid as a fit says or as it lies best. Raises GladStackError."""
    assert isinstance(art, PictureArt | LineArt | VectorArt)
    assert isinstance(new, PictureArt | LineArt | VectorArt)
    before = origin_of(art, assets, stages).painting.value
    after = origin_of(new, assets, stages).painting.value
    old_edges, new_edges = edges_of(before), edges_of(after)
    fit = fit or registered(old_edges, new_edges)
    agreed = agreement(old_edges, new_edges, fit)
    old_regions, new_regions = _regions(art, assets, stages), _regions(new, assets, stages)
    matrix = fit.matrix
    back = _back(matrix)
    colours, gone, fresh = _films(before, after, matrix)
    pins: dict[int, ArtPoint] = {}
    strayed = []
    pages = shapely.box(0, 0, *before.size_mm), _laid(shapely.box(0, 0, *after.size_mm), matrix)
    reach = max(reach_of(old_edges), 2 * AGREES * old_edges.size)
    likeness = _Likeness(old_regions, new_regions, matrix, reach, shapely.intersection(*pages))
    for k, pin in enumerate(art.pins):
        at = likeness.place(pin)
        if at is None:
            strayed.append(k)
            x, y = _at(pin, old_regions.width_mm, back)
            at = x, y
        pins[k] = ArtPoint(x=at[0] / new_regions.width_mm, y=at[1] / new_regions.width_mm)
    idle = tuple(m.id for m in art.mends if m.on and not _holds(m, before.size_mm[0], old_edges, agreed, gone))
    return Replaced(
        fit, float(agreed.mean()) if len(agreed) else 0.0, colours, gone, fresh, pins, tuple(strayed), idle,
        (before.size_mm[0], after.size_mm[0]), after.size_mm,
        tuple((p.colour, _laid(p.shape, matrix)) for p in after.painted), _outlines(before),
    )  # fmt: skip


def _regions(art: RegionArt, assets: Assets, stages: Stages) -> Regions:
    found = regions_of_art(art, assets, stages)
    assert found is not None
    return found.value


def _back(matrix: Matrix) -> Matrix:
    a, b, c, d, x, y = matrix
    det = a * d - b * c
    return d / det, -b / det, -c / det, a / det, (c * y - d * x) / det, (b * x - a * y) / det


def _at(pin: ArtPoint, width_mm: float, matrix: Matrix) -> tuple[float, float]:
    x, y = transform_points(np.array([[pin.x * width_mm, pin.y * width_mm]]), matrix)[0].tolist()
    return x, y


def _laid(shape: MultiPolygon | Polygon, matrix: Matrix) -> Any:
    return shapely.transform(shape, lambda p: transform_points(p, matrix))


def _outlines(painting: Painting) -> MultiPolygon:
    return MultiPolygon([p for paint in painting.painted if not paint.behind for p in paint.shape.geoms])


def _films(before: Painting, after: Painting, matrix: Matrix) -> tuple[dict[str, str], tuple[str, ...], tuple[str, ...]]:
    """The films whose colour changes, those that are gone, and those that are new: matched by what they cover."""
    old = [p for p in before.painted if p.film is not None]
    new = [(p, clean(shapely.make_valid(_laid(p.shape, matrix)))) for p in after.painted if p.film is not None]
    shares = sorted(((_shared(a, b), i, j) for i, a in enumerate(old) for j, (_, b) in enumerate(new)), reverse=True)
    taken: dict[int, int] = {}
    for share, i, j in shares:
        if share >= _SAME_FILM and i not in taken and j not in taken.values():
            taken[i] = j
    # What has wandered is known by its colour.
    for i, a in enumerate(old):
        for j, (b, _) in enumerate(new):
            if i not in taken and j not in taken.values() and _apart(a.colour, b.colour) < SAME_COLOUR:
                taken[i] = j
    colours = {}
    for i, j in taken.items():
        was, now = old[i].film, new[j][0].film
        if was is not None and now is not None and was != now:
            colours[was] = now
    kept = {new[j][0].film for j in taken.values()}
    gone = tuple(p.film for i, p in enumerate(old) if i not in taken and p.film)
    fresh = tuple(p.film for p, _ in new if p.film and p.film not in kept)
    return colours, gone, fresh


def _apart(a: str, b: str) -> float:
    return float(delta_e(np.array(from_hex(a)), np.array(from_hex(b))))


def _shared(a: Paint, b: MultiPolygon) -> float:
    if not shapely.intersects(a.shape, b):
        return 0.0
    common = overlay.intersection(a.shape, b).area
    return float(common / max(1e-9, a.shape.area + b.area - common))


class _Likeness:
    """Finds the regions of a new source that are those of the old."""

    def __init__(self, old: Regions, new: Regions, matrix: Matrix, reach_mm: float, common: Any) -> None:
        self._old, self._new, self._reach, self._common = old, new, reach_mm, common
        self._back = _back(matrix)
        self._laid = [_laid(r.shape, matrix) for r in new.all]
        self._tree = shapely.STRtree(self._laid)

    def place(self, pin: Pin) -> tuple[float, float] | None:
        """A point of the region that a claim was made for, in the new source's own mm; None if there is none like it.

        A claim that met no region before goes where it was.
        """
        found = self._old.at(pin.claim(self._old.width_mm))
        at = _at(pin, self._old.width_mm, self._back)
        if found is None:
            return at
        was = self._old.all[found].shape
        here = shapely.Point(pin.x * self._old.width_mm, pin.y * self._old.width_mm)
        near = [int(j) for j in self._tree.query(was, predicate="intersects")]
        like = [(self._apart(was, self._laid[j]), j) for j in near]
        if not like or min(like)[0] > _CHANGED:
            return None
        _, best = min(like)
        inside = self._laid[best].buffer(-0.2 * self._reach).contains(here)
        if inside:
            return at
        common = shapely.intersection(was, self._seen(self._laid[best])).representative_point()
        x, y = transform_points(np.array([[common.x, common.y]]), self._back)[0].tolist()
        return x, y

    def _apart(self, a: Polygon, b: Polygon) -> float:
        """How much of either lies farther from the other than edges may shift, as a share of the larger.

        Only what both pages show can be held against each other.
        """
        a, b = self._seen(a), self._seen(b)
        if a.is_empty or b.is_empty:
            return 1.0
        if max(a.area, b.area) > 20 * min(a.area, b.area) and max(a.area, b.area) > 4 * self._reach**2:
            return 1.0
        alone = (
            shapely.difference(a, shapely.buffer(b, self._reach)).area
            + shapely.difference(b, shapely.buffer(a, self._reach)).area
        )
        # Regions hardly larger than edges may shift are alike only where they lie on one another.
        apart = 1.0 - shapely.intersection(a, b).area / max(a.area, b.area)
        return float(max(alone / max(a.area, b.area), apart - 0.55))

    def _seen(self, area: Polygon) -> Any:
        whole = area if area.is_valid else shapely.make_valid(area)
        return whole if self._common.contains(whole) else shapely.intersection(whole, self._common)


def _holds(mend: Mend, width_mm: float, edges: Edges, agreed: Any, gone: Sequence[str]) -> bool:
    """Whether what a step of mending was made for is still there."""
    if any(film in gone for film in (getattr(mend, "film", None), getattr(mend, "into", None)) if film):
        return False
    if isinstance(mend, LetGo) or (isinstance(mend, TakeOver) and not mend.around):
        return True
    if isinstance(mend, Bridge | SmoothEdge | Straighten | PushEdge | MoveEdge):
        points: Sequence[ArtPoint] = (mend.start, mend.end)
    elif isinstance(mend, PutNode):
        points = (mend.before, mend.at, mend.after)
    else:
        points = mend.path if isinstance(mend, Brush | DrawEdge | DrawArea) else mend.around
    at = [(p.x * width_mm, p.y * width_mm) for p in points]
    around = shapely.LineString(at) if len(at) > 1 else shapely.Point(at[0])
    if isinstance(mend, MoveEdge):
        around = shapely.Point(at[0])
    elif isinstance(mend, SmoothEdge | Straighten | PushEdge | PutNode):
        # Their stretch follows an edge: what counts are its ends.
        around = shapely.MultiPoint(at)
    like = near_edges(edges, agreed, around, _AROUND_MM)
    return like is None or like >= _UNCHANGED
