"""What must hold for a stack, measured on its geometry: the painted result, and how many films lie on one another."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cache
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import GEOSException, MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.films.joints import Joint
from gladstack.core.geometry import overlay
from gladstack.core.geometry.rings import winding_numbers
from gladstack.core.geometry.shapes import clean, grow, meeting

_FEW_FILMS = 12
_SLIVER_MM = 1e-4
"""Pieces thinner than this on average are rounding along a common edge."""


Seen = tuple[MultiPolygon, ...]
"""What of a film is missing where it should be or there where it should not be, in one or more shapes."""


Measured = Literal["quickly", "surely"]
"""Whether what is only measured, and never cut, goes without the checks of `overlay`, which take as long again and more."""


def differing(shape: MultiPolygon, cut: MultiPolygon, how: Measured = "surely") -> Seen:
    """Where a film's cut shape differs from its wanted shape, whether it shows or not."""
    if cut is shape:
        return ()
    shape, cut = _without_common(shape, cut)
    if how == "quickly" and not (shape.is_empty or cut.is_empty):
        try:
            return (clean(shapely.symmetric_difference(shape, cut)),)
        except GEOSException:
            pass
    missing, extra = overlay.both_differences(shape, cut)
    return clean(missing), clean(extra)


def unhidden(seen: Seen, hiding: BaseGeometry, how: Measured = "surely") -> Seen:
    """What of it shows when something lies on it."""
    return tuple(_left(part, hiding, how) for part in seen)


def _left(part: MultiPolygon, hiding: BaseGeometry, how: Measured) -> MultiPolygon:
    if part.is_empty or not shapely.intersects(part, hiding):
        return part
    near = meeting(hiding, part)
    return clean(overlay.difference(part, near) if how == "surely" else _unchecked("difference", part, near))


def wanted_gap(shape: MultiPolygon, joint: Joint) -> BaseGeometry:
    """Where a film below one of the wanted `shape` is meant to be missing."""
    return grow(shape, joint.mm + 2 * tolerances.FLATTEN_MM) if joint.form.reach == "away" else MultiPolygon()


def wrong_area(shape: MultiPolygon, cut: MultiPolygon, above: Sequence[tuple[MultiPolygon, MultiPolygon, Joint]]) -> float:
    """Area in mm2 where a layer fails to show, or shows where it should not; wanted gaps are left out.

    `above` lists the layers above as (wanted shape, cut shape, joint with this layer).
    """
    seen = differing(shape, cut)
    for wanted, upper, joint in above:
        seen = unhidden(unhidden(seen, upper), wanted_gap(wanted, joint))
    return float(sum(part.area for part in seen))


