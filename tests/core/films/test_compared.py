"""What has changed between two shapes of a film."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon, box

from gladstack.core.films.compared import compared
from tests.core.shapes import shapes


def one(*polygons: shapely.Polygon) -> MultiPolygon:
    return MultiPolygon(polygons)


@given(shapes(), shapes())
def test_what_is_gone_and_what_has_come_make_the_one_into_the_other(before: MultiPolygon, now: MultiPolygon) -> None:
    change = compared(before, now)
    made = shapely.union(shapely.difference(before, change.gone), change.come)
    assert shapely.symmetric_difference(made, now).area < 1e-3 + 2e-3 * (before.length + now.length)
    back = compared(now, before)
    assert back.gone.area == pytest.approx(change.come.area, abs=1e-6)
    assert back.apart_mm == (change.apart_mm if change.apart_mm is None else pytest.approx(change.apart_mm, abs=1e-9))


@given(st.floats(0.01, 3.0))
def test_an_edge_that_moved_is_told_by_how_far(mm: float) -> None:
    change = compared(one(box(0, 0, 20, 10)), one(box(0, 0, 20 + mm, 10)))
    assert change.gone.is_empty
    assert change.come.area == pytest.approx(10 * mm)
    assert change.apart_mm == pytest.approx(mm)


@given(shapes())
def test_rounding_is_no_change(shape: MultiPolygon) -> None:
    turned = shapely.transform(shape, lambda p: p + 1e-6 * np.sin(p[:, ::-1]))
    assert compared(shape, turned).is_none
    assert compared(shape, shape).is_none


def test_of_nothing_there_is_no_distance() -> None:
    assert compared(MultiPolygon(), one(box(0, 0, 2, 2))).apart_mm is None
    assert compared(one(box(0, 0, 2, 2)), MultiPolygon()).gone.area == 4.0
