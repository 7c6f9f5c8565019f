"""Fewer nodes: as few as promised, as near as promised, corners kept, neighbours still neighbours."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, box

from gladstack.core.geometry.curves import curve_of, line_chain, on_grid
from gladstack.core.geometry.outlines import CurveIndex, outline_of
from gladstack.core.geometry.shapes import clean
from gladstack.core.geometry.simplify import Simplified, corners_of, simplify
from gladstack.core.plan.blade import Blade, cutting_seconds
from tests.core.jagged import jagged
from tests.examples import examples, some

NO_CURVES = CurveIndex([])


def apart(old: shapely.Geometry, new: shapely.Geometry) -> float:
    dense = [shapely.points(shapely.get_coordinates(shapely.segmentize(g.boundary, 0.05))) for g in (old, new)]
    lines = [g.boundary for g in (new, old)]
    return float(max(shapely.distance(points, line).max() for points, line in zip(dense, lines, strict=True)))


def nodes(made: Simplified, key: str = "film") -> int:
    return outline_of(made.shapes[key], CurveIndex(made.curves)).nodes


@pytest.mark.parametrize("noise", some([0.0, 0.05, 0.03]))
def test_ten_thousand_nodes_become_few_within_the_tolerance(noise: float) -> None:
    shape = clean(shapely.make_valid(Polygon(jagged(10_000, noise))))
    made = simplify({"film": shape}, 0.1, NO_CURVES)
    after = made.shapes["film"]
    assert nodes(made) <= 600
    assert made.deviation_mm <= 0.1
    main = max(shape.geoms, key=lambda p: p.area)
    assert apart(Polygon(main.exterior), Polygon(max(after.geoms, key=lambda p: p.area).exterior)) <= 0.115
    assert after.is_valid
    assert after.area == pytest.approx(shape.area, rel=2e-3)


@settings(max_examples=examples(20))
@given(st.integers(3, 9), st.floats(0.02, 0.3))
def test_corners_stay_where_they_are(points: int, tolerance: float) -> None:
    angle = np.arange(2 * points) * np.pi / points
    radius = np.where(np.arange(2 * points) % 2 == 0, 30.0, 13.0)
    star = Polygon(np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1))
    many = shapely.segmentize(star, 0.1)
    made = simplify({"film": MultiPolygon([many])}, tolerance, NO_CURVES)
    assert nodes(made) <= 4 * points
    corners = shapely.points(np.asarray(star.exterior.coords))
    assert shapely.distance(corners, made.shapes["film"].boundary).max() <= tolerance
    assert apart(many, made.shapes["film"]) <= tolerance + 0.01


def test_a_bend_is_no_corner() -> None:
    ring = np.asarray(Point(0, 0).buffer(5, quad_segs=300).exterior.coords)
    assert corners_of(ring, 0.1, closed=True) == []
    square = np.asarray(shapely.segmentize(box(0, 0, 20, 20), 0.2).exterior.coords)
    assert len(corners_of(square, 0.1, closed=True)) >= 3


@settings(max_examples=examples(15))
@given(st.floats(3, 9), st.floats(0.02, 0.2))
def test_neighbours_keep_one_common_edge(radius: float, tolerance: float) -> None:
    disc = clean(Point(20, 15).buffer(radius, quad_segs=200))
    frame, beside = clean(box(0, 0, 40, 30).difference(disc)), clean(shapely.segmentize(box(40, 0, 60, 30), 0.1))
    made = simplify({"disc": disc, "frame": frame, "beside": beside}, tolerance, NO_CURVES)
    parts = list(made.shapes.values())
    assert sum(p.area for p in parts) == pytest.approx(1800, rel=1e-9)
    assert shapely.union_all(parts).area == pytest.approx(1800, rel=1e-9)
    assert made.deviation_mm <= tolerance


def test_what_has_few_nodes_stays_to_the_last_bit() -> None:
    square = curve_of(on_grid(line_chain(np.array([(0, 0), (20, 0), (20, 20), (0, 20), (0, 0)], float))), 0.008)
    shape = MultiPolygon([Polygon(square.points)])
    made = simplify({"film": shape}, 0.2, CurveIndex([square]))
    assert shapely.equals(made.shapes["film"], shape)
    assert outline_of(made.shapes["film"], CurveIndex([square, *made.curves])).nodes == 4
    assert simplify({}, 0.1, NO_CURVES).shapes == {}


def test_the_blade_takes_longer_over_jags_and_no_less_than_its_speed() -> None:
    rough = [line_chain(jagged(6_000, 0.04))]
    even = outline_of(
        simplify({"film": clean(shapely.make_valid(Polygon(jagged(6_000, 0.04))))}, 0.1, NO_CURVES).shapes["film"], NO_CURVES
    )
    assert cutting_seconds(rough) > 2 * cutting_seconds(even.rings)
    blade = Blade()
    assert cutting_seconds(even.rings) >= even.length_mm / blade.speed
    square = [line_chain(np.array([(0, 0), (100, 0), (100, 100), (0, 100), (0, 0)], float))]
    # At most four sides from standstill to standstill: 100 mm at 80 mm/s, and 0.16 s more to gain and to lose that speed.
    slow = 4 * (100 / 80 + 0.16) + blade.lift
    assert 0.97 * slow < cutting_seconds(square) <= slow
    halved = [line_chain(np.array([(0, 0), (50, 0), (100, 0), (100, 100), (0, 100), (0, 0)], float))]
    assert cutting_seconds(halved) == pytest.approx(cutting_seconds(square), rel=1e-6)
