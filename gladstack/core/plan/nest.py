"""Nesting: items laid so that they take as little of a film's length as time allows.

A first answer comes from `pack.fill`. The solver (spyrrow; Gardeyn and Wauters 2025) then works on the strip: it knows
neither holes nor what lies there already, so what fits into a hole is laid there before, and moves with the part around it.
Shapes go to it grown by half the spacing, so that whatever it leaves between them is the spacing or more.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import compose
from gladstack.core.plan.laying import QUARTERS, Item, Room, Spot, length_used, moved
from gladstack.core.plan.pack import Forms, fill

_SLACK_MM = 0.03
"""How much outlines are made simpler for the solver, outwards; also what it may be off by itself, at most."""
_SEED = 7
_ALONG_DEG = 5.0


@dataclass(frozen=True)
class Nested:
    """Where items lie, by their place in the list, and how far along the film they reach; None: there is no room for one."""

    spots: tuple[Spot | None, ...]
    length_mm: float


def nest(
    items: Sequence[Item],
    room: Room,
    spacing_mm: float,
    seconds: int = 0,
    first: Nested | None = None,
) -> Nested:
    """Lays items into the room; with `seconds` the solver looks for something shorter than the `first` answer."""
    best = first or first_answer(items, room, spacing_mm)
    if seconds <= 0 or len(items) < 2 or any(s is None for s in best.spots):
        return best
    hosts = _in_holes(items, spacing_mm)
    found = _solved(hosts, items, room, spacing_mm, seconds)
    if found is not None and _is_sound(items, found.spots, room, spacing_mm) and found.length_mm < best.length_mm:
        return found
    return best


def first_answer(items: Sequence[Item], room: Room, spacing_mm: float, forms: Forms | None = None) -> Nested:
    """What is found at once: by first fit, in quarter turns. `forms` is kept from room to room."""
    quick = [replace(i, turns=QUARTERS) if len(i.turns) > len(QUARTERS) else i for i in items]
    found = fill(quick, room, spacing_mm, forms=forms)
    return Nested(found.spots, _reach(items, found.spots))


def _reach(items: Sequence[Item], spots: Sequence[Spot | None]) -> float:
    return length_used([moved(i.shape, s.matrix) for i, s in zip(items, spots, strict=True) if s is not None])


def _is_sound(items: Sequence[Item], spots: Sequence[Spot | None], room: Room, spacing_mm: float) -> bool:
    """Whether all lie in the room and keep the spacing."""
    shapes = np.array([moved(i.shape, s.matrix) for i, s in zip(items, spots, strict=True) if s is not None], dtype=object)
    if len(shapes) < len(items) or not len(shapes):
        return False
    boxes = shapely.bounds(shapes)
    inside = boxes[:, :2].min() >= -1e-6 and boxes[:, 2].max() <= room.length_mm + 1e-6
    if not (inside and boxes[:, 3].max() <= room.width_mm + 1e-6):
        return False
    tree = shapely.STRtree(shapes)
    a, b = tree.query(shapes, predicate="dwithin", distance=max(0.0, spacing_mm - tolerances.TOUCH_MM))
    return bool(np.all(a == b))


@dataclass(frozen=True)
class _Host:
    """An item with others in its holes: (place in the list, its motion within the host)."""

    item: int
    guests: tuple[tuple[int, Spot], ...] = ()


def _in_holes(items: Sequence[Item], spacing_mm: float) -> list[_Host]:
    """Items with what fits into their holes; what lies in a hole is in the list no more."""
    order = sorted(range(len(items)), key=lambda k: -items[k].shape.area)
    guests_of: dict[int, tuple[tuple[int, Spot], ...]] = {}
    gone: set[int] = set()
    for k in order:
        if k in gone:
            continue
        for hole in (Polygon(r) for p in items[k].shape.geoms for r in p.interiors):
            left, top, right, bottom = hole.bounds
            small = [
                j for j in order if j not in gone and j != k and j not in guests_of and _may_fit(items[j], hole, spacing_mm)
            ]
            if not small:
                continue
            edge = Polygon(shapely.box(*hole.bounds).buffer(spacing_mm + 2).exterior, [hole.exterior.coords])
            edge = shapely.transform(edge, lambda p, x=left, y=top: p - (x, y))
            room = Room(right - left, bottom - top)
            quick = [replace(items[j], turns=items[j].turns[:1]) for j in small[:200]]
            laid = fill(quick, room, spacing_mm, [edge])
            for j, spot in zip(small, laid.spots, strict=False):
                if spot is not None:
                    guests_of[k] = (*guests_of.get(k, ()), (j, Spot(spot.turn_deg, spot.x_mm + left, spot.y_mm + top)))
                    gone.add(j)
    return [_Host(k, guests_of.get(k, ())) for k in range(len(items)) if k not in gone]


def _may_fit(item: Item, hole: Polygon, spacing_mm: float) -> bool:
    left, top, right, bottom = item.shape.bounds
    lx, ly, hx, hy = hole.bounds
    small, large = sorted((right - left, bottom - top))
    low, high = sorted((hx - lx - 2 * spacing_mm, hy - ly - 2 * spacing_mm))
    return bool(small <= low and large <= math.hypot(low, high) and item.shape.area < hole.area)


def _solved(hosts: Sequence[_Host], items: Sequence[Item], room: Room, spacing_mm: float, seconds: int) -> Nested | None:
    import spyrrow

    half = spacing_mm / 2
    forms: dict[object, list[int]] = {}
    for n, host in enumerate(hosts):
        item = items[host.item]
        forms.setdefault((item.form, item.turns) if item.form >= 0 and not host.guests else n, []).append(n)
    known = {}
    wanted: list[spyrrow.Item] = []
    for key, members in forms.items():
        item = items[hosts[members[0]].item]
        name = str(len(wanted))
        points = [(float(x), float(y)) for x, y in outer_edge(item.shape, half)]
        wanted.append(spyrrow.Item(name, points, len(members), list(solver_turns(item))))
        known[name] = list(members)
        del key
    try:
        instance = spyrrow.StripPackingInstance("film", room.width_mm + spacing_mm, wanted)
        explore = max(1, round(0.8 * seconds))
        config = spyrrow.StripPackingConfig(
            early_termination=True, exploration_time=explore, compression_time=max(1, seconds - explore), num_workers=2,
            seed=_SEED, total_computation_time=None,
        )  # fmt: skip
        solution = instance.solve(config)
    except BaseException as fault:
        if isinstance(fault, KeyboardInterrupt | SystemExit | MemoryError):
            raise
        return None
    spots: list[Spot | None] = [None] * len(items)
    for placed in solution.placed_items:
        host = hosts[known[placed.id].pop()]
        x, y = placed.translation
        spots[host.item] = spot = Spot(placed.rotation % 360.0, x - half, y - half)
        for guest, within in host.guests:
            spots[guest] = _within(spot, within)
    drawn = [moved(i.shape, s.matrix) for i, s in zip(items, spots, strict=True) if s is not None]
    # What the solver leaves free before the first item is taken away.
    if not drawn:
        return None
    dx = min(s.bounds[0] for s in drawn)
    dy = min(0.0, min(s.bounds[1] for s in drawn)) + max(0.0, max(s.bounds[3] for s in drawn) - room.width_mm)
    shifted = [Spot(s.turn_deg, s.x_mm - dx, s.y_mm - dy) if s is not None else None for s in spots]
    return Nested(tuple(shifted), length_used(drawn) - dx)


def solver_turns(item: Item) -> tuple[float, ...]:
    """The turns that are worth the solver's time: what has most of its edge along two directions packs by quarter turns."""
    quarters = tuple(t for t in item.turns if t % 90.0 == 0.0)
    if len(item.turns) <= len(QUARTERS) or not quarters:
        return item.turns
    edges = np.concatenate([np.diff(np.asarray(p.exterior.coords), axis=0) for p in item.shape.geoms])
    lengths = np.hypot(edges[:, 0], edges[:, 1])
    aside = np.degrees(np.arctan2(edges[:, 1], edges[:, 0])) % 90.0
    along = np.minimum(aside, 90.0 - aside) <= _ALONG_DEG
    return quarters if lengths[along].sum() > lengths.sum() / 2 else item.turns


