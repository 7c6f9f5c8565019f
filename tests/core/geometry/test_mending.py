"""Mending: bridges, brushes, and edges drawn anew."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString, MultiPolygon, Point, box

from gladstack.core.base.errors import MendError
from gladstack.core.geometry.mending import (
    bridge,
    enclosed_by,
    gaps_between,
    pushed_zone,
    smoothed,
    straightened,
    stretch_of,
    stroke,
    thin_parts,
)
from gladstack.core.geometry.shapes import clean

Spot = tuple[float, float]


def broken_circle(gap_deg: float, radius: float = 20.0, width: float = 1.5) -> tuple[MultiPolygon, Spot, Spot]:
    """A circle drawn with a pen, with a break at its right."""
    half = math.radians(gap_deg / 2)
    t = np.linspace(half, 2 * math.pi - half, 400)
    course = np.stack([radius * np.cos(t), radius * np.sin(t)], axis=1)
    ink = clean(shapely.buffer(LineString(course), width / 2, cap_style="flat", quad_segs=32))
    return ink, (course[0][0], course[0][1]), (course[-1][0], course[-1][1])


@given(st.floats(4, 45))
def test_a_bridge_follows_the_curve_of_both_ends(gap_deg: float) -> None:
    ink, start, end = broken_circle(gap_deg)
    assert not any(p.interiors for p in ink.geoms)
    closed = clean(shapely.union(ink, bridge(ink, start, end)))
    (whole,) = closed.geoms
    assert len(whole.interiors) == 1
    ring = Point(0, 0).buffer(20.75, quad_segs=200).difference(Point(0, 0).buffer(19.25, quad_segs=200))
    off = shapely.distance(shapely.points(np.asarray(whole.exterior.coords)), ring.boundary)
    assert off.max() < 0.2
    assert whole.area == pytest.approx(ring.area, rel=0.02)


def test_a_bridge_can_be_straight_and_of_any_width() -> None:
    ink, start, end = broken_circle(60)
    drawn = bridge(ink, start, end, 0.6, follow=False)
    middle = drawn.intersection(box(-30, -2, 30, 2))
    assert middle.area / 4 == pytest.approx(0.6, rel=1e-6)
    assert drawn.centroid.x == pytest.approx(20 * math.cos(math.radians(30)), abs=0.05)


def test_a_bridge_snaps_to_the_line_and_needs_one() -> None:
    ink, start, end = broken_circle(30)
    near = bridge(ink, (start[0] + 0.4, start[1] - 0.3), (end[0] + 0.5, end[1] + 0.3))
    assert len(shapely.union(ink, near).interiors) == 1
    with pytest.raises(MendError, match="no line here"):
        bridge(MultiPolygon(), start, end)
    with pytest.raises(MendError, match="begins where it ends"):
        bridge(ink, start, start)


def test_a_brush_covers_its_path() -> None:
    assert stroke([(0, 0), (10, 0)], 2).area == pytest.approx(20 + math.pi, rel=0.01)
    assert stroke([(3, 3)], 2).area == pytest.approx(math.pi, rel=0.01)
    with pytest.raises(MendError, match="round nothing"):
        enclosed_by([(0, 0), (5, 5)])


SQUARE = MultiPolygon([box(0, 0, 20, 20)])


def test_a_stretch_goes_the_shorter_way_round() -> None:
    across_the_start = stretch_of(SQUARE, (3, 0), (0, 4))
    assert LineString(across_the_start.line).length == pytest.approx(7)
    assert LineString(across_the_start.rest).length == pytest.approx(73)
    with pytest.raises(MendError, match="no length"):
        stretch_of(SQUARE, (3, 0), (3, 0))
    with pytest.raises(MendError, match="no edge"):
        stretch_of(MultiPolygon(), (3, 0), (4, 0))


def test_an_edge_is_made_straight() -> None:
    bumpy = clean(shapely.union(SQUARE, box(8, -3, 12, 1)))
    assert straightened(bumpy, (8, 0), (12, 0)).area == pytest.approx(400)
    assert straightened(SQUARE, (15, 0), (20, 5)).area == pytest.approx(400 - 12.5)


@given(st.integers(0, 1000))
def test_smoothing_takes_roughness_out_and_leaves_the_rest(seed: int) -> None:
    rng = np.random.default_rng(seed)
    x = np.linspace(0, 40, 400)
    edge = np.stack([x, np.concatenate([[0], rng.uniform(-0.15, 0.15, 398), [0]])], axis=1)
    rough = clean(shapely.make_valid(shapely.Polygon(np.vstack([edge, [(40, 20), (0, 20)]]))))
    out = smoothed(rough, (5, 0), (35, 0), 2.0)
    line = out.boundary.intersection(box(7, -1, 33, 1))
    assert line.length < 26.2
    assert shapely.symmetric_difference(out, rough).area < 5
    away = box(-1, 0.5, 41, 21)
    assert shapely.symmetric_difference(out.intersection(away), rough.intersection(away)).area == pytest.approx(0, abs=1e-9)


def test_an_edge_is_pushed_outwards_only() -> None:
    zone = pushed_zone(SQUARE, (5, 0), (15, 0), 0.5)
    assert zone.area == pytest.approx(5)
    assert shapely.intersection(zone, SQUARE).area == pytest.approx(0, abs=1e-9)


def test_thin_parts_are_those_thinner_than_said() -> None:
    shape = clean(shapely.union_all([box(0, 0, 10, 10), box(10, 4, 30, 4.5)]))
    thin = thin_parts(shape, 1.0)
    assert thin.area == pytest.approx(10, rel=0.1)
    assert thin.bounds[0] > 9
    assert thin_parts(shape, 0.3).is_empty


def test_gaps_are_what_lies_open_between_films_and_not_beside_them() -> None:
    halves = [MultiPolygon([box(0, 0, 10, 20)]), MultiPolygon([box(10.8, 0, 20, 20)])]
    gap = gaps_between(halves, 1.5)
    assert gap.area == pytest.approx(0.8 * 20, rel=0.02)
    assert (gap.bounds[0], gap.bounds[2]) == pytest.approx((10, 10.8))
    assert gaps_between(halves, 0.5).is_empty


@pytest.mark.parametrize(("thin", "broad"), [(1.0, 1.0), (1.0, 4.0), (1.5, 3.0)])
@pytest.mark.parametrize("share", [0.0, 0.5, 1.0])
def test_a_bridge_to_either_edge_of_another_line_does_not_bulge(thin: float, broad: float, share: float) -> None:
    line = box(0, -thin / 2, 10, thin / 2)
    across = box(14 - broad / 2, -12, 14 + broad / 2, 12)
    ink = MultiPolygon([line, across])
    drawn = bridge(ink, (10.0, 0.0), (14 + (share - 0.5) * broad, 0.0))
    added = shapely.difference(drawn, ink)
    assert added.bounds[3] - added.bounds[1] <= 1.6 * thin
    assert len(shapely.get_parts(shapely.union_all([drawn, *ink.geoms]))) == 1


def test_a_bridge_from_the_corner_of_a_line_goes_on_as_from_its_middle() -> None:
    ink, start, end = broken_circle(36.0, width=2.0)
    out = [tuple(np.array(spot) * (21.0 / 20.0)) for spot in (start, end)]
    added = shapely.difference(bridge(ink, out[0], out[1]), ink)
    reach = np.hypot(*shapely.get_coordinates(added).T)
    assert reach.max() <= 23.0


@pytest.mark.parametrize("wide", [4.0, 8.0, 12.0, 20.0])
@pytest.mark.parametrize("round_", [False, True])
def test_a_bridge_across_a_notch_does_not_bow_out_of_it(wide: float, round_: bool) -> None:
    """The corners of an area are no ends of lines, which could be carried on."""
    whole = Point(0, 0).buffer(30, quad_segs=64) if round_ else box(-30, -30, 30, 30)
    ink = MultiPolygon([whole - box(-wide / 2, -40, wide / 2, 0)])
    top = -math.sqrt(900 - wide * wide / 4) if round_ else -30.0
    drawn = bridge(ink, (-wide / 2, top + 0.2), (wide / 2, top + 0.1))
    assert len(clean(shapely.union(ink, drawn)).geoms[0].interiors) == 1
    assert -drawn.bounds[1] <= 30 + 0.7 + 0.03 * wide
