"""Gaps between pieces of a film, and the bridges that close them."""

from __future__ import annotations

import pytest
import shapely
import shapely.affinity
from shapely import MultiPolygon

from gladstack.core.films.bits import closed, gaps_within

BAR = shapely.box(0, 0, 10, 2)


def parts(*boxes: shapely.Polygon) -> MultiPolygon:
    return MultiPolygon(list(boxes))


@pytest.mark.parametrize("turn", [0.0, 30.0, 90.0, 200.0])
@pytest.mark.parametrize("aside", [0.0, 0.4])
def test_a_bridge_goes_straight_on_from_stroke_to_stroke(turn: float, aside: float) -> None:
    bars = [BAR, shapely.box(13, aside, 23, 2 + aside)]
    shape = parts(*[shapely.affinity.rotate(bar, turn, origin=(0, 0)) for bar in bars])
    (gap,) = gaps_within(shape, 4.0, 9)
    assert gap.mm == pytest.approx(3.0)
    made = closed(shape, 4.0, [])
    assert len(made.geoms) == 1
    added = shapely.affinity.rotate(shapely.difference(made, shape), -turn, origin=(0, 0))
    assert added.area == pytest.approx(6.0, rel=0.05)
    assert shapely.difference(added, shapely.box(9.3, -0.08, 13.7, 2.08 + aside)).area < 0.01
    assert gaps_within(shape, 2.9, 9) == ()


@pytest.mark.parametrize("gap_mm", [0.5, 1.5, 3.0])
def test_a_bridge_to_the_side_of_a_stroke_stays_within_it(gap_mm: float) -> None:
    side = shapely.box(10 + gap_mm, -8, 11 + gap_mm, 10)
    shape = parts(BAR, side)
    made = closed(shape, 0.0, [((10.0, 1.0), (10.0 + gap_mm, 1.0))])
    assert len(made.geoms) == 1
    added = shapely.difference(made, shape)
    assert shapely.difference(added, shapely.box(9.9, -0.6, 10.1 + gap_mm, 2.6)).area < 0.02
    assert added.area > 0.9 * gap_mm


def test_a_chosen_gap_that_is_none_any_more_is_left() -> None:
    shape = parts(BAR, shapely.box(0, 5, 10, 7))
    assert closed(shape, 0.0, [((1.0, 2.0), (9.0, 2.0))]) == shape
    assert closed(shape, 0.0, [((1.0, 40.0), (1.0, 5.0))]) == shape


def test_all_gaps_up_to_a_width_are_closed() -> None:
    shape = parts(BAR, shapely.box(12, 0, 22, 2), shapely.box(27, 0, 37, 2))
    assert len(closed(shape, 2.5, []).geoms) == 2
    assert len(closed(shape, 5.5, []).geoms) == 1
