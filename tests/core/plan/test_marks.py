"""Marks lie where they are asked for and within one another; the test cut has a hole with corners within a sharp outline."""

from __future__ import annotations

from typing import get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon, box

from gladstack.core.geometry.curves import Chain, flatten_chain
from gladstack.core.plan.marks import DISTANCE_MM, SIZE_MM, MarkKind, mark, mark_places, trial_cut, with_marks

PLACES = st.tuples(st.floats(-500, 500), st.floats(-500, 500))


def area_of(chain: Chain) -> Polygon:
    return Polygon(flatten_chain(chain, 0.01))


@given(st.sampled_from(get_args(MarkKind)), PLACES, st.integers(0, 5))
def test_a_mark_lies_round_its_middle(kind: MarkKind, at: tuple[float, float], nth: int) -> None:
    (chain,) = mark(kind, at, nth)
    left, top, right, bottom = area_of(chain).bounds
    assert ((left + right) / 2, (top + bottom) / 2) == pytest.approx(at, abs=0.01)
    assert max(right - left, bottom - top) <= SIZE_MM + 0.01
    if kind in ("crosses", "corners"):
        assert max(right - left, bottom - top) == pytest.approx(SIZE_MM, abs=0.01)


@pytest.mark.parametrize("kind", ["circles", "squares"])
def test_marks_of_the_next_film_lie_within_those_below(kind: MarkKind) -> None:
    below, above, third = (area_of(mark(kind, (30.0, 40.0), nth)[0]) for nth in range(3))
    assert below.buffer(-0.3).contains(above)
    assert above.buffer(-0.3).contains(third)
    assert area_of(mark(kind, (30.0, 40.0), 3)[0]).equals(below)


@given(st.integers(0, 4), st.booleans())
def test_marks_stand_clear_of_what_they_mark_and_within_the_room_for_them(count: int, inside: bool) -> None:
    frame = (10.0, 20.0, 90.0, 70.0)
    places = mark_places(frame, count, inside=inside)
    assert len(places) == count
    marks = [area_of(mark("squares", at)[0]) for at in places]
    whole = box(*with_marks(frame, count, inside=inside)).buffer(1e-6)
    assert all(whole.contains(m) for m in marks)
    if inside:
        assert all(box(*frame).buffer(1e-6).contains(m) for m in marks)
    else:
        assert all(m.distance(box(*frame)) >= DISTANCE_MM for m in marks)
    # The corner without one is the lower right.
    assert count == 4 or (90.0, 70.0) not in [tuple(np.sign(np.array(p) - (50, 45)) * (40, 25) + (50, 45)) for p in places]


@given(PLACES, st.floats(2, 40))
def test_the_test_cut_is_a_sharp_outline_with_a_hole_in_it(at: tuple[float, float], size: float) -> None:
    shell, hole = (area_of(chain) for chain in trial_cut(at, size))
    assert shell.is_valid
    assert hole.is_valid
    assert shell.buffer(-0.05 * size).contains(hole)
    assert shell.bounds == pytest.approx((at[0], at[1], at[0] + size, at[1] + size), abs=0.01)
    assert 0.5 < (shell.area - hole.area) / size**2 < 0.9
    # Four corners of it are sharp, where nothing is rounded off.
    corners = {(round((x - at[0]) / size, 3), round((y - at[1]) / size, 3)) for x, y in shell.exterior.coords}
    assert {(0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (0.0, 0.5)} <= corners
