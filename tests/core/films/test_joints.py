"""The four invariants of a stack, on random stacks; and each joint on its own."""

from __future__ import annotations

from functools import reduce
from itertools import combinations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, box

from gladstack.core.base import tolerances
from gladstack.core.films.invariants import max_thickness, overlap, wrong_area
from gladstack.core.films.joints import FORMS, Joint, JointKind, Upper, cut_shape, meets
from gladstack.core.geometry.shapes import grow
from tests.core.shapes import ZOO, as_multi, shapes, stacks
from tests.examples import examples

Stack = tuple[list[MultiPolygon], dict[tuple[int, int], Joint]]
BUTT = Joint(JointKind.BUTT)


def cut_all(
    layers: list[MultiPolygon], rules: dict[tuple[int, int], Joint], *, fill_holes: bool = False
) -> list[MultiPolygon]:
    cuts: list[MultiPolygon] = [MultiPolygon()] * len(layers)
    for i in range(len(layers) - 1, -1, -1):
        above = [Upper(layers[j], rules[i, j]) for j in range(i + 1, len(layers))]
        cover = as_multi(shapely.union_all(cuts[i + 1 :]))
        cuts[i] = cut_shape(layers[i], above, fill_holes=fill_holes, cover=cover)
    return cuts


def gap_zone(layers: list[MultiPolygon], rules: dict[tuple[int, int], Joint]) -> MultiPolygon:
    """Everywhere a gap may change what is seen."""
    zones = [grow(layers[j], r.mm + 0.02) for (_, j), r in rules.items() if r.kind is JointKind.GAP]
    return shapely.union_all(zones)


@given(stacks())
@settings(max_examples=examples(120))
def test_painting_the_cuts_gives_the_wanted_picture(stack: Stack) -> None:
    layers, rules = stack
    cuts = cut_all(layers, rules)
    aside = gap_zone(layers, rules)
    whole = shapely.union_all(layers).area
    for i in range(len(layers)):
        wanted = shapely.difference(layers[i], shapely.union_all(layers[i + 1 :]))
        painted = shapely.difference(cuts[i], shapely.union_all(cuts[i + 1 :]))
        wrong = shapely.difference(shapely.symmetric_difference(wanted, painted), aside).area
        assert wrong <= tolerances.WRONG_AREA_RATIO * whole


def test_every_kind_has_a_form() -> None:
    assert set(FORMS) == set(JointKind)


def test_a_gap_is_kept_from_films_that_do_not_touch() -> None:
    lower, upper = as_multi(shapely.box(0, 0, 10, 10)), as_multi(shapely.box(10.5, 0, 20, 10))
    for mm, right in ((0.4, 10.0), (0.5, 10.0), (1.0, 9.5), (3.0, 7.5)):
        cut = cut_shape(lower, [Upper(upper, Joint(JointKind.GAP, mm))])
        assert cut.bounds == pytest.approx((0, 0, right, 10), abs=1e-6)


@given(stacks())
@settings(max_examples=examples(60))
def test_butted_films_never_overlap(stack: Stack) -> None:
    layers, rules = stack
    cuts = cut_all(layers, dict.fromkeys(rules, BUTT))
    assert max_thickness(cuts, lambda i, j: overlap(cuts[i], cuts[j])) <= 1
    assert sum(c.area for c in cuts) == pytest.approx(shapely.union_all(layers).area, rel=1e-6)


@given(stacks())
@settings(max_examples=examples(120))
def test_a_lap_never_shows(stack: Stack) -> None:
    layers, rules = stack
    cuts = cut_all(layers, rules)
    for i in range(len(layers)):
        hidden_below = shapely.union_all(
            [layers[j] for j in range(i + 1, len(layers)) if rules[i, j].kind is not JointKind.FULL]
        )
        face = shapely.difference(layers[i], hidden_below)
        cover = shapely.union_all(cuts[i + 1 :])
        showing = shapely.difference(cuts[i], shapely.union_all([face, cover]))
        assert showing.area <= tolerances.WRONG_AREA_RATIO * shapely.union_all(layers).area