def overlap(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """Where two films lie on each other, without the rounding along a common edge."""
    if not shapely.intersects(a, b):
        return MultiPolygon()
    near = meeting(a, b)
    common = _unchecked("intersection", near, meeting(b, near))
    parts = [p for p in shapely.get_parts(common) if p.area > tolerances.AREA_MM2 and _is_thick(p)]
    return shapely.multipolygons(parts) if parts else MultiPolygon()


def _unchecked(name: Literal["intersection", "difference"], a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    try:
        return getattr(shapely, name)(a, b)
    except GEOSException:
        return getattr(overlay, name)(a, b)


def _is_thick(part: BaseGeometry) -> bool:
    """Whether a piece is wider than rounding: its area against its outline."""
    return bool(part.area > _SLIVER_MM * part.length)


def _without_common(a: MultiPolygon, b: MultiPolygon) -> tuple[MultiPolygon, MultiPolygon]:
    """Both shapes without the pieces that they have in common to the last bit."""
    keys_a, keys_b = ([p.wkb for p in shape.geoms] for shape in (a, b))
    both = set(keys_a) & set(keys_b)
    return tuple(  # type: ignore[return-value]
        MultiPolygon([p for p, k in zip(shape.geoms, keys, strict=True) if k not in both])
        for shape, keys in ((a, keys_a), (b, keys_b))
    )


def max_thickness(cuts: Sequence[MultiPolygon], pair: Callable[[int, int], BaseGeometry], at_least: int = 0) -> int:
    """The largest number of films that lie on one another anywhere; `pair(i, j)` gives the overlap of two cuts, i < j.

    A count at points inside the pieces is a lower bound; then films are looked for that all meet in one place, and are given
    up as soon as too few are left to be more than what was found. `at_least` is told where there are fewer: where only more
    matter, hardly a pair is asked for. Among many films there are too many sets for that: then the films are counted in
    every face of their common arrangement.
    """
    at_points = _films_at_points(cuts)
    best = max(at_least, int(at_points.sum(axis=0).max(initial=0)))
    if len(cuts) > _FEW_FILMS:
        return max(best, _thickness_of_faces(cuts))

    @cache
    def meet(i: int, j: int) -> bool:
        return bool((at_points[i] & at_points[j]).any()) or not pair(i, j).is_empty

    def deepen(common: BaseGeometry | None, films: list[int], others: list[int]) -> None:
        """Adds to `films`, whose common film is `common` (None: not worked out), those of `others` that lie there too."""
        nonlocal best
        for at, k in enumerate(others):
            onward = _those(others[at + 1 :], lambda j, k=k: meet(k, j), best - len(films))  # type: ignore[misc]
            if onward is None or len(films) + 1 + _deepest(onward, meet) <= best:
                continue
            if not films:
                deepen(cuts[k], [k], onward)
                continue
            deeper = pair(films[0], k) if len(films) == 1 else overlap(common, cuts[k])
            if not deeper.is_empty:
                best = max(best, len(films) + 1)
                deepen(deeper, [*films, k], onward)

    deepen(None, [], list(range(len(cuts))))
    return best


def _those(some: list[int], wanted: Callable[[int], bool], fewest: int) -> list[int] | None:
    """Those of `some` that are wanted; None as soon as it is clear that they are fewer than `fewest`."""
    out: list[int] = []
    for at, one in enumerate(some):
        if len(out) + len(some) - at < fewest:
            return None
        if wanted(one):
            out.append(one)
    return out if len(out) >= fewest else None


def _thickness_of_faces(cuts: Sequence[MultiPolygon]) -> int:
    """The most films met in any face that their outlines cut the plane into, slivers of rounding left out."""
    pieces = shapely.orient_polygons(np.array([p for c in cuts for p in c.geoms], dtype=object))
    rings = [np.asarray(r.coords) for p in pieces for r in (p.exterior, *p.interiors)]
    if not rings:
        return 0
    noded = shapely.union_all([shapely.LineString(r) for r in rings])
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    real = faces[(shapely.area(faces) > tolerances.AREA_MM2) & (shapely.area(faces) > _SLIVER_MM * shapely.length(faces))]
    if not len(real):
        return 0
    # All outlines run one way round and all holes the other: winding numbers count films.
    return int(np.abs(winding_numbers(rings, shapely.get_coordinates(shapely.point_on_surface(real)))).max())


def _deepest(films: Sequence[int], meet: Callable[[int, int], bool]) -> int:
    """The size of the largest set of `films` (ascending) that all meet in pairs."""
    if not films:
        return 0
    with_first = 1 + _deepest([j for j in films[1:] if meet(films[0], j)], meet)
    return with_first if with_first == len(films) else max(with_first, _deepest(films[1:], meet))


def _films_at_points(cuts: Sequence[MultiPolygon]) -> npt.NDArray[np.bool_]:
    """Which films (rows) lie at a point inside each piece (columns): at least that of the piece."""
    x, y = shapely.get_coordinates(shapely.point_on_surface([p for c in cuts for p in c.geoms])).T
    at = np.array([shapely.contains_xy(c, x, y) for c in cuts], bool).reshape(len(cuts), len(x))
    at[np.repeat(np.arange(len(cuts)), [len(c.geoms) for c in cuts]), np.arange(len(x))] = True
    return at
