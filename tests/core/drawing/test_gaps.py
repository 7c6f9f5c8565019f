"""DXF drawings whose lines and arcs do not quite meet: areas as they were drawn."""

from __future__ import annotations

import io
import math
import random
from typing import Any

import ezdxf
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import OpenEnds
from gladstack.core.drawing.dxf_read import read_dxf
from tests.examples import examples

JOIN = OpenEnds("close", gap_mm=0.5)


def drawing(draw: Any) -> bytes:
    document = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    draw(document.modelspace())
    held = io.StringIO()
    document.write(held)
    return held.getvalue().encode()


def area(data: bytes, ends: OpenEnds = JOIN) -> float:
    return float(sum(item.shape.area for item in read_dxf(data, None, ends).items))


def loose_polygon(corners: np.ndarray, gap: float, rng: random.Random, space: Any) -> None:  # type: ignore[type-arg]
    """The sides of a polygon as lines by themselves, each cut short at both ends, in any order and direction."""
    sides = list(zip(corners, np.roll(corners, -1, axis=0), strict=True))
    rng.shuffle(sides)
    for a, b in sides:
        way = (b - a) / np.hypot(*(b - a))
        p, q = a + way * rng.uniform(0, gap / 2), b - way * rng.uniform(0, gap / 2)
        space.add_line(*((tuple(p), tuple(q)) if rng.random() < 0.5 else (tuple(q), tuple(p))))


@given(st.integers(3, 9), st.floats(0.05, 0.48), st.integers(0, 10_000))
@settings(max_examples=examples(60))
def test_a_polygon_of_loose_lines_is_the_area_that_was_drawn(count: int, gap: float, seed: int) -> None:
    rng = random.Random(seed)
    turn = rng.uniform(0, 6)
    corners = np.array([(30 * math.cos(turn + 2 * math.pi * k / count), 30 * math.sin(turn + 2 * math.pi * k / count))
                        for k in range(count)])  # fmt: skip
    data = drawing(lambda space: loose_polygon(corners, gap, rng, space))
    # What is cut short runs on to its corners; ends within 0.05 mm of each other are taken for one point.
    drawn = shapely.Polygon(corners)
    assert area(data) == pytest.approx(drawn.area, abs=0.025 * drawn.length)


@given(st.floats(3, 40), st.floats(0.05, 0.45), st.integers(2, 4))
@settings(max_examples=examples(40))
def test_arcs_with_gaps_are_a_whole_disc(r: float, gap: float, count: int) -> None:
    short = math.degrees(gap / r) / 2

    def draw(space: Any) -> None:
        for k in range(count):
            space.add_arc((5, 5), r, 360 * k / count + short, 360 * (k + 1) / count - short)

    assert area(drawing(draw)) == pytest.approx(math.pi * r * r, abs=0.02 * 2 * math.pi * r + 0.05)


def test_a_rectangle_with_gaps_is_no_triangle() -> None:
    corners = np.array([(0, 0), (80, 0), (80, 40), (0, 40)], float)
    data = drawing(lambda space: loose_polygon(corners, 0.8, random.Random(3), space))
    assert area(data, OpenEnds("close", gap_mm=1.0)) == pytest.approx(3200, rel=2e-3)
    assert area(data, OpenEnds(gap_mm=1.0)) == pytest.approx(3200, rel=2e-3)
    # Nobody asked for so wide gaps to be joined: then its lines stay open, and bound nothing.
    with pytest.raises(VectorError):
        read_dxf(data, None, OpenEnds(gap_mm=0.05))


def test_lines_that_were_drawn_twice_count_once_and_are_told() -> None:
    def draw(space: Any) -> None:
        for a, b in (((0, 0), (50, 0)), ((50, 0), (50, 20)), ((50, 20), (0, 20)), ((0, 20), (0, 0)), ((50, 0), (0, 0))):
            space.add_line(a, b)

    found = read_dxf(drawing(draw), None, JOIN)
    assert sum(item.shape.area for item in found.items) == pytest.approx(1000)
    assert any("1 line was drawn twice" in remark.text for remark in found.remarks)


def test_two_shapes_nearer_than_the_tolerance_stay_two() -> None:
    def draw(space: Any) -> None:
        for x in (0.0, 20.3):
            space.add_lwpolyline([(x, 0), (x + 20, 0), (x + 20, 20), (x, 20)], close=True)

    (item,) = read_dxf(drawing(draw), None, JOIN).items
    assert len(item.shape.geoms) == 2
    assert item.shape.area == pytest.approx(800)