@given(stacks())
@settings(max_examples=examples(120))
def test_cut_shapes_are_valid_and_welded(stack: Stack) -> None:
    for cut in cut_all(*stack):
        assert cut.is_valid
        assert all(p.area > 0 and p.exterior.is_closed for p in cut.geoms)
        # A valid multipolygon has no parts that overlap; welded also means that none share an edge.
        assert shapely.union_all(list(cut.geoms)).length == pytest.approx(cut.length, rel=1e-9)


@given(stacks())
@settings(max_examples=examples(60))
def test_the_figure_for_wrong_area_agrees(stack: Stack) -> None:
    layers, rules = stack
    cuts = cut_all(layers, rules)
    for i in range(len(layers)):
        above = [(layers[j], cuts[j], rules[i, j]) for j in range(i + 1, len(layers))]
        others = gap_zone(layers, rules)
        if others.is_empty:
            assert wrong_area(layers[i], cuts[i], above) <= tolerances.WRONG_AREA_RATIO * shapely.union_all(layers).area


def test_the_figure_for_wrong_area_tells_what_shows_and_what_fails_to() -> None:
    shape, upper = as_multi(box(0, 0, 10, 10)), as_multi(box(10, 0, 20, 10))
    above = [(upper, upper, BUTT)]
    assert wrong_area(shape, as_multi(box(0, 0, 9, 10)), above) == pytest.approx(10)
    assert wrong_area(shape, as_multi(box(0, 0, 10, 12)), above) == pytest.approx(20)
    assert wrong_area(shape, as_multi(box(0, 0, 12, 10)), above) == 0
    gap = [(upper, upper, Joint(JointKind.GAP, 1.0))]
    assert wrong_area(shape, as_multi(box(0, 0, 9, 10)), gap) == 0


@pytest.mark.parametrize("kind", list(JointKind))
@pytest.mark.parametrize("name", ZOO)
def test_every_joint_takes_every_awkward_shape(name: str, kind: JointKind) -> None:
    upper = as_multi(box(3, 3, 17, 17))
    cut = cut_shape(as_multi(ZOO[name]), [Upper(upper, Joint(kind, 0.5))])
    assert cut.is_valid
    under = shapely.difference(cut, shapely.union(ZOO[name], upper)).area
    assert under <= 1e-6


def test_a_gap_is_as_wide_as_asked_all_along() -> None:
    upper = as_multi(Point(20, 20).buffer(9, quad_segs=64))
    cut = cut_shape(as_multi(box(0, 0, 40, 40)), [Upper(upper, Joint(JointKind.GAP, 1.0))])
    edge = shapely.get_coordinates(cut.geoms[0].interiors[0].segmentize(0.05))
    distance = shapely.distance(shapely.points(edge), upper)
    assert np.all(np.abs(distance - 1.0) <= 0.02)


def test_a_lap_reaches_just_so_far() -> None:
    upper = as_multi(box(10, 0, 30, 10))
    lower = as_multi(box(0, 0, 10, 10))
    cut = cut_shape(lower, [Upper(upper, Joint(JointKind.LAP, 0.4))])
    assert cut.bounds == pytest.approx((0, 0, 10.4, 10))
    assert cut.area == pytest.approx(104, rel=1e-6)


def test_full_runs_under_what_lies_on_it_and_laps_under_what_lies_beside() -> None:
    # An eye that touches the outer edge of the head through a beam: no hole, yet most of its edge lies on the head.
    eye = as_multi(box(10, 10, 20, 20))
    beam = as_multi(box(20, 14, 50, 16))
    head = as_multi(box(0, 0, 30, 30).difference(shapely.union_all([eye, beam])))
    seen = [as_multi(s) for s in (head, eye.difference(beam), beam)]
    noded = [as_multi(s) for s in _noded(seen)]
    rules = [Upper(s, Joint(JointKind.FULL, 0.5), disjoint=True) for s in noded[1:]]
    cut = cut_shape(noded[0], rules)
    assert overlap(cut, eye).area == pytest.approx(100, rel=1e-6)
    assert overlap(cut, beam).area < 0.6 * beam.area


