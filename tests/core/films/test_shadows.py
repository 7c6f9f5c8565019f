"""Shadows, bands and stitches are what their definitions say, measured by distance."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, MultiPolygon, Point, box
from shapely.affinity import translate

from gladstack.core.films.shadows import band, block_shadow, copy_shadow, fill_holes, stitches, thicken
from gladstack.core.geometry.curves import curves_of
from gladstack.core.geometry.figures import heart, ribbon, ring, star
from gladstack.core.geometry.rings import as_multi, fill, nest_chains, polygons_of, winding_numbers
from gladstack.core.geometry.shapes import grow
from tests.examples import examples

FORMS = {"star": star(5, 40, 0.4), "heart": heart(30, 28), "ring": ring(40, 6), "ribbon": ribbon(80, 24, 6)}


def shape_of(name: str) -> MultiPolygon:
    nesting = nest_chains(FORMS[name])
    assert nesting is not None
    return MultiPolygon(polygons_of(curves_of(FORMS[name], 0.008), nesting))


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("distance", [0.4, 2.0, 9.0])
def test_an_outline_shadow_is_a_true_offset(name: str, distance: float) -> None:
    """Every point of its outline lies at the distance from the source, to 0.03 mm, and no place of the offset is missed."""
    source = shape_of(name)
    outline = grow(source, distance).boundary
    points = shapely.points(shapely.get_coordinates(shapely.segmentize(outline, 0.5)))
    assert np.abs(shapely.distance(source, points) - distance).max() < 0.03
    exact = shapely.buffer(source, distance, quad_segs=400)
    assert shapely.hausdorff_distance(outline, exact.boundary, densify=0.05) < 0.03


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("angle", [0, 37, 90, 161, 290])
def test_a_block_shadow_is_all_that_the_shape_sweeps(name: str, angle: float) -> None:
    source = shape_of(name)
    dx, dy = 7 * math.cos(math.radians(angle)), 7 * math.sin(math.radians(angle))
    swept = block_shadow(source, dx, dy)
    assert swept.is_valid
    many = shapely.union_all([translate(source, dx * k / 200, dy * k / 200) for k in range(201)])
    assert shapely.difference(many, swept).area < 1e-6
    assert shapely.symmetric_difference(many, swept).area < 0.004 * swept.area
    assert shapely.difference(translate(source, dx, dy), swept).area < 1e-6


def test_dashes_are_as_long_as_they_are_told_whatever_their_ends() -> None:
    """Along a straight course of 100 mm a dash and its gap are 5 mm: drawn over 3 of them, round ends included."""
    square = MultiPolygon([box(0, 0, 100, 100)])
    for ends, area in (("square", 3.0 * 0.8), ("round", (3.0 - 0.8) * 0.8 + math.pi * 0.4**2)):
        dashes = stitches(square, 0.0, 3.0, 2.0, 0.8, ends)
        assert len(dashes.geoms) == 80
        straight = [d for d in dashes.geoms if min(d.bounds[2] - d.bounds[0], d.bounds[3] - d.bounds[1]) < 0.81]
        assert len(straight) >= 72
        for dash in straight:
            assert max(dash.bounds[2] - dash.bounds[0], dash.bounds[3] - dash.bounds[1]) == pytest.approx(3.0, abs=0.01)
            assert dash.area == pytest.approx(area, abs=0.02)


def test_a_dash_shorter_than_its_line_is_wide_is_a_dot() -> None:
    dots = stitches(MultiPolygon([box(0, 0, 100, 100)]), 0.0, 0.5, 4.5, 0.8, "round")
    assert len(dots.geoms) == 80
    assert max(d.area for d in dots.geoms) == pytest.approx(math.pi * 0.4**2, rel=0.03)


def test_a_copied_shadow_is_the_shape_moved_and_made_heavier() -> None:
    source = shape_of("heart")
    moved = copy_shadow(source, 4, 3, 0.5)
    assert shapely.symmetric_difference(moved, grow(translate(source, 4, 3), 0.5)).area < 1e-6


def test_holes_are_filled_all_or_small_or_where_chosen() -> None:
    plate = MultiPolygon([box(0, 0, 40, 20) - box(2, 2, 4, 4) - box(10, 5, 20, 15) - Point(30, 10).buffer(5)])
    assert [len(fill_holes(plate, **how).geoms[0].interiors) for how in ({}, {"below_mm2": 50}, {"at": [(30, 10)]})] == [
        0,
        2,
        2,
    ]  # type: ignore[arg-type]
    assert len(fill_holes(plate, 50, [(30, 10)]).geoms[0].interiors) == 1
    nested = MultiPolygon([box(0, 0, 20, 20) - box(2, 2, 18, 18), box(8, 8, 12, 12)])
    assert fill_holes(nested).equals(box(0, 0, 20, 20))


@pytest.mark.parametrize(("inner", "outer"), [(1, 3), (-2, 1), (-3, -1)])
def test_a_band_lies_between_its_two_distances(inner: float, outer: float) -> None:
    source = shape_of("heart")
    found = band(source, inner, outer)
    points = shapely.points(shapely.get_coordinates(shapely.segmentize(found.boundary, 0.5)))
    signed = shapely.distance(source.boundary, points) * np.where(shapely.covers(source, points), -1, 1)
    assert np.all((np.abs(signed - inner) < 0.03) | (np.abs(signed - outer) < 0.03))


@given(
    st.sampled_from([*FORMS]), st.floats(-2, 4), st.floats(1.5, 8), st.floats(0.8, 5), st.sampled_from(["round", "square"])
)
@settings(max_examples=examples(40))
def test_stitches_are_even_and_the_last_meets_the_first(
    name: str, distance: float, dash: float, gap: float, ends: str
) -> None:
    source = shape_of(name)
    width = 0.6
    course = grow(source, distance)
    found = stitches(source, distance, dash, gap, width, ends)  # type: ignore[arg-type]
    assert found.is_valid
    rings = [r for p in shapely.get_parts(course) for r in (p.exterior, *p.interiors)]
    assert len(found.geoms) <= sum(max(1, round(r.length / (dash + gap))) for r in rings)
    points = shapely.points(shapely.get_coordinates(found.boundary))
    assert shapely.distance(course.boundary, points).max() <= width / 2 + 0.02
    for ring_ in rings:
        count = round(ring_.length / (dash + gap))
        if count < 2:
            continue
        # Along the course film and gap alternate evenly: the cover of every pitch is the same.
        pitch, samples = ring_.length / count, 40
        at = shapely.line_interpolate_point(LineString(ring_.coords), np.arange(count * samples) * pitch / samples)
        covered = shapely.covers(found.buffer(1e-6), at).reshape(count, samples).sum(axis=1)
        assert covered.min() >= 1


@pytest.mark.parametrize("by", [0.05, 1.0, -0.05, -1.0])
def test_thicker_is_heavier_and_thinner_lighter_by_just_that(by: float) -> None:
    source = shape_of("heart")
    changed = thicken(source, by)
    points = shapely.points(shapely.get_coordinates(changed.boundary))
    assert np.abs(shapely.distance(source.boundary, points) - abs(by)).max() < 0.02
    assert (changed.area > source.area) == (by > 0)


def test_a_thickened_shape_is_welded_where_it_grows_together() -> None:
    pair = MultiPolygon([box(0, 0, 10, 10), box(10.5, 0, 20, 10)])
    assert len(thicken(pair, 0.3).geoms) == 1


def test_fill_rules_on_rings_that_cross() -> None:
    from gladstack.core.geometry.curves import line_chain

    def square(x: float, turn: int) -> np.ndarray:
        ring_ = np.array([[x, 0], [x + 10, 0], [x + 10, 10], [x, 10], [x, 0]], dtype=float)
        return ring_[::turn]

    curves = curves_of([line_chain(square(0, 1)), line_chain(square(5, 1))], 0.01)
    assert as_multi(fill(curves)).area == pytest.approx(150)
    assert as_multi(fill(curves, "evenodd")).area == pytest.approx(100)
    against = curves_of([line_chain(square(0, 1)), line_chain(square(5, -1))], 0.01)
    assert as_multi(fill(against)).area == pytest.approx(100)
    assert winding_numbers([square(0, 1)], np.array([[5.0, 5.0], [20.0, 5.0]])).tolist() in ([1, 0], [-1, 0])
