"""Where seams run: at even places, unless they cross less, or wider parts, or leave no crumbs elsewhere."""

from __future__ import annotations

from itertools import pairwise

import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, box

from gladstack.core.plan.tiles import (
    Seams,
    SeamWanted,
    TileError,
    Tiling,
    crumbs_at,
    find_seams,
    gaps,
    given_back,
    put_seams,
    tile_boxes,
    tile_of,
)
from tests.examples import examples

FRAME = (10.0, 20.0, 310.0, 80.0)


def film(*boxes: tuple[float, float, float, float]) -> MultiPolygon:
    return MultiPolygon([box(*one) for one in boxes])


WHOLE = film(FRAME)


def test_what_fits_has_no_seam() -> None:
    assert find_seams([WHOLE], FRAME, Tiling(300, 60)) == Seams()
    assert len(find_seams([WHOLE], FRAME, Tiling(299.9, 60)).x) == 1


def test_seams_of_a_plain_area_lie_evenly() -> None:
    for wide, count in ((110.0, 3), (80.0, 4)):
        even = [FRAME[0] + 300 * k / count for k in range(1, count)]
        assert find_seams([WHOLE], FRAME, Tiling(wide, 60, reach_mm=10)).x == pytest.approx(even, abs=0.5)
    # Along the other axis as well.
    assert find_seams([WHOLE], FRAME, Tiling(300, 33, reach_mm=5)).y == pytest.approx([50.0], abs=0.5)


def test_a_tile_reaches_under_the_next_within_what_it_may_measure() -> None:
    seams = find_seams([WHOLE], FRAME, Tiling(104, 60, overlap_mm=6))
    boxes = tile_boxes(FRAME, seams, 6)
    assert all(right - left <= 104 + 0.01 for left, _, right, _ in boxes)
    assert [right - start for (_, _, right, _), (start, *_) in pairwise(boxes)] == pytest.approx([6.0] * (len(boxes) - 1))
    assert (boxes[0][0], boxes[-1][2]) == (FRAME[0], FRAME[2])


@given(
    st.lists(st.tuples(st.floats(10, 290), st.floats(8, 60)), min_size=1, max_size=8),
    st.floats(60, 200), st.floats(0, 8), st.floats(0, 40),
)  # fmt: skip
@settings(max_examples=examples(60))
def test_tiles_fit_and_lie_no_farther_from_even_than_they_may(
    spots: list[tuple[float, float]], most: float, overlap: float, reach: float
) -> None:
    films = [film(*((x, 20, x + wide, 80) for x, wide in spots))]
    tiling = Tiling(most, 60, overlap, reach)
    seams = find_seams(films, FRAME, tiling).x
    edges = [FRAME[0], *seams, FRAME[2]]
    wide = [b - a for a, b in pairwise(edges)]
    # Places are told to a hundredth of a mm.
    assert max(wide[:-1]) <= most - overlap + 0.01
    assert wide[-1] <= most + 0.01
    assert min(wide[:-1]) >= 6 - 0.01
    even = [FRAME[0] + 300 * k / (len(seams) + 1) for k in range(1, len(seams) + 1)]
    forced = [max(0.0, 300 - (len(seams) + 1) * (most - overlap)) for _ in seams]
    assert all(abs(at - place) <= reach + more + 0.01 for at, place, more in zip(seams, even, forced, strict=True))


def test_a_seam_runs_between_parts_within_its_reach() -> None:
    # Columns 30 mm wide, 4 mm apart: every gap is within 20 mm of anywhere.
    columns = film(*((10 + 34 * k, 20, 40 + 34 * k, 80) for k in range(9)))
    frame = columns.bounds
    for at in find_seams([columns], frame, Tiling(120, 60, reach_mm=20)).x:
        assert not shapely.intersects(columns, box(at - 0.1, 0, at + 0.1, 100))
    # A seam that may not be moved crosses them.
    (at,) = find_seams([columns], frame, Tiling(200, 60, reach_mm=0)).x
    assert shapely.intersects(columns, box(at - 0.1, 0, at + 0.1, 100))


