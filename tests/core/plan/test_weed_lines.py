"""Weed boxes and weed lines, worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest
from shapely import Polygon, box

from gladstack.core.plan.weeding import Line, weed_box, weed_lines

CLEAR = 2.0
_GROWN = CLEAR + 0.01


def lines(around: tuple[float, float, float, float], *parts: Polygon, strip: float = 100.0) -> list[Line]:
    return weed_lines(parts, around, strip, CLEAR)


def same(found: list[Line], wanted: list[Line]) -> None:
    assert np.array(found).shape == np.array(wanted).shape
    assert np.array(found) == pytest.approx(np.array(wanted), abs=1e-6)


def test_a_weed_box_lies_round_all_at_its_distance_and_within_the_film() -> None:
    shapes = [box(10, 20, 30, 40), box(50, 5, 60, 25), Polygon()]
    assert weed_box(shapes, 3, (0, 0, 100, 100)) == (7, 2, 63, 43)
    assert weed_box(shapes, 30, (1, 2, 70, 60)) == (1, 2, 70, 60)
    assert weed_box([Polygon()], 3, (0, 0, 100, 100)) is None
    assert weed_box([], 3, (0, 0, 100, 100)) is None


def test_empty_waste_is_divided_evenly() -> None:
    across: list[Line] = [((110, 22), (110, 98)), ((210, 22), (210, 98))]
    same(lines((10, 20, 310, 100)), across)
    # What fits a strip has no line; a little more has one.
    assert lines((10, 20, 110, 100)) == []
    same(lines((10, 20, 111, 100)), [((60.5, 22), (60.5, 98))])
    # Along the film as well.
    same(lines((10, 20, 90, 220)), [((12, 120), (88, 120))])


def test_lines_along_the_film_stop_short_of_those_across_it() -> None:
    same(
        lines((0, 0, 200, 200)),
        [((100, 2), (100, 198)), ((2, 100), (98, 100)), ((102, 100), (198, 100))],
    )


def test_a_line_goes_round_what_is_narrow_and_parts_at_what_is_wide() -> None:
    ((x, top), (_, bottom)) = lines((0, 0, 200, 100), box(90, 40, 110, 60))[0]
    assert (top, bottom) == (2, 98)
    assert not 90 - _GROWN < x < 110 + _GROWN
    same(
        lines((0, 0, 200, 100), box(80, 40, 120, 60)),
        [((100, 2), (100, 40 - _GROWN)), ((100, 60 + _GROWN), (100, 98))],
    )


def test_a_line_that_would_be_short_is_left_out() -> None:
    # 4 mm are left above it, 5.5 mm below.
    same(lines((0, 0, 200, 100), box(60, 8, 140, 90.49)), [((100, 92.5), (100, 98))])
    assert lines((0, 0, 200, 100), box(60, 8, 140, 91.5)) == []
    assert lines((0, 0, 300, 8.9)) == []
    assert len(lines((0, 0, 300, 9.1))) == 2


def test_few_long_lines_are_better_than_many_short_ones() -> None:
    # At its even place the line would be parted by five small squares; 12 mm beside it by none.
    squares = [box(96, 10 + 18 * k, 104, 14 + 18 * k) for k in range(5)]
    found = lines((0, 0, 200, 100), *squares)
    assert len(found) == 1
    # Nothing is gained by going farther than it must.
    assert 6 < abs(found[0][0][0] - 100) < 8


def test_strips_are_hardly_wider_than_wanted() -> None:
    comb = [box(20 * k, 0, 20 * k + 3, 100) for k in range(1, 25)]
    at = sorted({x for (x, _), (other, _) in lines((0, 0, 500, 100), *comb, strip=60) if x == other})
    assert max(b - a for a, b in zip([0, *at], [*at, 500], strict=True)) <= 60 * 1.25