def _within(host: Spot, guest: Spot) -> Spot:
    """Where a guest lies when its host has moved."""
    *_, x, y = compose(host.matrix, guest.matrix)
    return Spot((host.turn_deg + guest.turn_deg) % 360.0, x, y)


def outer_edge(shape: MultiPolygon, grown_mm: float) -> list[tuple[float, float]]:
    """One ring around all of a shape, no nearer to it than `grown_mm`, and simpler than its own edge.

    Pieces that lie apart are joined by closing the gaps between them; where that would take too wide a gap, by their hull.
    """
    whole = shapely.union_all([Polygon(p.exterior).buffer(grown_mm + _SLACK_MM, quad_segs=6) for p in shape.geoms])
    reach = max(shape.bounds[2] - shape.bounds[0], shape.bounds[3] - shape.bounds[1]) / 64
    for step in range(5):
        if whole.geom_type == "Polygon":
            break
        near = reach * 2**step
        joined = shapely.union_all([whole, whole.buffer(near, quad_segs=4).buffer(-near, quad_segs=4)])
        whole = joined if joined.geom_type == "Polygon" or step < 4 else whole.convex_hull
    simple = shapely.simplify(Polygon(whole.exterior), _SLACK_MM)
    points = [(float(x), float(y)) for x, y in simple.exterior.coords[:-1]]
    # The solver wants a polygon of points that differ.
    return points if len(points) >= 3 else [(float(x), float(y)) for x, y in whole.envelope.exterior.coords[:-1]]
