"""Where how many films lie, against asking at every point by itself; and ridges."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from shapely import MultiPolygon

from gladstack.core.films.joints import Joint, JointKind
from gladstack.core.films.thickness import area_by_count, piled, ridges
from tests.core.films.stacks import JOINTS, cuts_of, shapes
from tests.examples import examples


@given(shapes(), JOINTS)
@settings(max_examples=examples(60))
def test_as_many_films_lie_where_it_says_so(stack: list[MultiPolygon], joint: Joint) -> None:
    cuts = cuts_of([*stack, MultiPolygon([shapely.box(30, 30, 31, 32)])], joint)
    found = piled(cuts)
    levels = found.at_least
    assert sum(level.area for level in levels) == pytest.approx(sum(cut.area for cut in cuts), rel=1e-9)
    assert sum(n * area for n, area in area_by_count(levels).items()) == pytest.approx(sum(cut.area for cut in cuts))
    x, y = np.meshgrid(np.arange(-4.03, 33, 0.37), np.arange(-4.03, 33, 0.37))
    count = sum(shapely.contains_xy(cut, x, y).astype(int) for cut in cuts)
    near = shapely.dwithin(shapely.union_all([cut.boundary for cut in cuts]), shapely.points(x, y), 1e-3)
    for n, level in enumerate(levels, start=1):
        assert level.is_valid
        assert ((shapely.contains_xy(level, x, y) == (count >= n)) | near).all()
    top = np.full(x.shape, -1)
    for k, cut in enumerate(cuts):
        top[shapely.contains_xy(cut, x, y)] = k
    shapes, areas = found.cells.shapes, shapely.area(found.cells.shapes)
    for k, cut in enumerate(cuts):
        there = np.isin(np.arange(len(shapes)), found.cells.cell[found.cells.film == k])
        common = shapely.area(shapely.intersection(shapes, cut))
        assert np.allclose(common[areas > 1e-6], (areas * there)[areas > 1e-6], rtol=1e-3)
    for k, face in enumerate(found.faces):
        assert face.is_valid
        assert ((shapely.contains_xy(face, x, y) == (top == k)) | near).all()


def test_nothing_lies_where_no_film_is() -> None:
    for cuts in ([], [MultiPolygon()]):
        found = piled(cuts)
        assert found.faces == tuple(cuts)
        assert found.at_least == ()
        assert not len(found.cells.shapes)


def test_edges_of_three_films_that_lie_close_make_a_ridge() -> None:
    def steps(by_mm: float) -> tuple[MultiPolygon, ...]:
        return piled([MultiPolygon([shapely.box(0, 0, 30 - by_mm * k, 10)]) for k in range(3)]).at_least

    (ridge,) = ridges(steps(0.4))
    assert ridge.films == 3
    # The other three sides end together, and at this one all three end within 0.8 mm.
    assert ridge.mm == pytest.approx(2 * 29.2 + 2 * 10, rel=0.02)
    (apart,) = ridges(steps(0.6))
    assert apart.mm == pytest.approx(2 * 28.8 + 10, rel=0.05)


@pytest.mark.parametrize("kind", [JointKind.BUTT, JointKind.FULL])
def test_films_that_are_butted_lie_on_one_another_nowhere(kind: JointKind) -> None:
    stack = [MultiPolygon([shapely.box(0, 0, 9, 9)]), MultiPolygon([shapely.box(3, 3, 6, 6)])]
    assert len(piled(cuts_of(stack, Joint(kind))).at_least) == (1 if kind is JointKind.BUTT else 2)
