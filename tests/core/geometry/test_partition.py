"""Areas that share a plane: nesting, borders, and handing area over."""

from __future__ import annotations

from random import Random

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, box

from gladstack.core.geometry.partition import borders, longest_border, nesting, replaced, share_out
from gladstack.core.geometry.shapes import clean


def test_nesting_counts_the_outlines_that_something_lies_within() -> None:
    rings = [
        Polygon(box(-k, -k, k, k).exterior, [box(1 - k, 1 - k, k - 1, k - 1).exterior] if k > 1 else []) for k in (9, 6, 1)
    ]
    apart = box(20, 0, 22, 2)
    assert nesting([*rings, apart]) == ((0, 1, 2, 0), (-1, 0, 1, -1))
    assert nesting([]) == ((), ())


@given(st.integers(1, 5), st.randoms(use_true_random=False))
def test_nesting_is_what_containment_in_pairs_tells(levels: int, rng: Random) -> None:
    polygons: list[Polygon] = []

    def fill(x: float, y: float, size: float, level: int) -> None:
        inner = [(x + size * dx, y + size * dy) for dx in (0.1, 0.55) for dy in (0.1, 0.55) if rng.random() < 0.4]
        held = [box(a, b, a + size * 0.35, b + size * 0.35) for a, b in inner] if level else []
        polygons.append(Polygon(box(x, y, x + size, y + size).exterior, [h.exterior for h in held]))
        for a, b in inner if level else []:
            fill(a, b, size * 0.35, level - 1)

    fill(0, 0, 100, levels)
    rng.shuffle(polygons)
    filled = [Polygon(p.exterior) for p in polygons]
    depth, parent = nesting(polygons)
    for k, polygon in enumerate(filled):
        around = [j for j, other in enumerate(filled) if j != k and other.contains(polygon)]
        assert depth[k] == len(around)
        assert parent[k] == min(around, key=lambda j: filled[j].area, default=-1)


def test_borders_are_measured_and_a_corner_is_none() -> None:
    area = box(0, 0, 10, 10)
    others = [box(10, 0, 20, 4), box(-5, -5, 0, 10), box(10, 10, 12, 12), box(30, 0, 31, 1)]
    assert borders(area, others) == pytest.approx([4, 10, 0, 0], abs=0.05)
    assert longest_border(area, others) == 1
    assert longest_border(area, others[2:]) is None


@given(st.floats(0.2, 5), st.floats(1, 20))
def test_a_band_is_shared_along_its_middle(width: float, length: float) -> None:
    band = box(0, 0, length, width)
    below, above = box(0, -5, length, 0), box(0, width, length, width + 5)
    shares = share_out(band, [below, above], leave=False)
    assert sum(s.area for s in shares) == pytest.approx(band.area, rel=1e-6)
    middle = box(0, 0, length, width / 2)
    assert shapely.symmetric_difference(shares[0], middle).area < 0.03 * band.area
    assert shapely.intersection(*shares).area < 1e-9


def test_what_borders_on_nobody_is_left_over_if_wanted() -> None:
    band, below = box(0, 0, 20, 1), box(0, -5, 20, 0)
    assert share_out(band, [below], leave=False)[0].area == pytest.approx(20)
    assert share_out(band, [below])[0].area == pytest.approx(10, rel=0.1)
    assert share_out(band, [box(50, 50, 51, 51)])[0].is_empty


@given(st.floats(1, 8), st.floats(-3, 3), st.floats(-3, 3))
def test_a_shape_replaced_opens_no_seam(radius: float, dx: float, dy: float) -> None:
    whole = box(-10, -10, 10, 10)
    disc = clean(Point(0, 0).buffer(5))
    parts = {"disc": disc, "rest": clean(whole.difference(disc))}
    new = clean(Point(dx, dy).buffer(radius).intersection(whole))
    out = replaced(parts, "disc", new)
    assert out["disc"] == new
    assert shapely.intersection(out["disc"], out["rest"]).area == pytest.approx(0, abs=1e-6)
    assert shapely.union_all(list(out.values())).area == pytest.approx(400, rel=1e-6)


def test_what_a_shape_gives_up_goes_to_whom_it_bordered_on() -> None:
    parts = {k: MultiPolygon([box(x, 0, x + 10, 10)]) for k, x in (("a", 0), ("b", 10), ("c", 40))}
    out = replaced(parts, "b", MultiPolygon([box(14, 0, 20, 10)]))
    assert out["a"].area == pytest.approx(140)
    assert out["c"] == parts["c"]
