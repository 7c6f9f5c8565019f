"""Runs of lines that a file lists by colour, joined end to end into closed shapes: what plots and DXF drawings hold."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from gladstack.core.base import tolerances
from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import MAX_COORDINATE_MM, Budget, Drawing, OpenEnds, Painted, filled, remarks_of
from gladstack.core.drawing.svg_paths import closed_chain
from gladstack.core.geometry.curves import (
    Chain,
    Matrix,
    curve_of,
    curves_of,
    on_grid,
    transform_chain,
    transform_curve,
    transform_points,
)
from gladstack.core.geometry.joining import JOIN_MM, joined
from gladstack.core.geometry.strokes import Pen, stroked


@dataclass(frozen=True)
class Hatch:
    """An area that is filled in the file itself: its colour, and the loops of its edge, in mm, y down."""

    colour: str
    loops: tuple[Chain, ...]


def outline_drawing(
    found: Sequence[tuple[str, Chain]],
    ends: OpenEnds,
    notices: Mapping[str, str],
    hatches: Sequence[Hatch] = (),
    *,
    told: bool,
    kind: str,
) -> Drawing:
    """The areas that runs (colour, chain in mm, y down) bound, one item a colour, the upper left corner at the origin.

    Those that do not close are left out, unless `ends` closes or expands them. What is hatched lies over them. `notices` is
    what the reader tells by code, `told` whether the file tells its size. Raises VectorError.
    """
    told_by_code, budget = dict(notices), Budget()
    move = _to_origin([chain for _, chain in found] + [loop for hatch in hatches for loop in hatch.loops])
    by_colour: dict[str, list[Chain]] = {}
    for colour, chain in found:
        by_colour.setdefault(colour, []).append(transform_chain(chain, move))
    budget.take("colours", len({*by_colour, *(hatch.colour for hatch in hatches)}))
    budget.take("shapes", len(hatches))
    budget.take("points", sum(3 * len(chain) for chains in by_colour.values() for chain in chains))
    items: list[Painted] = []
    left_open = twice = 0
    for colour, chains in by_colour.items():
        own, again = _once_each(chains)
        twice += again
        rings, runs = joined(own, ends.gap_mm)
        left_open += len(runs)
        if ends.how == "close":
            rings += [ring for run in runs if abs(_area(ring := closed_chain(run))) > tolerances.AREA_MM2]
        curves = curves_of([on_grid(r) for r in rings], tolerances.FLATTEN_MM)
        if curves:
            items.append(Painted(colour, filled(curves, "evenodd", budget), tuple(curves)))
        if ends.how == "expand" and runs:
            pen = Pen(ends.line_mm, "round", "round")
            lines = [(curve_of(r, tolerances.FLATTEN_MM).points, False) for r in runs]
            items.append(Painted(colour, stroked(lines, pen, tolerances.FLATTEN_MM), ()))
    if left_open and ends.how == "as-told":
        said = f"{left_open} outlines are not closed and were left out: close them, or expand them to lines."
        told_by_code["open"] = said
    if twice:
        many = "1 line was" if twice == 1 else f"{twice} lines were"
        told_by_code["twice"] = f"{many} drawn twice: one of each is kept."
    if both := _in_two_colours(by_colour):
        many = "1 line is" if both == 1 else f"{both} lines are"
        told_by_code["both"] = f"{many} drawn in two colours or layers: each of them becomes a film with what it bounds."
    for hatch in hatches:
        curves = curves_of([on_grid(closed_chain(transform_chain(c, move))) for c in hatch.loops], tolerances.FLATTEN_MM)
        budget.take("points", sum(len(c.points) for c in curves))
        items.append(Painted(hatch.colour, filled(curves, "evenodd", budget), tuple(curves)))
    items = [i for i in items if not i.shape.is_empty]
    if not items:
        why = told_by_code.get("numbers", "Join its lines into closed shapes, then save it again.")
        raise VectorError(f"This {kind} has no closed outlines.", why)
    left, top, right, bottom = shapely.total_bounds([i.shape for i in items]).tolist()
    moved = tuple(_moved(i, -left, -top) for i in items)
    return Drawing(right - left, bottom - top, told, moved, remarks_of(told_by_code), open_paths=left_open, bare_mm=1.0)


def _in_two_colours(by_colour: Mapping[str, Sequence[Chain]]) -> int:
    """How many runs are drawn in more than one colour."""
    seen = Counter(key for chains in by_colour.values() for key in {_way(chain) for chain in chains})
    return sum(count > 1 for count in seen.values())


def _way(chain: Chain) -> bytes:
    """Where a run goes, the same either way round."""
    way = np.round(chain.pieces.reshape(-1, 2) / JOIN_MM).astype(np.int64)
    return min(way.tobytes(), np.ascontiguousarray(way[::-1]).tobytes())


def _once_each(chains: Sequence[Chain]) -> tuple[list[Chain], int]:
    """Chains without those that were drawn before, either way round; and how many those are."""
    kept: dict[bytes, Chain] = {}
    for chain in chains:
        kept.setdefault(_way(chain), chain)
    return list(kept.values()), len(chains) - len(kept)


def _to_origin(chains: Sequence[Chain]) -> Matrix:
    """The move that brings the corner of all runs to the origin. Raises VectorError if they are more than 10 m large."""
    if not chains:
        return (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
    points = np.concatenate([chain.pieces.reshape(-1, 2) for chain in chains])
    low, size = points.min(axis=0), np.ptp(points, axis=0)
    if float(size.max()) > MAX_COORDINATE_MM:
        raise VectorError(
            f"This drawing is {size.max() / 1000:.4g} m large; at most 10 m can be cut.", "Save it at its real size."
        )
    return (1.0, 0.0, 0.0, 1.0, -float(low[0]), -float(low[1]))


def _moved(item: Painted, dx: float, dy: float) -> Painted:
    matrix: Matrix = (1.0, 0.0, 0.0, 1.0, dx, dy)
    shape = shapely.transform(item.shape, lambda p: transform_points(p, matrix))
    return replace(item, shape=shape, curves=tuple(transform_curve(c, matrix) for c in item.curves))


def _area(ring: Chain) -> float:
    """The signed area a ring's corners go round."""
    x, y = ring.pieces[:, 0].T
    return float(0.5 * np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))