def _noded(shapes: list[MultiPolygon]) -> list[MultiPolygon]:
    """The same shapes with every shared edge broken at the same points, as in a planar map."""
    lines = shapely.unary_union([s.boundary for s in shapes])
    faces = list(shapely.polygonize(list(lines.geoms)).geoms)
    return [shapely.MultiPolygon([f for f in faces if s.contains(f.representative_point())]) for s in shapes]


def test_full_fills_a_hole_that_is_wholly_covered() -> None:
    frame = as_multi(box(0, 0, 30, 20).difference(shapely.union_all([box(2, 2, 8, 8), box(12, 2, 18, 8)])))
    covers = as_multi(shapely.union_all([box(2, 2, 8, 8), box(12, 2, 15, 8)]))
    cut = cut_shape(frame, [Upper(covers, Joint(JointKind.FULL, 0.0), disjoint=True)])
    assert [shapely.Polygon(r).area for r in cut.geoms[0].interiors] == [pytest.approx(36)]


def test_a_film_floating_free_in_a_ring_gets_no_base_of_its_own() -> None:
    ring = as_multi(box(0, 0, 40, 40).difference(box(4, 4, 36, 36)))
    floating = as_multi(box(15, 15, 25, 25))
    cut = cut_shape(ring, [Upper(floating, Joint(JointKind.FULL, 0.5), disjoint=True)])
    assert cut.area == pytest.approx(ring.area)


def test_full_keeps_off_what_another_joint_takes() -> None:
    base = as_multi(box(0, 0, 30, 20).difference(box(5, 5, 25, 15)))
    left, right = as_multi(box(5, 5, 15, 15)), as_multi(box(15, 5, 25, 15))
    cut = cut_shape(base, [Upper(left, Joint(JointKind.FULL, 0.3)), Upper(right, BUTT)])
    assert overlap(cut, left).area == pytest.approx(100, abs=1e-3)
    assert overlap(cut, right).area == pytest.approx(0, abs=1e-3)


def test_corners_that_touch_do_not_meet() -> None:
    assert not meets(as_multi(box(0, 0, 5, 5)), as_multi(box(5, 5, 9, 9)))
    assert meets(as_multi(box(0, 0, 5, 5)), as_multi(box(5, 1, 9, 9)))
    assert not meets(as_multi(box(0, 0, 5, 5)), as_multi(box(6, 0, 9, 9)))


def test_thickness_counts_films_over_one_point() -> None:
    cuts = [as_multi(b) for b in (box(0, 0, 10, 10), box(5, 0, 15, 10), box(9, 0, 20, 10), box(0, 0, 2, 2))]
    assert max_thickness(cuts, lambda i, j: overlap(cuts[i], cuts[j])) == 3


@given(st.lists(shapes(), min_size=1, max_size=7))
@settings(max_examples=examples(40))
def test_no_fewer_films_are_counted_than_lie_anywhere(layers: list[MultiPolygon]) -> None:
    """Against every set of films laid over one another; where a count is given beforehand, only more are told."""

    def all_meet(films: tuple[MultiPolygon, ...]) -> bool:
        return not reduce(overlap, films).is_empty

    sets = (some for size in range(len(layers), 0, -1) for some in combinations(layers, size))
    most = next(len(some) for some in sets if all_meet(some))
    for before in range(len(layers) + 2):
        assert max_thickness(layers, lambda i, j: overlap(layers[i], layers[j]), before) == max(before, most)


@given(st.lists(shapes(), min_size=13, max_size=16))
@settings(max_examples=examples(25))
def test_many_films_are_counted_as_few_are(layers: list[MultiPolygon]) -> None:
    """In all faces of the arrangement, against a count at a grid of points; in groups of few, never more than in all."""
    pair = [lambda i, j, k=k: overlap(layers[k + i], layers[k + j]) for k in range(len(layers))]
    whole = max_thickness(layers, pair[0])
    grid = np.stack(np.meshgrid(np.arange(0.25, 50, 0.7), np.arange(0.25, 50, 0.7)), axis=-1).reshape(-1, 2)
    at = sum(shapely.contains_xy(layer, *grid.T).astype(int) for layer in layers)
    assert whole >= at.max()
    assert whole >= max_thickness(layers[:8], pair[0])
    assert whole <= max_thickness(layers[:8], pair[0]) + max_thickness(layers[8:], pair[8])
