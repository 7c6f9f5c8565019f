"""Shapes for tests: a zoo of awkward ones, and random stacks."""

from __future__ import annotations

import shapely
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from gladstack.core.films.joints import Joint, JointKind
from gladstack.core.geometry.shapes import clean

ZOO = {
    "square": box(0, 0, 20, 20),
    "hole": box(0, 0, 20, 20).difference(box(6, 6, 14, 14)),
    "island in hole": shapely.union_all([box(0, 0, 30, 30).difference(box(5, 5, 25, 25)), box(12, 12, 18, 18)]),
    "sliver": box(0, 0, 30, 0.05),
    "corner touch": shapely.union_all([box(0, 0, 8, 8), box(8, 8, 16, 16)]),
    "spike": Polygon([(0, 0), (40, 0.4), (0, 0.8)]),
    "disc": Point(10, 10).buffer(8, quad_segs=32),
    "empty": MultiPolygon(),
}


def as_multi(shape: BaseGeometry) -> MultiPolygon:
    """A polygon or multipolygon as a multipolygon."""
    return shape if isinstance(shape, MultiPolygon) else clean(shape)


@st.composite
def shapes(draw: st.DrawFn) -> MultiPolygon:
    """A union of boxes and discs, perhaps with a piece cut out, about 40 mm across."""
    parts = []
    for _ in range(draw(st.integers(1, 3))):
        x, y = draw(st.integers(0, 30)), draw(st.integers(0, 30))
        w, h = draw(st.integers(3, 18)), draw(st.integers(3, 18))
        parts.append(box(x, y, x + w, y + h) if draw(st.booleans()) else Point(x, y).buffer(w / 2, quad_segs=8))
    whole = shapely.union_all(parts)
    if draw(st.booleans()):
        x, y, r = draw(st.integers(2, 28)), draw(st.integers(2, 28)), draw(st.integers(1, 6))
        whole = whole.difference(Point(x, y).buffer(r, quad_segs=8))
    return as_multi(whole)


joints = st.one_of(
    st.just(Joint(JointKind.BUTT)),
    st.sampled_from([0.2, 0.5, 1.3]).map(lambda mm: Joint(JointKind.LAP, mm)),
    st.sampled_from([0.3, 1.0]).map(lambda mm: Joint(JointKind.GAP, mm)),
    st.sampled_from([0.3, 0.8]).map(lambda mm: Joint(JointKind.FULL, mm)),
)


@st.composite
def stacks(draw: st.DrawFn) -> tuple[list[MultiPolygon], dict[tuple[int, int], Joint]]:
    """Two to five overlapping layers and a joint for every pair."""
    layers = draw(st.lists(shapes(), min_size=2, max_size=5))
    rules = {(i, j): draw(joints) for i in range(len(layers)) for j in range(i + 1, len(layers))}
    return layers, rules
