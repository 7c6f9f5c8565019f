"""New edges of shapes that share a plane, drawn once for all of them: neighbours are written with the same curves."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import Curve, curve_of, line_chain, on_grid
from gladstack.core.geometry.new_edges import fit_edges
from gladstack.core.geometry.outlines import CurveIndex
from gladstack.core.geometry.simplify import crossing, put_together

FloatArray = npt.NDArray[np.float64]

_LONG_ENOUGH = 3
"""A run of fewer points is a straight line, which needs no drawing."""


@dataclass(frozen=True)
class Drawn:
    """Shapes with their new edges drawn, and the curves of these."""

    shapes: dict[str, MultiPolygon]
    curves: tuple[Curve, ...]


@dataclass(frozen=True)
class _Run:
    """A stretch of edge: its points as they were, whether no curve has it yet, and the one that it is drawn with then."""

    points: FloatArray
    new: bool
    curve: Curve


def drawn_once(shapes: Mapping[str, MultiPolygon], index: CurveIndex) -> Drawn:
    """`shapes`, which do not overlap, with every edge that no curve of `index` has drawn within the fitting tolerance.

    What is new runs between points where more than two edges meet, or where it leaves an edge that is known. Edges that
    would come to cross others stay as they are.
    """
    boundaries = [s.boundary for s in shapes.values() if not s.is_empty]
    if not boundaries:
        return Drawn(dict(shapes), ())
    merged = shapely.line_merge(shapely.union_all(boundaries))
    runs = [run for line in shapely.get_parts(merged) for run in _runs(np.asarray(line.coords), index)]
    if not any(run.new for run in runs):
        return Drawn(dict(shapes), ())
    amiss = crossing([run.curve for run in runs])
    edges = [_as_it_is(run.points) if k in amiss else run.curve for k, run in enumerate(runs)]
    drawn = tuple(edge for run, edge in zip(runs, edges, strict=True) if run.new)
    return Drawn(put_together(shapes, [e.points for e in edges]), drawn)


def _runs(points: FloatArray, index: CurveIndex) -> Iterator[_Run]:
    """An edge between two meeting points, or a ring, parted where new stretches begin and end."""
    edge, _ = index.edges_of(points)
    new = edge < 0
    closed = bool(np.all(points[0] == points[-1]))
    if np.all(new):
        yield _Run(points, True, _curve(points, closed=closed))
        return
    if closed and new[0] and new[-1]:
        # A ring is begun where it is known, so that a new stretch is not parted at the ring's first point.
        turn = int(np.flatnonzero(~new)[0])
        points = np.vstack([points[turn:-1], points[: turn + 1]])
        new = np.roll(new, -turn)
    at = [0, *(np.flatnonzero(new[1:] != new[:-1]) + 1).tolist(), len(new)]
    for a, b in itertools.pairwise(at):
        own = points[a : b + 1]
        yield _Run(own, bool(new[a]), _curve(own, closed=False) if new[a] else _as_it_is(own))


def _curve(points: FloatArray, *, closed: bool) -> Curve:
    if len(points) < _LONG_ENOUGH:
        return _as_it_is(points)
    chain = on_grid(fit_edges(points, closed=closed))
    # Its ends are where other edges go on: they stay where they are, to the last bit.
    chain.pieces[0, 0], chain.pieces[-1, 3] = points[0], points[-1]
    return curve_of(chain, tolerances.FLATTEN_MM)


def _as_it_is(points: FloatArray) -> Curve:
    return Curve(line_chain(points), points, np.arange(len(points)))
