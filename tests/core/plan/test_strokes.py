"""The blade's way: a trailing tip led along the contour, and one that is not; overcut, passes, a cut taken up again."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString, MultiPolygon

from gladstack.core.plan.compared import compare
from gladstack.core.plan.strokes import FORWARD, holder_strokes, lengths_along, rest_of, strokes_of
from gladstack.cutter.motion import trail
from tests.core.shapes import shapes

Points = np.ndarray
L_SHAPE = np.array([(10, 10), (50, 10), (50, 25), (25, 25), (25, 45), (10, 45), (10, 10)], dtype=float)


def rings(shape: MultiPolygon) -> list[Points]:
    return [np.asarray(r.coords) for p in shape.geoms for r in (p.exterior, *p.interiors)]


def cut(ways: list[Points], offset: float) -> list[Points]:
    """What a trailing blade cuts that is led so, by the simulated cutter's own account."""
    heading, out = 0.0, []
    for way in ways:
        found = trail([tuple(p) for p in way.tolist()], offset, heading)
        heading = found.heading
        out.append(np.array(found.tip))
    return out


@given(shapes(), st.floats(0.1, 0.9))
def test_the_tip_of_a_led_blade_runs_along_the_contour(shape: MultiPolygon, offset: float) -> None:
    contours = rings(shape)
    strokes = strokes_of(contours, 0.6)
    plot = cut([h.points for h in holder_strokes(strokes, offset)], offset)
    for stroke, tip in zip(strokes, plot, strict=True):
        line = LineString(contours[stroke.contour])
        assert shapely.distance(shapely.points(tip), line).max() < 0.1
    found = compare(contours, plot)
    assert found.missing == ()
    assert found.corner_mm < 0.1


@pytest.mark.parametrize("offset", [0.25, 0.5, 0.9])
def test_corners_stay_sharp_only_where_the_blade_is_led(offset: float) -> None:
    strokes = strokes_of([L_SHAPE], 0.6)
    led = compare([L_SHAPE], cut([h.points for h in holder_strokes(strokes, offset)], offset))
    plain = compare([L_SHAPE], cut([s.points for s in strokes], offset))
    assert led.corner_mm < 0.1
    assert plain.corner_mm > max(0.08, 0.25 * offset)


def test_overcut_runs_on_beyond_the_beginning_and_passes_follow_each_other() -> None:
    (one,) = strokes_of([L_SHAPE], 0.6)
    assert tuple(one.points[-1]) == pytest.approx((10.6, 10.0))
    assert lengths_along(one.points)[-1] == pytest.approx(LineString(L_SHAPE).length + 0.6)
    assert [(s.contour, s.turn) for s in strokes_of([L_SHAPE, L_SHAPE], 0.0, 2)] == [(0, 0), (0, 1), (1, 0), (1, 1)]
    (open_line,) = strokes_of([np.array([(0.0, 0.0), (5.0, 0.0)])], 0.6)
    assert len(open_line.points) == 2


@given(st.floats(0, 170))
def test_what_is_left_of_a_stroke_begins_where_it_was_left(at: float) -> None:
    (one,) = strokes_of([L_SHAPE])
    whole = LineString(L_SHAPE).length
    rest = rest_of(one, at)
    if at >= whole - 1e-6:
        assert rest is None
        return
    assert rest is not None
    assert LineString(rest.points).length == pytest.approx(whole - at, abs=1e-6)
    assert tuple(rest.points[-1]) == tuple(L_SHAPE[-1])


@given(shapes(), st.floats(0.1, 0.9))
def test_the_holder_tells_how_far_the_tip_has_come(shape: MultiPolygon, offset: float) -> None:
    for stroke, held in zip(strokes_of(rings(shape)), holder_strokes(strokes_of(rings(shape)), offset), strict=True):
        assert np.all(np.diff(held.tip_mm) >= 0)
        assert held.tip_mm[-1] == pytest.approx(lengths_along(stroke.points)[-1])
        # The holder is never farther from the tip's way than the blade is long.
        off = shapely.distance(shapely.points(held.points), LineString(stroke.points))
        assert off.max() <= offset + 1e-6


def test_a_tractrix_closes_in_as_its_formula_says() -> None:
    found = trail([(0.0, 0.0), (3.0, 0.0)], 0.5, math.radians(120))
    angle = 2 * math.atan(math.tan(math.radians(60)) * math.exp(-3.0 / 0.5))
    assert found.heading == pytest.approx(angle, abs=1e-9)
    assert FORWARD == (1.0, 0.0)


@given(st.integers(1, 11), st.floats(-1e-9, 1e-9), st.floats(0.07, 0.9))
def test_a_way_never_comes_to_a_point_twice_in_a_row(node: int, off: float, turn: float) -> None:
    """Not where the overcut ends in a node, but for rounding, nor where a cut is taken up again there."""
    angles = turn + np.linspace(0, 2 * np.pi, 13)
    ring = np.stack([100 + 0.3 * np.cos(angles), 200 + 0.3 * np.sin(angles)], axis=1)
    ring[-1] = ring[0]
    at = float(lengths_along(ring)[node])
    for length in (at + off, float(np.nextafter(at, 9)), at):
        (whole,) = strokes_of([ring], length)
        rest = rest_of(whole, length)
        assert rest is not None
        for stroke in (whole, rest):
            assert np.hypot(*np.diff(stroke.points, axis=0).T).min() > 0
            (way,) = holder_strokes([stroke], 0.25)
            assert np.isfinite(way.points).all()
