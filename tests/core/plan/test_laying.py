"""Laying on film: nothing overlaps, nothing is lost, and what stays is really free."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, box
from shapely.affinity import translate

from gladstack.core.geometry.shapes import clean
from gladstack.core.plan.laying import HALF_TURNS, QUARTERS, Item, Room, Spot, lies_in, moved
from gladstack.core.plan.nest import outer_edge, solver_turns
from gladstack.core.plan.pack import Forms, fill, free_spot
from gladstack.core.plan.rest import free_rectangles
from gladstack.core.plan.sections import edges_of, narrowness, sections_at
from gladstack.core.plan.tiles import (
    Seams,
    SeamWanted,
    TileError,
    Tiling,
    crumbs_at,
    find_seams,
    gaps,
    given_back,
    put_seams,
    tile_boxes,
    tile_of,
)
from gladstack.core.plan.weeding import weed_lines
from tests.core.shapes import ZOO, as_multi, shapes

ITEMS = st.lists(shapes(), min_size=1, max_size=8)


@given(ITEMS, st.sampled_from([0.5, 2.0]), st.sampled_from([(0.0,), HALF_TURNS, QUARTERS]))
def test_what_is_filled_in_keeps_apart_and_inside(
    found: list[MultiPolygon], spacing: float, turns: tuple[float, ...]
) -> None:
    room = Room(220.0, 70.0)
    items = [Item(s, turns) for s in found]
    laid = fill(items, room, spacing)
    drawn = [moved(i.shape, s.matrix) for i, s in zip(items, laid.spots, strict=True) if s is not None]
    assert all(lies_in(d.bounds, room) for d in drawn)
    assert all(a.distance(b) >= spacing - 1e-9 for a, b in itertools.combinations(drawn, 2))
    assert all(s is None or s.turn_deg in turns for s in laid.spots)
    if drawn:
        assert laid.length_mm >= max(d.bounds[2] for d in drawn) - 1e-9
    # The same again, and around what lies there already.
    assert fill(items, room, spacing) == laid
    more = fill(items[:1], room, spacing, drawn)
    for spot in more.spots:
        assert spot is None or min(moved(items[0].shape, spot.matrix).distance(d) for d in drawn) >= spacing - 1e-9


SIZES = st.tuples(st.floats(0.3, 60), st.floats(0.3, 40))


@given(st.lists(SIZES, min_size=1, max_size=12), ITEMS, st.sampled_from([0.0, 0.5, 2.0, 3.3]), st.floats(0.4, 3.0))
def test_boxes_keep_apart_from_one_another_and_from_all_else(
    sizes: list[tuple[float, float]], others: list[MultiPolygon], spacing: float, cell: float
) -> None:
    room = Room(160.0, 90.0)
    items = [Item(MultiPolygon([box(1.7, -3.1, 1.7 + w, h - 3.1)]), QUARTERS) for w, h in sizes]
    items += [Item(s) for s in others]
    laid = fill(items, room, spacing, cell_mm=cell)
    drawn = [moved(i.shape, s.matrix) for i, s in zip(items, laid.spots, strict=True) if s is not None]
    assert all(lies_in(d.bounds, room) for d in drawn)
    assert all(a.distance(b) >= spacing - 1e-9 for a, b in itertools.combinations(drawn, 2))
    assert all(not shapely.relate_pattern(a, b, "T********") for a, b in itertools.combinations(drawn, 2))


@given(ITEMS, st.sampled_from([0.5, 2.0]))
def test_forms_that_were_worked_out_for_another_room_lay_the_same(found: list[MultiPolygon], spacing: float) -> None:
    items = [Item(s, HALF_TURNS, k) for k, s in enumerate(found)]
    forms = Forms(spacing)
    for room in (Room(90.0, 60.0), Room(220.0, 70.0), Room(90.0, 60.0)):
        assert fill(items, room, spacing, forms=forms) == fill(items, room, spacing)


def test_small_things_go_into_holes() -> None:
    ring = clean(Point(40, 40).buffer(40).difference(Point(40, 40).buffer(34)))
    disc = clean(Point(0, 0).buffer(8))
    laid = fill([Item(ring), *[Item(disc, form=1)] * 6], Room(500, 82), 2.0)
    assert laid.length_mm < 85


def test_the_nearest_free_spot_is_free_and_near() -> None:
    item, room = Item(as_multi(box(0, 0, 10, 10))), Room(100, 50)
    taken = [box(0, 0, 60, 50)]
    found = free_spot(item, room, 2.0, taken, Spot(0.0, 30.0, 20.0))
    assert found is not None
    assert moved(item.shape, found.matrix).distance(taken[0]) >= 2.0
    assert found.x_mm < 65
    assert free_spot(item, room, 2.0, [box(0, 0, 100, 50)], Spot(0.0, 0.0, 0.0)) is None


BOXES = st.lists(st.tuples(st.integers(0, 180), st.integers(0, 80), st.integers(5, 60), st.integers(5, 40)), max_size=6)


@given(BOXES)
def test_what_stays_is_free_and_worth_keeping(found: list[tuple[int, int, int, int]]) -> None:
    taken = [(float(x), float(y), float(x + w), float(y + h)) for x, y, w, h in found]
    rects = [box(*r) for r in free_rectangles(200.0, 100.0, taken, 40.0)]
    for rect in rects:
        left, top, right, bottom = rect.bounds
        assert min(right - left, bottom - top) >= 40
        assert box(0, 0, 200, 100).contains(rect)
        assert all(rect.intersection(box(*t)).area == 0 for t in taken)
    assert all(a.intersection(b).area == 0 for a, b in itertools.combinations(rects, 2))
    assert [r.area for r in rects] == sorted((r.area for r in rects), reverse=True)
    if not taken:
        assert [r.area for r in rects] == [20_000]


@given(shapes(), st.floats(-5, 55), st.sampled_from([0, 1]))
def test_sections_are_where_the_line_runs_through(shape: MultiPolygon, at: float, axis: int) -> None:
    line = shapely.LineString([(at, -100), (at, 200)] if axis == 0 else [(-100, at), (200, at)])
    found = sections_at(edges_of(shape, axis), at)
    corners = np.asarray(shapely.get_coordinates(shape))[:, axis]
    if np.abs(corners - at).min() > 1e-6:
        assert np.diff(found, axis=1).sum() == pytest.approx(shape.intersection(line).length, abs=1e-6)
        crossed = narrowness([edges_of(shape, axis)], np.array([at]), 0.0, 1.0)
        assert crossed[0] == len(found)


@given(st.lists(shapes(), min_size=1, max_size=5), st.sampled_from([10.0, 25.0]), st.sampled_from([0.5, 1.5]))
def test_weed_lines_run_through_waste_only(found: list[MultiPolygon], strip: float, clearance: float) -> None:
    parts = [translate(s, 60 * k, 0) for k, s in enumerate(found)]
    assume(any(not p.is_empty for p in parts))
    left, top, right, bottom = shapely.total_bounds(np.array(parts, dtype=object))
    around = (left - 6, top - 6, right + 6, bottom + 6)
    lines = [shapely.LineString(line) for line in weed_lines(parts, around, strip, clearance)]
    assert all(line.distance(p) >= clearance - 1e-6 for line in lines for p in parts)
    assert all(shapely.box(*around).contains(line) for line in lines)
    # They never meet, so the waste hangs together.
    assert all(a.distance(b) > 0 for a, b in itertools.combinations(lines, 2))


@given(shapes(), st.lists(st.floats(5, 40), max_size=2), st.lists(st.floats(5, 40), max_size=2), st.sampled_from([0.0, 1.0]))
def test_tiles_give_the_shape_back(shape: MultiPolygon, xs: list[float], ys: list[float], overlap: float) -> None:
    left, top, right, bottom = shape.bounds
    inside = [tuple(sorted(c for c in cs if low < c < high)) for cs, low, high in ((xs, left, right), (ys, top, bottom))]
    boxes = tile_boxes(shape.bounds, Seams(*inside), overlap)
    pieces = [tile_of(shape, b, shape.bounds) for b in boxes]
    assert given_back(shape, pieces) <= 1e-6 * shape.area
    if not overlap:
        assert sum(p.area for p in pieces) == pytest.approx(shape.area, rel=1e-9)


def test_a_seam_runs_between_parts_where_it_can() -> None:
    bars = clean(shapely.union_all([box(0, 30 * k, 200, 30 * k + 24) for k in range(8)]))
    seams = find_seams([bars], (0.0, 0.0, 200.0, 234.0), Tiling(400.0, 150.0))
    assert len(seams.y) == 1
    assert not len(sections_at(edges_of(bars, 1), seams.y[0]))
    assert crumbs_at([bars], 1, 1.0, 3.0) == 1
    assert crumbs_at([bars], 1, 12.0, 3.0) == 0


@given(
    st.lists(st.tuples(st.integers(0, 4), st.floats(-300, 900)), min_size=1, max_size=5),
    st.floats(101, 180),
    st.sampled_from([-6.0, 0.0, 4.0]),
)
def test_seams_put_by_hand_leave_as_many_tiles_that_all_fit(
    puts: list[tuple[int, float]], most: float, overlap: float
) -> None:
    bar, frame = MultiPolygon([box(-200, 0, 300, 60)]), (-200.0, 0.0, 300.0, 60.0)
    tiling = Tiling(most, 400.0, 2.0)
    found = find_seams([bar], frame, tiling)
    # Wider overlaps may need more tiles than there are.
    assume((len(found.x) + 1) * most - len(found.x) * max(2.0, overlap) - 2.0 >= 500)
    wanted = [SeamWanted(0, k, at, overlap) for k, at in puts]
    put = put_seams(found, wanted, frame, tiling)
    assert len(put.x) == len(found.x)
    boxes = tile_boxes(frame, put, tiling.overlap_mm)
    assert all(
        right - left + max(0.0, -overlap) >= 5.0 - 1e-3 and right - left <= most + 1e-3 for left, _, right, _ in boxes
    )
    # The first to be put has its way wherever tiles fit, and lies as near as can be otherwise.
    k, at = next(((k, at) for k, at in puts if k < len(found.x)), (0, found.x[0]))
    room, n = most - max(2.0, overlap), len(found.x)
    if max(-200 + 6 * (k + 1), 300 - (n - k) * room) <= at <= min(-200 + (k + 1) * room, 300 - 6 * (n - k)):
        assert put.x[k] == pytest.approx(at, abs=1e-3)
    covered = shapely.union_all([box(*b) for b in [*boxes, *gaps(frame, put, tiling.overlap_mm)]])
    assert covered.area == pytest.approx(500 * 60, abs=1e-2)


def test_more_seams_than_are_needed_or_fewer_than_fit() -> None:
    bar, frame = MultiPolygon([box(0, 0, 500, 60)]), (0.0, 0.0, 500.0, 60.0)
    assert len(find_seams([bar], frame, Tiling(200.0, 400.0), counts=(5, 1)).x) == 5
    with pytest.raises(TileError, match="larger"):
        find_seams([bar], frame, Tiling(200.0, 400.0), counts=(1, 0))
    found = find_seams([bar], frame, Tiling(200.0, 400.0))
    with pytest.raises(TileError, match="larger"):
        put_seams(found, [SeamWanted(0, 0, None, 190.0)], frame, Tiling(200.0, 400.0))


@pytest.mark.parametrize("name", [n for n in ZOO if n != "empty"])
def test_the_edge_that_the_solver_sees_holds_all_of_a_shape(name: str) -> None:
    shape = as_multi(ZOO[name])
    assert shapely.Polygon(outer_edge(shape, 1.0)).buffer(1e-6).contains(shapely.buffer(shape, 0.99))


def test_the_edge_that_the_solver_sees_leaves_the_room_in_a_nook_to_others() -> None:
    nook = as_multi(shapely.difference(box(0, 0, 40, 40), box(10, 10, 40, 40)))
    edge = shapely.Polygon(outer_edge(nook, 0.5))
    assert edge.area < 1.15 * shapely.buffer(nook, 0.5).area
    apart = shapely.Polygon(outer_edge(as_multi(MultiPolygon([box(0, 0, 10, 10), box(14, 0, 24, 10)])), 0.5))
    assert apart.buffer(1e-6).contains(box(0, 0, 10, 10))
    assert apart.area < 1.1 * shapely.buffer(box(0, 0, 24, 10), 0.5).area


@pytest.mark.parametrize("side", range(4))
def test_a_box_lies_in_a_room_only_with_all_its_sides(side: int) -> None:
    room = Room(100.0, 50.0)
    assert lies_in((0.0, 0.0, 100.0, 50.0), room)
    reaching = [0.0, 0.0, 100.0, 50.0]
    reaching[side] += -0.1 if side < 2 else 0.1
    assert not lies_in((reaching[0], reaching[1], reaching[2], reaching[3]), room)
    assert lies_in((reaching[0], reaching[1], reaching[2], reaching[3]), room, 0.11)


def test_straight_things_turn_by_quarters() -> None:
    assert solver_turns(Item(as_multi(ZOO["square"]), tuple(range(0, 360, 15)))) == QUARTERS
    assert len(solver_turns(Item(as_multi(ZOO["disc"]), tuple(range(0, 360, 15))))) == 24
    assert solver_turns(Item(as_multi(ZOO["square"]), HALF_TURNS)) == HALF_TURNS
