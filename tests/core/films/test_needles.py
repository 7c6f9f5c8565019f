"""Nothing below what a cutter resolves is cut, as piece or hole; all else stays to the last bit."""

from __future__ import annotations

import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, box

from gladstack.core.base import tolerances
from gladstack.core.films.needles import without_needles

PLATE = box(0, 0, 30, 20)
STEP = tolerances.RESOLVED_MM


def test_pieces_and_holes_finer_than_a_step_are_left_out_and_told() -> None:
    thin = Polygon([(5, 5), (25, 5.0001), (25, 5)])
    crumb = Point(40, 5).buffer(0.012)
    real = Point(45, 5).buffer(0.2)
    shape = MultiPolygon([PLATE.difference(thin).difference(Point(15, 10).buffer(1)), crumb, real])
    found = without_needles(shape)
    assert [len(p.interiors) for p in found.shape.geoms] == [1, 0]
    assert found.shape.geoms[1].equals(real)
    # The larger of the two is told first.
    assert [round(b[0]) for b in found.dropped] == [5, 40]


def test_what_has_none_is_given_back_as_it_is() -> None:
    for shape in (MultiPolygon(), MultiPolygon([PLATE]), MultiPolygon([box(0, 0, 20, 2 * STEP)])):
        assert without_needles(shape).shape is shape


@given(st.lists(st.tuples(st.floats(0.0005, 2), st.floats(0.0005, 2)), min_size=1, max_size=12))
def test_only_rings_a_cutter_could_not_tell_go(sizes: list[tuple[float, float]]) -> None:
    shape = MultiPolygon([box(5 * k, 0, 5 * k + w, h) for k, (w, h) in enumerate(sizes)])
    found = without_needles(shape)
    assert len(found.shape.geoms) + len(found.dropped) == len(sizes)
    assert all(min(w, h) < STEP for w, h in ((b[2] - b[0], b[3] - b[1]) for b in found.dropped))
    assert all(shapely.area(p) >= STEP * STEP for p in found.shape.geoms)
    assert without_needles(found.shape).shape is found.shape
