"""What a narrow place parts off, and the points and grids that widths are found by."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
import shapely.affinity
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from gladstack.core.geometry.edge_points import edge_points, grid_of
from gladstack.core.geometry.runs import Run, narrow_runs
from gladstack.core.geometry.shapes import clean
from tests.core.shapes import shapes
from tests.examples import examples

LIMIT = 0.8


def dumbbell(left: float, right: float, holed: float, turn: float) -> Polygon:
    """Two discs that hang together by a bar 0.5 mm wide, the left one with a hole, turned."""
    middle = left + right + 4
    discs = [shapely.Point(0, 0).buffer(left, quad_segs=40), shapely.Point(middle, 0).buffer(right, quad_segs=40)]
    whole = shapely.union_all([*discs, shapely.box(0, -0.25, middle, 0.25)])
    hole = shapely.Point(0, 0).buffer(holed * left, quad_segs=40)
    return shapely.affinity.rotate(shapely.difference(whole, hole), turn, origin=(0, 0))


def neck_of(shape: Polygon) -> Run:
    return next(r for r in narrow_runs(clean(shape), LIMIT) if not r.tip)


@given(st.floats(2, 8), st.floats(2, 8), st.floats(0.2, 0.7), st.floats(0, 360))
@settings(max_examples=examples(60))
def test_a_cut_through_a_neck_parts_off_the_smaller_side(left: float, right: float, holed: float, turn: float) -> None:
    neck = neck_of(dumbbell(left, right, holed, turn))
    assert neck.mm == pytest.approx(0.5, abs=0.03)
    smaller, bar = min(np.pi * left**2 * (1 - holed**2), np.pi * right**2), 0.5 * 4
    assert smaller - 0.3 <= neck.beyond_mm2 <= smaller + bar + 0.3


def opened_ring(inner: float, turn: float) -> Polygon:
    """A plate with a slit around a disc, which hangs by a neck of 0.5 mm and has a hole of its own."""
    slit = shapely.Point(0, 0).buffer(inner + 2, quad_segs=40).difference(shapely.Point(0, 0).buffer(inner, quad_segs=40))
    held = slit.difference(shapely.box(0, -0.25, 30, 0.25))
    plate = shapely.box(-20, -20, 20, 20).difference(held).difference(shapely.Point(0, 0).buffer(inner / 2, quad_segs=40))
    return shapely.affinity.rotate(plate, turn, origin=(3, 1))


@given(
    st.floats(0, 360).flatmap(
        lambda turn: st.one_of(
            st.builds(dumbbell, st.floats(2, 8), st.floats(2, 8), st.floats(0.2, 0.7), st.just(turn)),
            st.builds(opened_ring, st.floats(3, 12), st.just(turn)),
        )
    )
)
@settings(max_examples=examples(60))
def test_what_a_cut_parts_off_is_what_a_cut_leaves(shape: Polygon) -> None:
    neck = neck_of(shape)
    (ax, ay), (bx, by) = neck.sides
    cut = shapely.LineString([(ax - (bx - ax), ay - (by - ay)), (bx + (bx - ax), by + (by - ay))])
    left = shapely.get_parts(shapely.difference(shape, shapely.buffer(cut, 1e-4, cap_style="flat")))
    assert neck.beyond_mm2 == pytest.approx(min(one.area for one in left), abs=0.3)


def test_a_place_between_an_edge_and_a_hole_parts_nothing_off() -> None:
    shape = shapely.difference(shapely.box(0, 0, 20, 20), shapely.box(0.5, 4, 16, 16))
    (thin,) = [r for r in narrow_runs(clean(shape), LIMIT) if not r.tip]
    assert len(thin.rings) == 2
    assert thin.beyond_mm2 == 0


@given(shapes(), st.floats(0.05, 2))
@settings(max_examples=examples(40))
def test_points_stand_for_all_of_an_edge_in_its_order(shape: shapely.MultiPolygon, step: float) -> None:
    points = edge_points(shape, step)
    assert points.length.sum() == pytest.approx(shape.length)
    assert (points.ring[points.after] == points.ring).all()
    assert sorted(points.after.tolist()) == list(range(len(points.at)))
    assert np.hypot(*(points.at[points.after] - points.at).T).max(initial=0.0) <= step + 1e-9
    assert points.part.max(initial=-1) == len(shape.geoms) - 1
    # A point a little to the left of an edge lies in the area.
    edge = points.corner == 0
    left = np.stack([-points.along[edge, 1], points.along[edge, 0]], axis=1)
    inside = shapely.contains_xy(shape, *(points.at[edge] + 1e-7 * left).T)
    assert not len(inside) or inside.mean() > 0.999


@given(st.integers(1, 60), st.floats(0.01, 9), st.integers(0, 10**6))
@settings(max_examples=examples(60))
def test_all_within_reach_lie_in_a_cell_or_beside_it(count: int, reach: float, seed: int) -> None:
    at = np.random.default_rng(seed).uniform(-20, 20, (count, 2))
    grid = grid_of(at, reach)
    assert sorted(grid.order.tolist()) == list(range(count))
    cell = np.empty(count, np.int64)
    for c in range(grid.across * grid.down):
        cell[grid.order[grid.starts[c] : grid.starts[c + 1]]] = c
    column, row = cell % grid.across, cell // grid.across
    near = np.hypot(*(at[:, None] - at[None]).T) <= reach
    beside = (np.abs(column[:, None] - column) <= 1) & (np.abs(row[:, None] - row) <= 1)
    assert (beside | ~near).all()


def test_a_large_decal_and_a_narrow_limit_make_no_more_cells_than_there_is_room_for() -> None:
    grid = grid_of(np.array([[0.0, 0.0], [60_000.0, 900.0]]), 0.05)
    assert grid.across * grid.down < 10**7
    assert grid.side >= 0.05
