"""What is seen of a drawing's colours where many shapes lie on one another."""

from __future__ import annotations

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon

from gladstack.core.drawing.drawing import Painted
from gladstack.core.drawing.seen import visible
from tests.examples import examples

COLOURS = ("#c0392b", "#1d2b53", "#e8b530", "#5d4a86")


def heap(seed: int, count: int) -> list[Painted]:
    """Discs, bars and squares with common edges, heaped on one another."""
    rng = np.random.default_rng(seed)
    out = []
    for k in range(count):
        x, y = rng.uniform(0, 20, 2)
        # Whole millimetres make edges and corners that fall on each other.
        square = shapely.box(int(x), int(y), int(x) + int(rng.integers(2, 12)), int(y) + int(rng.integers(2, 12)))
        bar = Polygon([(x, y), (x + 14, y + rng.uniform(-9, 9)), (x + 13, y + 10), (x, y + 1)])
        shape = (Point(x, y).buffer(rng.uniform(1, 8)), square, bar if bar.is_valid else square)[k % 3]
        out.append(Painted(COLOURS[int(rng.integers(0, 4))], MultiPolygon([shape]), ()))
    return out


@settings(max_examples=examples(25), deadline=None)
@given(st.integers(0, 2**32 - 1), st.sampled_from([8, 60, 90]))
def test_every_point_is_of_the_colour_painted_last_there(seed: int, count: int) -> None:
    items = heap(seed, count)
    seen = visible(items)
    rng = np.random.default_rng(seed + 1)
    lines = shapely.union_all([i.shape.boundary for i in items])
    for x, y in rng.uniform(0, 28, (150, 2)):
        point = Point(x, y)
        if lines.distance(point) < 1e-6:
            continue
        on_top = next((i.colour for i in reversed(items) if i.shape.contains(point)), None)
        assert {c for c, s in seen.items() if s.contains(point)} == ({on_top} if on_top else set())
    whole = shapely.union_all([i.shape for i in items])
    assert all(s.is_valid for s in seen.values())
    assert abs(sum(s.area for s in seen.values()) - whole.area) < 1e-3


def test_hidden_outlines_leave_no_points_behind() -> None:
    hidden = [Painted(COLOURS[k % 3], MultiPolygon([shapely.box(2 + 0.1 * k, 2, 18, 18)]), ()) for k in range(40)]
    lid = Painted(COLOURS[3], MultiPolygon([shapely.box(1, 1, 10, 19)]), ())
    over = Painted(COLOURS[0], MultiPolygon([shapely.box(10, 1, 19, 19)]), ())
    seen = visible([*hidden, lid, over])
    assert shapely.get_num_coordinates(seen[COLOURS[3]]) == 5
    assert shapely.get_num_coordinates(seen[COLOURS[0]]) == 5