def test_a_seam_crosses_a_part_where_it_is_wide() -> None:
    waist = film((10, 20, 130, 80), (130, 48, 190, 51), (190, 20, 310, 80))
    joined = MultiPolygon([shapely.union_all(list(waist.geoms))])
    (at,) = find_seams([joined], FRAME, Tiling(220, 60, reach_mm=45)).x
    assert not 131 <= at <= 189
    # There is no other place nearer than that.
    (at,) = find_seams([joined], FRAME, Tiling(220, 60, reach_mm=20)).x
    assert 140 <= at <= 180


def test_seams_of_a_film_keep_away_from_those_below() -> None:
    tiling = Tiling(160, 60, overlap_mm=4)
    first = find_seams([WHOLE], FRAME, tiling)
    second = find_seams([WHOLE], FRAME, tiling, below=[first])
    third = find_seams([WHOLE], FRAME, tiling, below=[first, second])
    for seams, others in ((second, first.x), (third, (*first.x, *second.x))):
        assert all(abs(at - other) >= 4 + 6 - 0.01 for at in seams.x for other in others)


@given(st.lists(st.floats(-6, 6), min_size=1, max_size=6))
@settings(max_examples=examples(40))
def test_a_seam_leaves_no_more_crumbs_than_at_the_even_place(offsets: list[float]) -> None:
    films = [film(*((160 + off, 20 + 9 * k, 164 + off, 26 + 9 * k) for k, off in enumerate(offsets)))]
    (at,) = find_seams(films, FRAME, Tiling(200, 60, reach_mm=3), counts=(1, 0)).x
    assert crumbs_at(films, 0, at, 3.0) <= crumbs_at(films, 0, 160.0, 3.0)
    # Where no part is met, there is none.
    if any(all(not 160 + o < c < 164 + o for o in offsets) for c in (157.5, 160.0, 162.5)):
        assert crumbs_at(films, 0, at, 3.0) == 0


def test_crumbs_are_pieces_at_the_seam_that_are_too_narrow() -> None:
    films = [film((0, 0, 10, 5), (6, 10, 9, 15), (0, 20, 4, 25))]
    assert [crumbs_at(films, 0, c, 3.0) for c in (8.0, 5.0, 2.0)] == [3, 0, 3]
    turned = [film((0, 0, 5, 10), (10, 6, 15, 9), (20, 0, 25, 4))]
    assert [crumbs_at(turned, 1, c, 3.0) for c in (8.0, 5.0, 2.0)] == [3, 0, 3]


def test_so_many_tiles_as_are_told() -> None:
    assert len(find_seams([WHOLE], FRAME, Tiling(400, 60), counts=(4, 0)).x) == 4
    with pytest.raises(TileError):
        find_seams([WHOLE], FRAME, Tiling(110, 60), counts=(1, 0))


@pytest.mark.parametrize(("most", "overlap"), [(10.0, 4.0), (6.0, 0.0), (5.0, 8.0)])
def test_too_little_room_is_told(most: float, overlap: float) -> None:
    with pytest.raises(TileError):
        find_seams([WHOLE], FRAME, Tiling(most, 60, overlap))
    assert find_seams([WHOLE], FRAME, Tiling(overlap + 6.1, 60, overlap)).x


def test_more_tiles_than_anybody_lays_are_told() -> None:
    long = (0.0, 0.0, 4000.0, 60.0)
    with pytest.raises(TileError, match="tiles in a row"):
        find_seams([film(long)], long, Tiling(9.9, 60))


FOUR = Tiling(200.0, 60.0)
SEAMS = Seams((85.0, 160.0, 235.0))
LEAST = 6.0


