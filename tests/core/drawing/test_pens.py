"""Stroked paths: held against bars and joins laid on each other, and against a renderer."""

from __future__ import annotations

import io
import math
from itertools import pairwise

import numpy as np
import pytest
import resvg_py
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from PIL import Image
from shapely import Point, Polygon

from gladstack.core.drawing.svg_read import read_svg
from gladstack.core.geometry.strokes import Pen, stroked

FINE = 0.0005
JOINS = st.sampled_from(("miter", "round", "bevel"))
CAPS = st.sampled_from(("butt", "round", "square"))


def bent(angle: float) -> np.ndarray:
    """Twenty to the right, then back at an angle in degrees between both."""
    back = math.radians(180 - angle)
    return np.array([(30, 50), (50, 50), (50 + 18 * math.cos(back), 50 + 18 * math.sin(back))])


def laid(path: np.ndarray, pen: Pen) -> shapely.Geometry:
    """What a pen with butt caps covers along an open path: a bar for each stretch, and the joins."""
    half, parts = pen.width / 2, []
    for a, b in pairwise(path):
        across = np.array([-(b - a)[1], (b - a)[0]]) / np.hypot(*(b - a)) * half
        parts.append(Polygon([a + across, b + across, b - across, a - across]))
    for a, b, c in zip(path[:-2], path[1:-1], path[2:], strict=True):
        u, v = (b - a) / np.hypot(*(b - a)), (c - b) / np.hypot(*(c - b))
        outside = -math.copysign(1, u[0] * v[1] - u[1] * v[0])
        first, last = (b + outside * half * np.array([-w[1], w[0]]) for w in (u, v))
        parts.append(Polygon([b, first, last]))
        inner = math.pi - math.acos(max(-1.0, min(1.0, float(u @ v))))
        if pen.join == "round":
            parts.append(Point(b).buffer(half, quad_segs=400))
        elif pen.join == "miter" and 1 / math.sin(inner / 2) <= pen.miter_limit:
            parts.append(Polygon([b, first, b + (u - v) / np.hypot(*(u - v)) * half / math.sin(inner / 2), last]))
    return shapely.union_all(parts)


@given(st.floats(2, 178), st.floats(1, 8), JOINS, st.sampled_from((1.0, 2.0, 4.0, 10.0)))
def test_corners_cover_what_their_join_says(angle: float, width: float, join: str, limit: float) -> None:
    pen = Pen(width, "butt", join, limit)  # type: ignore[arg-type]
    ours, meant = stroked([(bent(angle), False)], pen, FINE), laid(bent(angle), pen)
    assert ours.symmetric_difference(meant).area < 0.002 * meant.area


def test_a_way_that_turns_back_has_no_spur() -> None:
    path = np.array([(5, 20), (25, 20), (5, 20.0005)])
    left, top, right, bottom = stroked([(path, False)], Pen(4.0), FINE).bounds
    assert (left, top, right, bottom) == pytest.approx((5, 18, 25, 22), abs=0.01)


@pytest.mark.parametrize(("cap", "area"), [("round", math.pi * 9), ("square", 36.0), ("butt", 0.0)])
@pytest.mark.parametrize("closed", [False, True])
def test_a_path_of_no_length_is_a_dot(cap: str, area: float, closed: bool) -> None:
    path = np.array([(10.0, 10.0), (10.0, 10.0)])
    assert stroked([(path, closed)], Pen(6.0, cap), FINE).area == pytest.approx(area, rel=0.002)  # type: ignore[arg-type]


def test_dashes_of_no_length_are_dots() -> None:
    pen = Pen(2.0, "round", dashes=(0.0, 5.0))
    shape = stroked([(np.array([(0.0, 0.0), (19.0, 0.0)]), False)], pen, FINE)
    assert [round(g.centroid.x, 3) for g in sorted(shape.geoms, key=lambda g: g.centroid.x)] == [0, 5, 10, 15]


def test_a_line_of_no_length_is_read_as_a_dot() -> None:
    dot = '<line x1="10" y1="10" x2="10" y2="10" stroke="red" stroke-width="6" stroke-linecap="round"/>'
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40">'
    (item,) = read_svg(f"{head}{dot}</svg>".encode()).items
    assert item.shape.area == pytest.approx(math.pi * 9, rel=0.01)


@given(
    st.lists(st.tuples(st.integers(25, 75), st.integers(25, 75)), min_size=2, max_size=5, unique=True),
    st.booleans(),
    st.floats(1, 8).map(lambda v: round(v, 2)),
    CAPS,
    JOINS,
    st.sampled_from(((), (4.0, 2.5), (7.0, 1.5, 3.0))),
    st.floats(-5, 9).map(lambda v: round(v, 2)),
)
def test_strokes_cover_what_a_renderer_paints(
    points: list[tuple[int, int]], closed: bool, width: float, cap: str, join: str, dashes: tuple[float, ...], offset: float
) -> None:
    pen = Pen(width, cap, join, 4.0, dashes, offset)  # type: ignore[arg-type]
    path = np.array(points + points[:1] * closed, float)
    # A dash as long as the whole way is drawn with ends by some renderers and without by others.
    assume(not dashes or np.hypot(*np.diff(path, axis=0).T).sum() > 25)
    shape = stroked([(path, closed)], pen, FINE)
    said = f'stroke-dasharray="{" ".join(map(str, dashes))}" stroke-dashoffset="{offset}"' if dashes else ""
    way = "M" + "L".join(f"{x} {y}" for x, y in points) + "Z" * closed
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100"><path d="{way}" '
        f'fill="none" stroke="black" stroke-width="{width}" stroke-linecap="{cap}" stroke-linejoin="{join}" {said}/></svg>'
    )
    painted = Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg, width=1000)))).convert("RGBA")
    area = float(np.asarray(painted)[..., 3].sum()) / 255 / 100
    # A renderer counts pixels at edges in quarters.
    assert shape.area == pytest.approx(area, rel=0.002, abs=0.004 * shape.length)
