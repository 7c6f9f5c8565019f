"""Overlays whose areas add up, also where the library below gets one wrong."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon, Polygon, box
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry import overlay
from tests.core.shapes import ZOO, shapes

RING = box(0, 0, 20, 20).difference(box(6, 6, 14, 14))
PLAQUE = box(20, 0, 30, 20)


@given(shapes(), shapes())
def test_areas_add_up(a: MultiPolygon, b: MultiPolygon) -> None:
    both, either, rest = overlay.intersection(a, b).area, overlay.union(a, b).area, overlay.difference(a, b).area
    assert either == pytest.approx(a.area + b.area - both, abs=1e-6)
    assert rest == pytest.approx(a.area - both, abs=1e-6)
    assert tuple(part.area for part in overlay.both_differences(a, b)) == pytest.approx(
        (rest, overlay.difference(b, a).area), abs=1e-6
    )
    assert overlay.union_all([a, b, a]).area == pytest.approx(either, abs=1e-6)


@given(st.lists(st.tuples(shapes(), shapes()), min_size=1, max_size=6))
def test_many_differences_at_once_are_as_each_by_itself(pairs: list[tuple[MultiPolygon, MultiPolygon]]) -> None:
    a, b = (np.array(list(side), dtype=object) for side in zip(*pairs, strict=True))
    for left, (one, other) in zip(overlay.differences(a, b), pairs, strict=True):
        assert left.area == pytest.approx(overlay.difference(one, other).area, abs=1e-6)


def test_of_many_differences_one_that_lost_a_hole_is_made_another_way(monkeypatch: pytest.MonkeyPatch) -> None:
    real = shapely.difference

    def spoilt_once(a: Any, b: Any, **more: float) -> Any:
        out = real(a, b, **more)
        return np.array([Polygon(p.exterior) for p in out], dtype=object) if isinstance(out, np.ndarray) else out

    monkeypatch.setattr(shapely, "difference", spoilt_once)
    sides = [np.array(side, dtype=object) for side in ([RING, RING], [PLAQUE, box(8, 8, 9, 9)])]
    assert [p.area for p in overlay.differences(*sides)] == pytest.approx([RING.area, RING.area])


@pytest.mark.parametrize("name", ZOO)
def test_awkward_shapes_overlay_themselves_and_nothing(name: str) -> None:
    shape = ZOO[name]
    assert overlay.union(shape, shape).area == pytest.approx(shape.area)
    assert overlay.difference(shape, shape).area == pytest.approx(0)
    assert overlay.intersection(shape, shape).area == pytest.approx(shape.area)
    assert overlay.union_all([]).is_empty
    assert overlay.difference(shape, MultiPolygon()).equals(shape)


def spoilt(real: Callable[..., BaseGeometry], times: int) -> Callable[..., BaseGeometry]:
    """An overlay that fills every hole of its first results, as the real one now and then does."""
    left = [times]

    def out(*args: BaseGeometry, **kwargs: float) -> BaseGeometry:
        found = real(*args, **kwargs)
        if left[0] <= 0:
            return found
        left[0] -= 1
        return MultiPolygon([Polygon(p.exterior) for p in shapely.get_parts(found) if isinstance(p, Polygon)])

    return out


@pytest.mark.parametrize("times", [1, 2, 3])
def test_a_union_that_lost_a_hole_is_made_another_way(monkeypatch: pytest.MonkeyPatch, times: int) -> None:
    monkeypatch.setattr(shapely, "union", spoilt(shapely.union, times))
    assert overlay.union(RING, PLAQUE).area == pytest.approx(RING.area + PLAQUE.area)


@pytest.mark.parametrize("times", [1, 2])
def test_a_difference_that_lost_a_hole_is_made_another_way(monkeypatch: pytest.MonkeyPatch, times: int) -> None:
    monkeypatch.setattr(shapely, "difference", spoilt(shapely.difference, times))
    assert overlay.difference(RING, box(0, 0, 3, 3)).area == pytest.approx(RING.area - 9)


def test_a_coverage_that_lost_a_hole_is_made_another_way(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shapely, "coverage_union_all", spoilt(shapely.coverage_union_all, 1))
    assert overlay.coverage_union_all([RING, PLAQUE]).area == pytest.approx(RING.area + PLAQUE.area)


def test_lines_beside_areas_are_no_trouble_to_what_lies_apart() -> None:
    left = shapely.GeometryCollection([shapely.box(0, 0, 1, 1), shapely.LineString([(1, 1), (2, 2)])])
    joined = overlay.union(left, shapely.box(5, 5, 6, 6))
    assert joined.area == pytest.approx(2.0)
    assert shapely.get_type_id(joined) == 6
