"""Areas put together from the arcs of a planar map."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import (
    GRID_MM,
    Chain,
    Curve,
    steps_for,
)
from gladstack.core.picture.trace import OUTSIDE

FloatArray = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Arc:
    """One border in millimetres: its curves, the same flattened, and the areas to its left and right."""

    chain: Chain
    points: FloatArray
    left: int
    right: int

    @property
    def curve(self) -> Curve:
        """Chain and points together."""
        steps = steps_for(self.chain.pieces, self.chain.straight, tolerances.FLATTEN_MM)
        return Curve(self.chain, self.points, np.concatenate([[0], np.cumsum(steps)]))


def assembled(arcs: list[Arc], count: int) -> tuple[tuple[Polygon, ...], set[int]]:
    """The polygon of every area, and the arcs that made one come out wrong."""
    halves: list[list[tuple[int, bool]]] = [[] for _ in range(count)]
    for k, arc in enumerate(arcs):
        if arc.left != OUTSIDE:
            halves[arc.left].append((k, True))
        if arc.right != OUTSIDE:
            halves[arc.right].append((k, False))
    areas = []
    bad: set[int] = set()
    for own in halves:
        rings = _rings(arcs, own)
        signed = [_signed_area(r) for r, _ in rings]
        shells = [k for k, s in enumerate(signed) if s < 0]
        holes = [k for k, s in enumerate(signed) if s > 0]
        if len(shells) != 1 or any(len(r) < 4 for r, _ in rings):
            # A fold turns a small ring inside out or pinches one off: what is largest is right.
            largest = int(np.argmax(np.abs(signed)))
            small = [k for k in range(len(rings)) if k != largest and (k in shells or len(rings[k][0]) < 4)]
            bad |= {a for k in small or range(len(rings)) for a in rings[k][1]}
            areas.append(Polygon())
            continue
        areas.append(Polygon(rings[shells[0]][0], [rings[k][0] for k in holes]))
    for k in np.flatnonzero(~shapely.is_valid(np.array(areas, dtype=object))).tolist():
        bad |= _at_fault(arcs, [a for a, _ in halves[k]], areas[k])
    return tuple(areas), bad


def _at_fault(arcs: list[Arc], own: list[int], area: Polygon) -> set[int]:
    """Those of an area's arcs that lie where it is not valid."""
    told = re.search(r"\[(\S+) (\S+)\]", shapely.is_valid_reason(area))
    if told:
        place = shapely.Point(float(told[1]), float(told[2]))
        near = {a for a in own if shapely.distance(shapely.LineString(arcs[a].points), place) <= 2 * GRID_MM}
        if near:
            return near
    return set(own)


def _rings(arcs: list[Arc], own: list[tuple[int, bool]]) -> list[tuple[FloatArray, list[int]]]:
    """Simple closed rings out of the half-arcs of one area, parted wherever they touch themselves, and the arcs of each."""
    runs = {(k, f): (arcs[k].points if f else arcs[k].points[::-1]) for k, f in own}
    leaving: dict[bytes, list[tuple[int, bool]]] = {}
    for key, run in runs.items():
        leaving.setdefault(run[0].tobytes(), []).append(key)
    left = set(own)
    rings = []
    for start in own:
        if start not in left:
            continue
        path: list[FloatArray] = []
        along: list[int] = []
        seen: dict[bytes, int] = {runs[start][0].tobytes(): 0}
        here = start
        while True:
            left.discard(here)
            path.append(runs[here][:-1])
            along.append(here[0])
            end = runs[here][-1].tobytes()
            if end in seen:
                cut = seen[end]
                ring = np.vstack(path[cut:])
                rings.append((np.vstack([ring, ring[:1]]), along[cut:]))
                seen = {k: v for k, v in seen.items() if v <= cut}
                del path[cut:], along[cut:]
            else:
                seen[end] = len(path)
            onward = [h for h in leaving.get(end, []) if h in left]
            if not onward:
                break
            here = onward[0]
    return rings


def _signed_area(ring: FloatArray) -> float:
    x, y = ring[:, 0] - ring[0, 0], ring[:, 1] - ring[0, 1]
    return float(0.5 * np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]))