@pytest.mark.parametrize(
    ("index", "wanted", "lies"),
    [
        (2, -500, 10 + 3 * LEAST),
        (1, -500, 10 + 2 * LEAST),
        (0, 500, 310 - 3 * LEAST),
        (1, 500, 310 - 2 * LEAST),
        (1, 140, 140),
    ],
)
def test_a_seam_put_by_hand_leaves_room_for_all_others(index: int, wanted: float, lies: float) -> None:
    # Of four tiles of 200 mm none is ever too large, but for the first or last.
    put = put_seams(SEAMS, [SeamWanted(0, index, wanted)], FRAME, FOUR).x
    assert put[index] == pytest.approx(min(max(lies, 310 - 200 * (3 - index)), 10 + 200 * (index + 1)))
    edges = [10, *put, 310]
    assert all(LEAST - 1e-6 <= b - a <= 200 + 1e-6 for a, b in pairwise(edges))


def test_a_seam_goes_no_farther_than_film_reaches() -> None:
    tiling = Tiling(80.0, 60.0)
    assert put_seams(SEAMS, [SeamWanted(0, 0, 500)], FRAME, tiling).x[0] == 90
    assert put_seams(SEAMS, [SeamWanted(0, 1, 500)], FRAME, tiling).x[1] == 170
    assert put_seams(SEAMS, [SeamWanted(0, 1, 0)], FRAME, tiling).x[1] == 150
    assert put_seams(SEAMS, [SeamWanted(0, 2, 0)], FRAME, tiling).x[2] == 230
    # What is put after it gives way to it.
    put = put_seams(SEAMS, [SeamWanted(0, 0, 60), SeamWanted(0, 1, 150)], FRAME, tiling).x
    assert put[0] == 70
    assert put[1] == 150


@given(st.floats(-4, 30), st.integers(0, 2))
@settings(max_examples=examples(40))
def test_an_overlap_of_its_own_takes_room_of_its_own(overlap: float, index: int) -> None:
    tiling = Tiling(90.0, 60.0, overlap_mm=2.0)
    assume(90 - max(0.0, overlap) + 2 * 88 + 88 >= 300)
    seams = put_seams(SEAMS, [SeamWanted(0, index, overlap_mm=overlap)], FRAME, tiling)
    assert seams.overlaps(0, 2.0) == tuple(overlap if k == index else 2.0 for k in range(3))
    assert all(right - left <= 90 + 1e-3 for left, _, right, _ in tile_boxes(FRAME, seams, 2.0))


def test_a_gap_lies_half_on_either_side_of_its_seam() -> None:
    seams = Seams((100.0,), (50.0,), (-4.0,), (-2.0,))
    assert tile_boxes(FRAME, seams, 5.0) == [
        (10, 20, 98, 49), (102, 20, 310, 49), (10, 51, 98, 80), (102, 51, 310, 80)
    ]  # fmt: skip
    assert gaps(FRAME, seams, 5.0) == [(98, 20, 102, 80), (10, 49, 310, 51)]
    assert gaps(FRAME, Seams((100.0,)), 5.0) == []


def test_what_reaches_beyond_the_frame_stays_with_the_outer_tiles() -> None:
    shape = film((-30, -10, 400, 30), (150, 40, 170, 200))
    tiles = [tile_of(shape, one, FRAME) for one in tile_boxes(FRAME, Seams((160.0,), (50.0,)), 0.0)]
    assert [t.bounds for t in tiles] == [
        (-30, -10, 160, 50), (160, -10, 400, 50), (150, 50, 160, 200), (160, 50, 170, 200)
    ]  # fmt: skip
    assert given_back(shape, tiles) == pytest.approx(0, abs=1e-9)


def test_what_tiles_do_not_give_back_is_measured() -> None:
    shape = film((0, 0, 10, 10))
    assert given_back(shape, [film((0, 0, 10, 9))]) == pytest.approx(10)
    assert given_back(shape, [film((0, 0, 10, 10)), film((10, 0, 12, 10))]) == pytest.approx(20)
    assert given_back(shape, [film((1, 0, 11, 10))]) == pytest.approx(20)
