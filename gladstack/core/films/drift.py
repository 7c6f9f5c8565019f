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
from shapely import GEOSException, MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.films.borders import HAIR_MM, Border
from gladstack.core.films.slips import bared_each_way
from gladstack.core.films.thickness import GROUND, Piled, joined
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean, grow, near_boxes

FloatArray = npt.NDArray[np.float64]

DIRECTIONS = 64
_TRIED, _MOST_TRIED, _NEARLY = 3, 12, 0.95
_QUICK_POINTS = 20_000
"""Of the directions that points tell to be the worst, so many are worked out if they are so near to it; more, where all of
them together have no more corners than this.
"""
_TOUCHING_MM = 0.01
_FEW = 0.2
"""To grow lines takes longer than to grow the area around which they run."""


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


def inner_of(stack: Piled, slip_mm: float) -> BaseGeometry:
    """The decal without its rim of a slip."""
    return grow(stack.at_least[0], -slip_mm) if stack.at_least else MultiPolygon()


def at_risk(
    own: Sequence[Border], cut: MultiPolygon, faces: Sequence[MultiPolygon], inner: BaseGeometry, slip_mm: float
) -> MultiPolygon:
    """What of a film's face would show something wrong if it were bared by a slip of so much, whichever way.

    `own` are the film's borders, `faces` what is seen of the lower film of each, `inner` the decal without its rim of a
    slip. Where the lower film is seen within the slip beside it, nothing wrong shows. Nor does ground, so near the rim.
    """
    # Films that run on by just the slip are usual. Edges that lie on one another, but for rounding, take many times as long.
    reach = slip_mm - HAIR_MM
    few = _FEW * shapely.get_num_coordinates(cut)
    far = cache(lambda: grow(near_boxes(cut, [cell for border in own for cell in border.upon]), -reach))
    wrong: list[MultiPolygon] = []
    for border, face in zip(own, faces, strict=True):
        upon = np.array(border.upon, dtype=object)
        if shapely.get_num_coordinates(border.edges) < few:
            near = _solid(shapely.union_all(_common(upon, grow(border.edges, reach))))
        else:
            near = _solid(_without(joined(upon), far()))
        if near.is_empty:
            continue
        if border.lower == GROUND:
            wrong.append(_solid(_common(near, near_boxes(inner, [near]))))
        else:
            wrong.append(_solid(_without(near, _around(face, near, slip_mm))))
    wrong = [shape for shape in wrong if shape.geoms]
    return _thick(wrong[0] if len(wrong) == 1 else shapely.union_all(wrong))


def _around(face: MultiPolygon, near: MultiPolygon, slip_mm: float) -> BaseGeometry:
    """What lies within a slip of a face, of all that is near beside it: of few edges that come so near, if they are few."""
    meets = near_boxes(face, [near], slip_mm)
    rings = shapely.get_rings(shapely.get_parts(meets))
    corners, ring = shapely.get_coordinates(rings, return_index=True)
    edges = shapely.linestrings(np.stack([corners[:-1], corners[1:]], axis=1)[ring[:-1] == ring[1:]])
    reach = shapely.box(*(shapely.bounds(shapely.get_parts(near)) + slip_mm * np.array([-1.0, -1.0, 1.0, 1.0])).T)
    some = np.unique(shapely.STRtree(edges).query(reach)[1])
    if len(some) > _FEW * len(edges):
        return grow(meets, slip_mm)
    return grow(shapely.line_merge(shapely.multilinestrings(edges[some])), slip_mm)


def _thick(shape: BaseGeometry) -> MultiPolygon:
    """What of a shape is more than rounding, without the needles that overlays leave."""
    return _solid(clean(_solid(shape)))


def _solid(shape: BaseGeometry) -> MultiPolygon:
    """Those areas of a shape that are more than rounding."""
    parts = shapely.get_parts(shapely.get_parts(shape))
    areas = parts[shapely.get_type_id(parts) == shapely.GeometryType.POLYGON]
    return MultiPolygon(list(areas[shapely.area(areas) > HAIR_MM * shapely.length(areas)]))


def bared(risk: MultiPolygon, cut: MultiPolygon, slip: tuple[float, float]) -> MultiPolygon:
    """What a film bares that has slipped by so many mm across and down."""
    if risk.is_empty:
        return risk
    return _thick(_left_by(risk, near_boxes(cut, [risk], math.hypot(*slip)), slip))


def _left_by(risk: MultiPolygon, cut: BaseGeometry, slip: tuple[float, float]) -> BaseGeometry:
    return _without(risk, shapely.transform(cut, lambda p: p + np.array(slip)))


@dataclass(frozen=True)
class Drift:
    """The worst that a film bares for a slip: which way it slipped (mm), how much area it bares, and where."""

    slip: tuple[float, float]
    mm2: float
    shape: MultiPolygon


NO_DRIFT = Drift((0.0, 0.0), 0.0, MultiPolygon())


def worst(risk: MultiPolygon, cut: MultiPolygon, slip_mm: float) -> Drift:
    """The worst of all directions: the few that scattered points tell to be nearly so are worked out."""
    if risk.is_empty:
        return NO_DRIFT
    near = near_boxes(cut, [risk], slip_mm)
    judged = bared_each_way(risk, near, slip_mm, DIRECTIONS)
    corners = int(shapely.get_num_coordinates([risk, near]).sum())
    tried = min(_MOST_TRIED, max(_TRIED, _QUICK_POINTS // corners))
    likely = [int(k) for k in np.argsort(-judged, kind="stable")[:tried] if judged[k] >= _NEARLY * judged.max()]
    found = []
    for k in likely:
        angle = 2 * math.pi * k / DIRECTIONS
        slip = slip_mm * math.cos(angle), slip_mm * math.sin(angle)
        shape = _thick(_left_by(risk, near, slip))
        found.append(Drift(slip, float(shape.area), shape))
    return max(found, key=lambda drift: drift.mm2)


def beside(risk: MultiPolygon, film: int, faces: Sequence[MultiPolygon]) -> Mapping[int, float]:
    """The films at whose border with this one something is at risk: how much of each, in mm2."""
    out: dict[int, float] = {}
    parts = shapely.get_parts(risk)
    for other, face in enumerate(faces):
        if other == film or risk.is_empty:
            continue
        shapely.prepare(face)
        near = shapely.area(parts[shapely.dwithin(face, parts, _TOUCHING_MM)])
        if len(near):
            out[other] = float(near.sum())
    return out
