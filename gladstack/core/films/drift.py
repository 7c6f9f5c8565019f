"""Drift: what shows through when a film is laid down a little off its place.

A film that has slipped bares what it should cover. Where a neighbour that meets it there runs on under it, only the border
between the two has moved; what shows ground, or a film that is not seen beside that place, is *bared*. It is measured as an
area, for one slip, or the most of all directions.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree  # type: ignore[import-untyped]
from shapely import GEOSException, MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry import overlay
from gladstack.core.geometry.edge_points import edge_points
from gladstack.core.geometry.shapes import clean, grow, meeting

FloatArray = npt.NDArray[np.float64]

DIRECTIONS = 64
_TRIED, _EVERY = 3, 4
_STEP_MM = 0.4
_TOUCHING_MM = 0.01
_HAIR_MM = 2e-3
"""What is narrower than this is rounding of the offsets, not film that shows."""


def _without(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    """What is only measured, and never cut, goes without the checks of `overlay`, which take three times as long again."""
    try:
        return shapely.difference(a, b)
    except GEOSException:
        return overlay.difference(a, b)


def _common(a: BaseGeometry, b: BaseGeometry) -> BaseGeometry:
    try:
        return shapely.intersection(a, b)
    except GEOSException:
        return overlay.intersection(a, b)


def faces_of(cuts: Sequence[MultiPolygon]) -> tuple[MultiPolygon, ...]:
    """What is seen of each film of a stack, from the ground up, as long as all lie where they should."""
    return tuple(face_of(cut, cuts[k + 1 :]) for k, cut in enumerate(cuts))


def face_of(cut: MultiPolygon, above: Sequence[MultiPolygon]) -> MultiPolygon:
    """What is seen of a film under others."""
    over = [near for upper in above if (near := meeting(upper, cut)).geoms]
    return clean(_without(cut, shapely.union_all(over))) if over else cut


def inner_of(faces: Sequence[MultiPolygon], slip_mm: float) -> MultiPolygon:
    """All that is seen, but for what lies no farther from its rim than a slip."""
    return clean(grow(shapely.union_all(list(faces)), -slip_mm))


def beside_others(face: MultiPolygon, others: Sequence[MultiPolygon]) -> MultiPolygon:
    """Those pieces of a face that other films may lie under or beside, judged by their boxes: the rest bares only ground at
    the rim of the decal, whichever way it slips."""
    pieces = shapely.get_parts(face)
    tree = shapely.STRtree(np.concatenate([shapely.get_parts(other) for other in others]))
    met = np.unique(tree.query(pieces)[0])
    return face if len(met) == len(pieces) else MultiPolygon(list(pieces[met]))


def at_risk(
    film: int, faces: Sequence[MultiPolygon], cuts: Sequence[MultiPolygon], inner: MultiPolygon, slip_mm: float
) -> MultiPolygon:
    """What of a film's face would show something wrong if it were bared by a slip of so much, whichever way; `inner` is the
    decal without its rim.

    Along its edges lower films may run on under it: where they are seen within the slip beside it, nothing wrong shows. Nor
    does ground, so near the rim of the decal.
    """
    left: BaseGeometry = _without(faces[film], grow(meeting(cuts[film], faces[film]), -slip_mm))
    wrong: list[BaseGeometry] = []
    for lower in range(film - 1, -1, -1):
        if left.is_empty:
            break
        under = _common(left, meeting(cuts[lower], left))
        if under.is_empty:
            continue
        beside = grow(meeting(faces[lower], under, slip_mm), slip_mm)
        wrong.append(_without(under, beside))
        left = _without(left, meeting(cuts[lower], left))
    wrong.append(_common(left, meeting(inner, left)))
    return _thick(shapely.union_all([clean(w) for w in wrong]))


def _thick(shape: BaseGeometry) -> MultiPolygon:
    parts = np.array(clean(shape).geoms, dtype=object)
    return MultiPolygon(list(parts[_is_thick(parts)]))


def _is_thick(parts: npt.NDArray[np.object_]) -> npt.NDArray[np.bool_]:
    return np.asarray(shapely.area(parts) > _HAIR_MM * shapely.length(parts))


def bared(risk: MultiPolygon, cut: MultiPolygon, slip: tuple[float, float]) -> MultiPolygon:
    """What a film bares that has slipped by so many mm across and down."""
    if risk.is_empty:
        return risk
    return _thick(_left_by(risk, meeting(cut, risk, math.hypot(*slip)), slip))


def _left_by(risk: MultiPolygon, cut: MultiPolygon, slip: tuple[float, float]) -> BaseGeometry:
    return _without(risk, shapely.transform(cut, lambda p: p + np.array(slip)))


@dataclass(frozen=True)
class Drift:
    """The worst that a film bares for a slip: which way it slipped (mm), how much area it bares, and where."""

    slip: tuple[float, float]
    mm2: float
    shape: MultiPolygon


NO_DRIFT = Drift((0.0, 0.0), 0.0, MultiPolygon())


def worst(risk: MultiPolygon, cut: MultiPolygon, slip_mm: float) -> Drift:
    """The worst of all directions.

    How much each bares is first judged by the edges that it moves away from what is at risk; the likeliest, and some all
    round, are worked out, and what lies beside the best of them.
    """
    if risk.is_empty:
        return NO_DRIFT
    near = meeting(cut, risk, slip_mm)
    points = edge_points(near, _STEP_MM)
    away, _ = cKDTree(edge_points(risk, _STEP_MM / 4).at).query(points.at, distance_upper_bound=slip_mm)
    by = np.isfinite(away)
    # Areas lie to the left of their edges. An edge that moves in by so much bares what is at risk from where that begins.
    outward = np.stack([points.along[:, 1], -points.along[:, 0]], axis=1)[by]
    ways = 2 * math.pi * np.arange(DIRECTIONS) / DIRECTIONS
    slips = slip_mm * np.stack([np.cos(ways), np.sin(ways)], axis=1)
    moved_in = -(outward @ slips.T)
    judged = (np.maximum(0.0, moved_in - away[by][:, None]) * points.length[by][:, None]).sum(axis=0)

    def slip(k: int) -> tuple[float, float]:
        x, y = slips[k % DIRECTIONS]
        return float(x), float(y)

    @cache
    def area(k: int) -> float:
        parts = shapely.get_parts(_left_by(risk, near, slip(k)))
        return float(shapely.area(parts[_is_thick(parts)]).sum())

    likely = [int(k) for k in np.argsort(-judged, kind="stable")[:_TRIED]]
    best = max([*likely, *range(0, DIRECTIONS, _EVERY)], key=area)
    for step in (2, 1):
        best = max(((best - step) % DIRECTIONS, best, (best + step) % DIRECTIONS), key=area)
    shape = _thick(_left_by(risk, near, slip(best)))
    return Drift(slip(best), float(shape.area), shape)


def beside(risk: MultiPolygon, film: int, faces: Sequence[MultiPolygon]) -> Mapping[int, float]:
    """The films at whose border with this one something is at risk: how much of each, in mm2."""
    out = {}
    for other, face in enumerate(faces):
        if other == film or risk.is_empty:
            continue
        near = [p.area for p in risk.geoms if shapely.dwithin(face, p, _TOUCHING_MM)]
        if near:
            out[other] = float(sum(near))
    return out
