"""Copies and tiles in register, by cases worked out by hand: how they are turned, where they lie, when they are divided."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Any

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.geometry.curves import transform_points
from gladstack.core.plan.laying import Room
from gladstack.core.plan.tiles import TileError
from gladstack.demo.shelf import demo_shop
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan.register import Block, Register, content, lay_register
from gladstack.shop.plan.wanted import WantedFilm, wanted_films
from gladstack.shop.shelf.shelf import Shop
from tests.examples import examples
from tests.shop.jobs import built

SPACING = 3.0


def shelf(**how: Any) -> Shop:
    """The films of the demo, all of them alike in what is told."""
    plain = {"grain": "free", "shrink_along": 0.0, "shrink_across": 0.0, "face": "front", **how}
    shop = demo_shop()
    return replace(shop, materials=tuple(changed(m, **plain) for m in shop.materials))


def films(
    wide: float = 100, high: float = 60, job: dict[str, Any] | None = None, **how: Any
) -> tuple[Job, list[WantedFilm]]:
    """A rectangle with another in its upper left quarter, of two films of the shelf, and the job that cuts it."""
    use, shop = how.pop("use", "surface"), shelf(**how)
    kept = [m.colour for m in shop.materials if m.method == ("heat-transfer" if use == "heat-transfer" else "adhesive")]
    arts = [
        {"kind": "shape", "id": "a", "film": kept[0], "form": {"form": "rectangle", "width_mm": wide, "height_mm": high}},
        {
            "kind": "shape", "id": "b", "film": kept[1], "place": {"x_mm": -wide / 4, "y_mm": -high / 4},
            "form": {"form": "rectangle", "width_mm": wide / 4, "height_mm": high / 4},
        },
    ]  # fmt: skip
    design = built({"arts": arts, "joint": {"kind": "full"}, "use": use})
    asked = {"copies": 1, **(job or {})}
    one = Job.model_validate(
        {"name": "J", "designs": [{"design": "d", "name": "D", "copies": asked.pop("copies")}], **asked}
    )
    return one, wanted_films(one, {"d": design}, shop)


def laid(room: Room, **told: Any) -> Register:
    job, wanted = films(**told)
    return lay_register(wanted, job, room, SPACING)


def places(register: Register) -> list[tuple[int, float, float]]:
    return [(b.sheet, b.x_mm, b.y_mm) for b in register.blocks]


def test_copies_stand_in_columns_across_the_film() -> None:
    # Three of 60 mm and two spaces take 186 mm.
    found = laid(Room(350, 186), job={"copies": 5})
    assert found.turn_deg == 0
    assert places(found) == [(0, 0, 0), (0, 0, 63), (0, 0, 126), (0, 103, 0), (0, 103, 63)]
    assert [b.copy for b in found.blocks] == [0, 1, 2, 3, 4]
    assert places(laid(Room(350, 185.9), job={"copies": 3}, grain="none")) == [(0, 0, 0), (0, 0, 63), (0, 103, 0)]


def test_they_are_turned_where_that_takes_less_film() -> None:
    # Turned, two stand across 203 mm, and five take 186 mm of length; else they take 203 mm.
    found = laid(Room(350, 203), job={"copies": 5})
    assert found.turn_deg == 90
    assert found.size_mm == (60, 100)
    assert places(found) == [(0, 0, 0), (0, 0, 103), (0, 63, 0), (0, 63, 103), (0, 126, 0)]
    assert laid(Room(350, 202.9), job={"copies": 5}).turn_deg == 0
    # Grain, nap or a pattern must not be turned.
    assert laid(Room(350, 203), job={"copies": 5}, grain="half").turn_deg == 0
    # What fits only one way lies that way.
    assert laid(Room(350, 60)).turn_deg == 0
    assert laid(Room(60, 100)).turn_deg == 90


def test_what_finds_no_more_room_goes_on_another_sheet() -> None:
    found = laid(Room(203, 186), job={"copies": 7})
    assert places(found)[5:] == [(0, 103, 126), (1, 0, 0)]
    # One sheet turned is better than two that are not.
    assert {b.sheet for b in laid(Room(249, 100), job={"copies": 4}).blocks} == {0}


@given(st.integers(1, 9), st.floats(60, 240), st.floats(60, 240), st.sampled_from(["free", "none"]))
@settings(max_examples=examples(30))
def test_no_copy_lies_on_another_or_beyond_the_room(copies: int, length: float, width: float, grain: str) -> None:
    try:
        found = laid(Room(length, width), job={"copies": copies, "tiles": {"divide": False}}, grain=grain)
    except TileError:
        assert min(length, width) < 60 or max(length, width) < 100 or (grain == "none" and length < 100)
        return
    along, across = found.size_mm
    boxes = [(b.sheet, shapely.box(b.x_mm, b.y_mm, b.x_mm + along, b.y_mm + across)) for b in found.blocks]
    assert len(boxes) == copies
    for k, (sheet, own) in enumerate(boxes):
        assert shapely.box(0, 0, length, width).buffer(1e-5).covers(own)
        assert all(other != sheet or own.distance(box) > SPACING - 1e-6 for other, box in boxes[:k])


@pytest.mark.parametrize("face", ["front", "back"])
@pytest.mark.parametrize("width", [190.0, 220.0], ids=["as it is", "turned"])
def test_each_film_lies_at_its_block_larger_by_what_the_press_takes(face: str, width: float) -> None:
    pressed = {"face": face, "use": "heat-transfer", "shrink_along": 0.01, "shrink_across": 0.02}
    job, wanted = films(job={"copies": 5}, **pressed)
    found = lay_register(wanted, job, Room(350, width), SPACING)
    for film in wanted:
        larger = 1 / 0.99**film.presses, 1 / 0.98**film.presses
        for block in found.blocks:
            onto = found.matrix(film, block, 9.0)
            left, top, right, bottom = found.frames[film.film][0]
            on_film = transform_points(shapely.get_coordinates(shapely.box(left, top, right, bottom)), onto)
            assert on_film.min(axis=0) == pytest.approx((9 + block.x_mm, 9 + block.y_mm), abs=1e-3)
            w, h = (right - left, bottom - top) if found.turn_deg == 0 else (bottom - top, right - left)
            assert on_film.max(axis=0) - on_film.min(axis=0) == pytest.approx((w * larger[0], h * larger[1]), abs=1e-3)
            # Seen from its front it is as drawn, or else mirrored: never both, never neither.
            assert (onto[0] * onto[3] - onto[1] * onto[2] < 0) is film.mirrored
    assert {film.mirrored for film in wanted} == {face == "back"}
    assert found.turn_deg == (0 if width == 190 else 90)


def test_all_films_have_room_for_the_largest() -> None:
    job, wanted = films(shrink_across=0.05, use="heat-transfer")
    factor = max(1 / 0.95**film.presses for film in wanted)
    assert lay_register(wanted, job, Room(120, 60 * factor), SPACING).size_mm == pytest.approx((100 * factor, 60 * factor))
    with pytest.raises(TileError):
        lay_register(wanted, changed(job, tiles=changed(job.tiles, divide=False)), Room(120, 60 * factor - 0.1), SPACING)


def test_marks_have_room_around_or_are_left_out() -> None:
    marks = {"marks": {"count": 3}}
    roomy = laid(Room(118, 78), job=marks)
    assert (roomy.marks, roomy.size_mm) == (3, (118, 78))
    tight = laid(Room(117.9, 78), job=marks)
    assert (tight.marks, tight.size_mm) == (0, (100, 60))
    assert laid(Room(100, 60), job={"marks": {"count": 3, "inside": True}}).marks == 3


def test_what_is_not_to_be_divided_says_its_size_and_that_of_the_room() -> None:
    with pytest.raises(TileError) as told:
        laid(Room(90, 55), job={"tiles": {"divide": False}})
    assert str(told.value).startswith("D is 100 × 60 mm, and there is room for 90 × 55 mm.")


def test_tiles_reach_under_each_other_and_are_no_larger_than_the_film() -> None:
    found = laid(Room(200, 150), wide=500, high=100)
    (first, *_) = found.frames.values()
    assert len(first) == len(found.blocks) == 3
    assert found.overlap_mm == 4.0
    for one, following in pairwise(first):
        assert one[2] - following[0] == pytest.approx(4.0)
    for left, top, right, bottom in first:
        assert right - left <= 200
        assert (top, bottom) == (-50, 50)
    assert (first[0][0], first[-1][2]) == (-250, 250)
    # Pressed film is butted: it bears no second layer.
    pressed = laid(Room(200, 150), wide=500, high=100, use="heat-transfer")
    assert pressed.overlap_mm == 0.0
    assert laid(Room(200, 150), wide=500, high=100, job={"tiles": {"overlap_mm": 7}}).overlap_mm == 7.0


def test_a_film_has_only_the_tiles_that_hold_something_of_it() -> None:
    job, wanted = films(wide=500, high=100, job={"copies": 2})
    found = lay_register(wanted, job, Room(200, 150), SPACING)
    whole, corner = sorted(wanted, key=lambda film: -film.layer.cut.area)
    held = {film.film: [t for t in range(3) if content(film, found, block_of(found, t)).geoms] for film in (whole, corner)}
    assert held[whole.film] == [0, 1, 2]
    assert 0 < len(held[corner.film]) < 3
    own = found.blocks_of(corner, held[corner.film])
    assert [(b.copy, b.tile) for b in own] == [(copy, tile) for copy in (0, 1) for tile in held[corner.film]]
    assert (own[0].x_mm, own[0].y_mm) == (0, 0)
    in_all = sum(content(whole, found, block_of(found, t)).area for t in range(3))
    # All of the film is in some tile, and what lies under a neighbour is in two.
    assert in_all == pytest.approx(whole.layer.cut.area + 2 * 4 * 100, rel=1e-6)


def block_of(register: Register, tile: int) -> Block:
    return next(b for b in register.blocks if b.tile == tile)


def test_tiles_have_room_for_marks_all_round() -> None:
    plain, marked = (laid(Room(200, 150), wide=500, high=100, job={"marks": {"count": count}}) for count in (0, 3))
    (without, *_), (with_room, *_) = plain.frames.values(), marked.frames.values()
    assert (without[0][:2], with_room[0][:2]) == ((-250, -50), (-259, -59))
    assert (without[-1][2:], with_room[-1][2:]) == ((250, 50), (259, 59))
    assert max(right - left for left, _, right, _ in with_room) <= 200
    assert (plain.marks, marked.marks) == (0, 3)


@pytest.mark.parametrize(("room", "grain", "turn"), [((200, 110), "free", 90.0), ((200, 110), "half", 0.0)])
def test_tiles_are_turned_where_fewer_do(room: tuple[float, float], grain: str, turn: float) -> None:
    # 105 mm wide: turned, three pieces of it fit across the film, else it has to be divided along as well.
    found = laid(Room(*room), wide=105, high=560, grain=grain)
    assert found.turn_deg == turn
    (frames, *_) = found.frames.values()
    assert len(frames) == (3 if turn else 6)
    sizes = [(b[3] - b[1], b[2] - b[0]) if turn else (b[2] - b[0], b[3] - b[1]) for b in frames]
    for block, (along, across) in zip(found.blocks, sizes, strict=True):
        assert block.x_mm + along <= room[0] + 0.5
        assert block.y_mm + across <= room[1] + 0.5
    assert found.size_mm == pytest.approx(max(sizes))


def test_tiles_of_a_film_lie_side_by_side_as_large_as_each_is() -> None:
    job, wanted = films(wide=500, high=100, job={"copies": 2})
    found = lay_register(wanted, job, Room(200, 210), SPACING)
    whole = max(wanted, key=lambda film: film.layer.cut.area)
    own = found.blocks_of(whole, [0, 2])
    frames = found.frames[whole.film]
    # Two of 100 mm and a space stand across; the next column begins where the larger of them ends.
    deepest = max(frames[t][2] - frames[t][0] for t in (0, 2))
    assert [(b.tile, b.sheet, b.x_mm, b.y_mm) for b in own[:2]] == [(0, 0, 0.0, 0.0), (2, 0, 0.0, 103.0)]
    third = own[2]
    assert (third.tile, third.y_mm) == (0, 0.0)
    assert (third.sheet, third.x_mm) in ((0, pytest.approx(deepest + SPACING)), (1, 0.0))
    assert found.blocks_of(whole, []) == []
    single = lay_register(films(job={"copies": 2})[1], films(job={"copies": 2})[0], Room(300, 200), SPACING)
    assert single.blocks_of(whole, [0]) == single.blocks


def test_a_seam_that_cannot_lie_where_it_was_put_is_told() -> None:
    def put(**seam: Any) -> Register:
        return laid(
            Room(200, 150), wide=500, high=100,
            job={"tiles": {"placed": [{"design": "d", "axis": "x", "index": 0, "of": {"x": 2}, **seam}]}},
        )  # fmt: skip

    fits = put(at_mm=-80.0)
    assert fits.held == ()
    assert all(seams.x[0] == pytest.approx(-80.0) for seams in fits.seams.values())
    (held,) = put(at_mm=-20.0).held
    assert held.wanted.at_mm == -20.0
    # The first tile is as large as it can be.
    assert held.at_mm is not None
    assert -56 < held.at_mm < -50
    (missing,) = put(at_mm=-80.0, index=5).held
    assert missing.at_mm is None
    # One that has only an overlap of its own lies wherever seams do.
    assert put(overlap_mm=8.0).held == ()
