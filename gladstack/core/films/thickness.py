"""How many films lie on one another, and ridges: places where the edges of three or more lie close together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.plane import Point
from gladstack.core.films.invariants import overlap
from gladstack.core.geometry.shapes import clean
from gladstack.core.geometry.widths import edge_points

RIDGE_MM = 1.0
RIDGE_FILMS = 3
"""Edges of so many films within so much make a ridge that is felt."""
_STEP_MM = 0.25


def piled(below: Sequence[MultiPolygon], film: MultiPolygon) -> tuple[MultiPolygon, ...]:
    """Where at least one, two, three ... films lie, once another is laid on a stack of which that is known."""
    out = list(below)
    for k in range(len(below), 0, -1):
        common = clean(overlap(below[k - 1], film))
        if common.is_empty:
            continue
        if k == len(out):
            out.append(common)
        else:
            out[k] = clean(shapely.union(out[k], common))
    first = clean(shapely.union(out[0], film)) if out else film
    return (first, *out[1:]) if not first.is_empty else ()


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
