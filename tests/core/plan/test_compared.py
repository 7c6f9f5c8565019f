"""What was cut against what was planned: found whole, missing, twice, off its place."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon

from gladstack.core.plan.compared import compare
from tests.core.shapes import shapes

SQUARE = np.array([(0, 0), (40, 0), (40, 40), (0, 40), (0, 0)], dtype=float)
FAR = SQUARE + 100.0


@given(shapes())
def test_what_is_cut_as_planned_is_whole_and_once(shape: MultiPolygon) -> None:
    rings = [np.asarray(r.coords) for p in shape.geoms for r in (p.exterior, *p.interiors)]
    found = compare(rings, rings)
    assert all(c.once for c in found.contours)
    assert found.largest_mm < 1e-6
    assert found.stray == ()


@given(st.floats(1.0, 30.0))
def test_what_is_left_uncut_is_missing(gap: float) -> None:
    found = compare([SQUARE, FAR], [np.array([(gap, 0), (40, 0), (40, 40), (0, 40), (0, 0)]), FAR])
    assert found.missing == (0,)
    assert found.contours[0].gap_mm == pytest.approx(gap - 0.4, abs=0.25)
    assert compare([SQUARE, FAR], [FAR]).missing == (0,)


def test_twice_is_told_but_not_an_overcut_or_a_cut_taken_up_again() -> None:
    assert compare([SQUARE], [SQUARE, SQUARE]).twice == (0,)
    assert compare([SQUARE], [SQUARE, SQUARE], passes=2).twice == ()
    halves = [np.array([(0, 0), (40, 0), (40, 20.5)]), np.array([(40, 20), (40, 40), (0, 40), (0, 0), (0.6, 0)])]
    assert compare([SQUARE], halves).contours[0].once


@given(st.floats(0.06, 0.19), st.floats(-0.04, 0.04))
def test_how_far_off_and_where(dx: float, dy: float) -> None:
    found = compare([SQUARE], [SQUARE + np.array([dx, dy])])
    assert max(dx, abs(dy)) - 1e-6 <= found.largest_mm <= np.hypot(dx, dy) + 1e-6
    assert compare([SQUARE], [SQUARE]).corner_mm < 1e-9


def test_strokes_that_follow_nothing_are_told() -> None:
    assert compare([SQUARE], [SQUARE, np.array([(500.0, 500.0), (510.0, 500.0)])]).stray == (1,)
