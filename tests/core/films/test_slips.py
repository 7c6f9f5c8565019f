"""How much a film bares for slips of all directions at once, against working out each by itself."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon
from shapely.affinity import rotate

from gladstack.core.films.drift import bared
from gladstack.core.films.slips import POINTS, bared_each_way, scattered
from tests.core.films.stacks import shapes
from tests.examples import examples

WAYS = 16


@given(shapes(), st.floats(0.05, 0.8), st.floats(0, 90))
@settings(max_examples=examples(40))
def test_each_way_bares_what_it_does_by_itself(stack: list[MultiPolygon], slip_mm: float, turn: float) -> None:
    whole = rotate(shapely.union_all(stack), turn)
    cut = MultiPolygon(list(shapely.get_parts(whole)))
    # Whatever lies in the film may be at risk: here its rim, and a window that some edges pass over from two sides.
    rim = cut.difference(cut.buffer(-0.6)).union(cut.intersection(shapely.box(2, 2, 4, 4)))
    risk = MultiPolygon([p for p in shapely.get_parts(rim) if p.geom_type == "Polygon"])
    found = bared_each_way(risk, cut, slip_mm, WAYS)
    pitch_mm = math.sqrt(risk.area / POINTS)
    for way in range(WAYS):
        angle = 2 * math.pi * way / WAYS
        exact = bared(risk, cut, (slip_mm * math.cos(angle), slip_mm * math.sin(angle)))
        # Only squares along its edges may count wrongly, by chance: of n of them some 0.4 times the root of n.
        chance = 0.4 * pitch_mm**2 * math.sqrt(exact.length / pitch_mm + 1)
        assert found[way] == pytest.approx(exact.area, abs=5 * chance)


@given(shapes(), st.floats(0.03, 0.3), st.floats(0, 90))
@settings(max_examples=examples(40))
def test_each_square_of_a_shape_has_a_point(stack: list[MultiPolygon], pitch_mm: float, turn: float) -> None:
    for upright in stack:
        shape = MultiPolygon(list(shapely.get_parts(rotate(upright, turn))))
        points = scattered(shape, pitch_mm)
        assert len(points) * pitch_mm**2 == pytest.approx(shape.area, abs=0.5 * pitch_mm * shape.length)
        assert shapely.dwithin(shape, shapely.points(points), 1e-9).all()
        low = shapely.bounds(shape)[1]
        squares = np.floor(np.stack([points[:, 0], points[:, 1] - low], axis=1) / pitch_mm + 1e-9)
        assert len(np.unique(squares, axis=0)) == len(points)
        assert (scattered(shape, pitch_mm) == points).all()


def test_nothing_is_bared_of_nothing() -> None:
    square = MultiPolygon([shapely.box(0, 0, 5, 5)])
    assert not bared_each_way(MultiPolygon(), square, 0.5, WAYS).any()
    # What lies deeper in the film than the slip stays covered.
    assert not bared_each_way(MultiPolygon([shapely.box(1, 1, 4, 4)]), square, 0.5, WAYS).any()


def test_a_slip_to_the_right_bares_the_left_edge() -> None:
    square = MultiPolygon([shapely.box(0, 0, 5, 5)])
    left = MultiPolygon([shapely.box(0, 1, 1, 4)])
    found = bared_each_way(left, square, 0.5, 4)
    assert found == pytest.approx([1.5, 0.0, 0.0, 0.0], abs=0.01)
