"""Strips that hold the inner parts of a stencil."""

from __future__ import annotations

import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, affinity, box

from gladstack.core.base.errors import MendError
from gladstack.core.geometry.holding import holds_for, strip
from gladstack.core.geometry.shapes import clean, cut_away


@given(
    st.lists(st.tuples(st.floats(0.15, 0.85), st.floats(0.15, 0.85), st.floats(0.05, 0.3)), min_size=1, max_size=5),
    st.floats(0, 360),
    st.floats(8, 200),
)
def test_all_inner_parts_of_any_opening_are_held(
    islands: list[tuple[float, float, float]], turn_deg: float, size: float
) -> None:
    # What meets the border in a point alone parts the opening there, and lies between openings rather than within one.
    assume(not any(abs(edge) < 1e-6 for x, y, r in islands for edge in (x - r, y - r, 1 - x - r, 1 - y - r)))
    around = box(0, 0, 1, 1)
    inner = shapely.union_all([Point(x, y).buffer(r) for x, y, r in islands])
    opening = affinity.rotate(affinity.scale(around.difference(inner), size, size, origin=(0, 0)), turn_deg)
    opening = clean(opening)
    plate = box(*opening.bounds).buffer(size)
    inner = holds_for(opening)
    left = cut_away(opening, [strip(h.start, h.end, h.width_mm) for holds in inner for h in holds])
    specks = [p for p in shapely.get_parts(plate.difference(left)) if p.area >= 0.5]
    assert len(specks) == 1, "an inner part is held by nothing"
    wanted = [ring for part in opening.geoms for ring in part.interiors if Polygon(ring).area >= 0.5]
    assert len(inner) == len(wanted)
    assert all(inner), "an inner part has no strip"


def test_a_round_hole_is_held_above_and_below() -> None:
    ring = MultiPolygon([Point(0, 0).buffer(20, 64).difference(Point(0, 0).buffer(12, 64))])
    (holds,) = holds_for(ring)
    assert sorted((round(h.start[1], 3), round(h.end[1], 3)) for h in holds) in [
        [(-20.0, -12.0), (12.0, 20.0)],
        [(-12.0, -20.0), (12.0, 20.0)],
        [(-20.0, -12.0), (20.0, 12.0)],
        [(-12.0, -20.0), (20.0, 12.0)],
    ]
    assert all(h.start[0] == pytest.approx(0, abs=0.1) and h.width_mm == pytest.approx(4.8) for h in holds)


def test_a_strip_has_its_width_and_needs_a_length() -> None:
    made = strip((0, 0), (10, 0), 2)
    assert made.bounds == pytest.approx((-1, -1, 11, 1))
    with pytest.raises(MendError, match="begins where it ends"):
        strip((3, 3), (3, 3), 2)


def test_specks_are_not_held() -> None:
    opening = box(0, 0, 20, 20).difference(Point(5, 5).buffer(0.2)).difference(Point(14, 14).buffer(3))
    assert len(holds_for(clean(opening))) == 1
