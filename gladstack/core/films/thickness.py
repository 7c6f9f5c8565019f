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
_CLOSE_MM = 1e-6


GROUND = -1
"""In place of a film, where none lies."""


@dataclass(frozen=True)
class Cells:
    """What all edges of pieces that others may lie on or beside divide a stack into: the same films cover a cell all over.
    `film[n]` lies in cell `cell[n]`.
    """

    shapes: npt.NDArray[np.object_]
    cell: npt.NDArray[np.int64]
    film: npt.NDArray[np.int64]


@dataclass(frozen=True)
class Piled:
    """How the films of a stack lie on one another: what is seen of each, from the ground up, where at least one, two, three
    ... of them lie, and the cells that tell so."""

    faces: tuple[MultiPolygon, ...]
    at_least: tuple[MultiPolygon, ...]
    cells: Cells


def piled(cuts: Sequence[MultiPolygon]) -> Piled:
    """How films lie that are given from the ground up.

    It is measured, and never cut: of what is seen, cells of less than rounding are left out.
    """
    pieces = np.concatenate([shapely.get_parts(cut) for cut in cuts]) if cuts else np.array([], dtype=object)
    film = np.repeat(np.arange(len(cuts)), [len(cut.geoms) for cut in cuts])
    one, other = shapely.STRtree(pieces).query(pieces)
    met = np.unique(one[film[one] != film[other]])
    alone = np.ones(len(pieces), dtype=bool)
    alone[met] = False
    shapes = shapely.get_parts(shapely.polygonize([shapely.union_all(shapely.boundary(pieces[met]))]))
    cell, within = shapely.STRtree(pieces[met]).query(_inside(shapes), "within")
    cells = Cells(shapes, cell, film[met][within])
    count, top = np.zeros(len(shapes), np.int64), np.full(len(shapes), GROUND)
    np.add.at(count, cells.cell, 1)
    np.maximum.at(top, cells.cell, cells.film)
    at_least = [joined(shapes[count >= films]) for films in range(1, count.max(initial=0) + 1)]
    if alone.any():
        at_least[:1] = [MultiPolygon([*(at_least[0].geoms if at_least else ()), *pieces[alone]])]
    faces = [
        MultiPolygon([*joined(shapes[top == k]).geoms, *pieces[alone & (film == k)]]) if (film[met] == k).any() else cut
        for k, cut in enumerate(cuts)
    ]
    return Piled(tuple(faces), tuple(at_least), cells)


def _inside(cells: npt.NDArray[np.object_]) -> npt.NDArray[np.object_]:
    """A point in each cell. One found in a needle of a cell may be outside by rounding: there, the middle of the cell's
    widest place takes its place.
    """
    points: npt.NDArray[np.object_] = shapely.point_on_surface(cells)
    close = np.flatnonzero(shapely.distance(shapely.boundary(cells), points) < _CLOSE_MM)
    if len(close):
        points[close] = shapely.get_point(shapely.maximum_inscribed_circle(cells[close]), 0)
    return points


def joined(cells: npt.NDArray[np.object_]) -> MultiPolygon:
    """Some cells as one shape, without those that are only rounding."""
    return clean(shapely.coverage_union_all(cells[shapely.area(cells) > AREA_MM2]))


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
