"""What is seen of films, how many lie on one another, and ridges, where the edges of three or more lie close together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon

from gladstack.core.base.plane import Point
from gladstack.core.base.tolerances import AREA_MM2
from gladstack.core.geometry.edge_points import edge_points
from gladstack.core.geometry.shapes import clean

RIDGE_MM = 1.0
RIDGE_FILMS = 3
"""Edges of so many films within so much make a ridge that is felt."""
_STEP_MM = 0.25


@dataclass(frozen=True)
class Piled:
    """How the films of a stack lie on one another: what is seen of each, from the ground up, which lower films lie under
    that, and where at least one, two, three ... of them lie."""

    faces: tuple[MultiPolygon, ...]
    under: tuple[tuple[int, ...], ...]
    at_least: tuple[MultiPolygon, ...]


def piled(cuts: Sequence[MultiPolygon]) -> Piled:
    """How films lie that are given from the ground up.

    All edges of pieces that others may lie on make cells; each is covered by the same films all over. It is measured, and
    never cut: cells of less than rounding are left out.
    """
    pieces = np.concatenate([shapely.get_parts(cut) for cut in cuts]) if cuts else np.array([], dtype=object)
    film = np.repeat(np.arange(len(cuts)), [len(cut.geoms) for cut in cuts])
    one, other = shapely.STRtree(pieces).query(pieces)
    met = np.unique(one[film[one] != film[other]])
    alone = np.ones(len(pieces), dtype=bool)
    alone[met] = False
    cells = shapely.get_parts(shapely.polygonize([shapely.union_all(shapely.boundary(pieces[met]))]))
    cells = cells[shapely.area(cells) > AREA_MM2]
    cell, within = shapely.STRtree(pieces[met]).query(shapely.point_on_surface(cells), "within")
    count, top = np.zeros(len(cells), np.int64), np.full(len(cells), -1)
    np.add.at(count, cell, 1)
    np.maximum.at(top, cell, film[met][within])
    at_least = [_joined(cells[count >= films]) for films in range(1, count.max(initial=0) + 1)]
    if alone.any():
        at_least[:1] = [MultiPolygon([*(at_least[0].geoms if at_least else ()), *pieces[alone]])]
    faces = [
        MultiPolygon([*_joined(cells[top == k]).geoms, *pieces[alone & (film == k)]]) if (film[met] == k).any() else cut
        for k, cut in enumerate(cuts)
    ]
    under = np.unique(np.stack([top[cell], film[met][within]], axis=1), axis=0)
    below = tuple(tuple(int(j) for k, j in under if k == own and j < k) for own in range(len(cuts)))
    return Piled(tuple(faces), below, tuple(at_least))


def _joined(cells: npt.NDArray[np.object_]) -> MultiPolygon:
    return clean(shapely.coverage_union_all(cells))


def area_by_count(at_least: Sequence[MultiPolygon]) -> dict[int, float]:
    """The area where just so many films lie, in mm2."""
    areas = [shape.area for shape in at_least] + [0.0]
    return {k + 1: areas[k] - areas[k + 1] for k in range(len(at_least))}


@dataclass(frozen=True)
class Ridge:
    """Where edges lie close: how many films, how long it runs in mm, and a point of it."""

    films: int
    mm: float
    at: Point


def ridges(at_least: Sequence[MultiPolygon]) -> tuple[Ridge, ...]:
    """Ridges, by the number of films that come down at them, the highest first.

    Along the edge of what at least n films cover, all n of them end within a step if ground (or what n less three cover) is
    so near.
    """
    out = []
    for top in range(len(at_least), RIDGE_FILMS - 1, -1):
        edge = edge_points(at_least[top - 1], _STEP_MM)
        low = at_least[top - RIDGE_FILMS].boundary
        if not len(edge.at):
            continue
        shapely.prepare(low)
        near = shapely.dwithin(low, shapely.points(edge.at), RIDGE_MM)
        long = float(edge.length[near].sum())
        if long > 0:
            k = int(np.flatnonzero(near)[len(np.flatnonzero(near)) // 2])
            out.append(Ridge(top, long, (float(edge.at[k, 0]), float(edge.at[k, 1]))))
    return tuple(out)
