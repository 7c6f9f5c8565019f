"""What a cutter's log says of a sheet: what is done, where it broke off, what is to be cut next and with what.

The logs are written by hand, for a blade without offset on squares of 40 mm round: its tip goes as far as the cutter says.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import pytest
import shapely
from shapely.affinity import translate

from gladstack.recipe.model.values import changed
from gladstack.shop.cut.cutting import FilmTry, Recut, Sent, SheetCut, trial_on
from gladstack.shop.cut.progress import (
    Progress,
    ToDraw,
    damaged,
    happened,
    progress,
    recuts_for,
    spoiled_on,
    to_do,
    to_draw,
    unfinished,
    ways_on,
)
from tests.shop.cut_sheets import cut_sheet, square

ROUND = 40.0


def sheet(**more: Any) -> SheetCut:
    """Four squares side by side: the first two are one part, as a part and its hole would be."""
    squares = tuple(square(10 + 15 * k, 20) for k in range(4))
    own = {"width_mm": 100, "length_used_mm": 80, "offset_mm": 0.0, "overcut_mm": 0.0, "contours": squares}
    return cut_sheet(**{**own, "owners": (0, 0, 1, 2), **more})


def film(*programs: Sent, **more: Any) -> FilmTry:
    return FilmTry(film="f", piece="p", wanted=(0, 1, 2, 3), programs=programs, **more)


def sent(*strokes: tuple[int, int, float], program: str = "one", what: str = "cut") -> Sent:
    return Sent.model_validate({"program": program, "what": what, "strokes": strokes})


ALL = sent(*((k, 0, 0.0) for k in range(4)))


def run(stroke: int, mm: float, *, done: bool = False, through: bool = True, program: str = "one") -> dict[str, Any]:
    """What the cutter says while it cuts: how far the stroke is by now."""
    tip = [[mm - 1.0, 70.0], [mm, 70.0]]
    return {"run": program, "stroke": stroke, "mm": mm, "done": done, "through": through, "tip": tip}


def end(program: str = "one", **broken: Any) -> dict[str, Any]:
    return {"program": program, "ended": True, "broken": broken or None}


def whole(*strokes: int, program: str = "one") -> list[dict[str, Any]]:
    return [run(k, ROUND, done=True, program=program) for k in strokes]


def read(cut: SheetCut, on: FilmTry, log: Sequence[dict[str, Any]]) -> Progress:
    return progress(cut, on, log)


def test_what_was_cut_through_is_not_cut_again() -> None:
    cut, on = sheet(), film(ALL)
    assert to_do(cut, on, read(cut, on, [])) == [(k, 0, 0.0) for k in range(4)]
    made = read(cut, on, whole(0, 1))
    assert made.turns == {0: 1, 1: 1}
    assert to_do(cut, on, made) == [(2, 0, 0.0), (3, 0, 0.0)]
    made = read(cut, on, [*whole(0, 1, 2, 3), end()])
    assert to_do(cut, on, made) == []
    assert ways_on(cut, on, made) == ()


def test_every_pass_is_counted() -> None:
    cut = sheet(passes=3)
    on = film(sent((0, 0, 0.0), (0, 1, 0.0), (1, 0, 0.0)))
    made = read(cut, on, whole(0, 1, 2))
    assert made.turns == {0: 2, 1: 1}
    assert to_do(cut, on, made)[:4] == [(0, 2, 0.0), (1, 1, 0.0), (1, 2, 0.0), (2, 0, 0.0)]
    assert to_do(cut, on, made)[4:] == [(2, 1, 0.0), (2, 2, 0.0), (3, 0, 0.0), (3, 1, 0.0), (3, 2, 0.0)]


def test_an_interrupted_cut_is_taken_up_shortly_before_the_break() -> None:
    cut, on = sheet(), film(ALL)
    made = read(cut, on, [*whole(0), run(1, 12.0), run(1, 17.0), end(kind="cover")])
    assert made.half == {1: (0, pytest.approx(17.0, abs=0.03))}
    assert to_do(cut, on, made) == [(1, 0, pytest.approx(16.5, abs=0.03)), (2, 0, 0.0), (3, 0, 0.0)]
    assert ways_on(cut, on, made) == ("go-on", "start-over")
    assert not made.running
    at_once = read(cut, on, [*whole(0), run(1, 0.3), end(kind="cover")])
    assert to_do(cut, on, at_once)[0] == (1, 0, 0.0)
    # It is taken up in a program of its own, and breaks off once more.
    twice = film(ALL, sent((1, 0, 16.5), (2, 0, 0.0), program="two"))
    log = [*whole(0), run(1, 17.0), end(kind="cover"), run(0, 10.0, program="two"), end("two", kind="power")]
    assert read(cut, twice, log).half == {1: (0, pytest.approx(26.5, abs=0.05))}
    log = [*log[:-2], run(0, 23.5, done=True, program="two"), end("two")]
    made = read(cut, twice, log)
    assert made.half == {}
    assert made.turns == {0: 1, 1: 1}
    assert made.broken is None


@pytest.mark.parametrize(("mm", "closed"), [(39.0, False), (40.1, False), (40.3, True)])
def test_a_contour_is_closed_where_its_cut_runs_on_over_its_beginning(mm: float, closed: bool) -> None:
    cut = sheet(overcut_mm=1.0)
    on = film(ALL)
    made = read(cut, on, [run(0, mm), end(kind="stop")])
    assert made.turns == ({0: 1} if closed else {})
    assert (0 in made.half) is not closed


def test_while_it_runs_nothing_has_stopped_it() -> None:
    cut, on = sheet(), film(ALL)
    begun = {"program": "one", "ended": False}
    assert read(cut, on, [begun]).running
    assert read(cut, on, [begun, run(0, 3.0)]).broken is None
    assert not read(cut, on, [begun, run(0, 3.0), end(kind="link")]).running


def test_a_test_cut_counts_once_it_came_to_its_end() -> None:
    cut = sheet()
    on = film(sent((4, 0, 0.0), program="try", what="test"), ALL, test_at=(5.0, 80.0))
    assert not read(cut, on, [{"program": "try", "ended": False}]).tested
    assert not read(cut, on, [end("try", kind="cover")]).tested
    made = read(cut, on, [run(0, 9.0, done=True, program="try"), end("try")])
    assert made.tested
    # It is of no part, and nothing of the sheet is done by it.
    assert made.turns == {}
    assert not read(cut, on, [*whole(0, 1, 2, 3), end()]).tested


def test_where_the_blade_did_not_come_through_it_is_cut_again_from_there() -> None:
    cut, on = sheet(), film(ALL)
    made = read(cut, on, [*whole(0), run(1, 9.0, through=False), run(1, ROUND, done=True, through=False), end()])
    assert made.scored == {1}
    assert made.turns == {0: 1}
    assert made.half == {}
    assert ways_on(cut, on, made) == ("again", "start-over")
    assert to_do(cut, on, made)[0] == (1, 0, 0.0)
    # The first 12 mm came through: what came through after that does not count.
    log = [run(1, 12.0), run(1, 20.0, through=False), run(1, 30.0), run(1, ROUND, done=True), end()]
    made = read(cut, on, log)
    assert made.scored == {1}
    assert made.half == {1: (0, pytest.approx(12.0, abs=0.03))}
    again = film(ALL, sent((1, 0, 11.5), program="two"))
    made = read(cut, again, [*log, run(0, 28.5, done=True, program="two"), end("two")])
    assert made.scored == frozenset()
    assert made.turns == {1: 1}
    assert made.half == {}


def test_after_a_slip_what_was_cut_since_does_not_count() -> None:
    cut, on = sheet(), film(ALL)
    made = read(cut, on, [*whole(0), run(1, 20.0), end(kind="slip", slip_mm=1.5, run_on_mm=5.0)])
    assert made.half == {1: (0, pytest.approx(15.0, abs=0.03))}
    assert happened(made.broken or {}) == "The film has slipped by about 1.5 mm."
    # One part has both squares: it is spoiled. The others are not begun.
    assert damaged(cut, on, made) == [0]
    assert ways_on(cut, on, made) == ("recut", "start-over")
    (again,) = recuts_for(cut, on, made) or []
    assert again.part == 0
    assert (again.dx_mm, again.dy_mm) != (0.0, 0.0)
    made = read(cut, on, [*whole(0, 1, 2), end(kind="slip", slip_mm=1.5, run_on_mm=0.0)])
    assert damaged(cut, on, made) == []


def test_without_room_on_the_film_the_rest_goes_on_new_film() -> None:
    # No room beside the parts, nor behind them.
    cut = sheet(width_mm=50, reach_mm=82)
    cut = changed(cut, contours=tuple(tuple((x, y * 2.3 - 40) for x, y in c) for c in cut.contours), spacing_mm=15)
    on = film(ALL)
    log = [run(0, 20.0), end(kind="slip", slip_mm=1.5)]
    assert recuts_for(cut, on, read(cut, on, log)) is None
    assert ways_on(cut, on, read(cut, on, log)) == ("rest", "start-over")
    assert ways_on(cut, on, read(cut, on, [run(0, 20.0), end(kind="film-out", at_mm=30)])) == ("rest", "start-over")


def test_a_part_cut_again_elsewhere_counts_in_place_of_its_own() -> None:
    cut = sheet()
    again = (Recut(part=0, dx_mm=0.0, dy_mm=40.0),)
    on = film(ALL, sent((4, 0, 0.0), (5, 0, 0.0), program="two"), recuts=again)
    log = [*whole(0), run(1, 20.0), end(kind="slip", slip_mm=1.5)]
    assert to_do(cut, on, read(cut, on, log)) == [(2, 0, 0.0), (3, 0, 0.0), (4, 0, 0.0), (5, 0, 0.0)]
    # It is only where all of it came through that it is sound.
    made = read(cut, on, [*log, *whole(0, program="two"), end("two", kind="slip", slip_mm=2.0)])
    assert damaged(cut, on, made) == [0]
    made = read(cut, on, [*log, *whole(0, 1, program="two"), end("two", kind="slip", slip_mm=2.0)])
    assert damaged(cut, on, made) == []


def test_pens_draw_one_after_another_what_is_not_drawn() -> None:
    lines = tuple(((5.0 * k, 5.0), (5.0 * k, 9.0)) for k in range(4))
    cut = sheet(pen=lines, pens=(("Soft", 1), ("Fine", 4)))
    pen = sent((0, 0, 0.0), (1, 0, 0.0), program="pen", what="pen")
    on = film(pen, sent((2, 0, 0.0), (3, 0, 0.0), program="more", what="pen"))
    assert to_draw(cut, read(cut, on, [])) == ToDraw("Soft", (0,))
    made = read(cut, on, whole(0, program="pen"))
    assert made.drawn == {0}
    assert made.turns == {}
    assert to_draw(cut, made) == ToDraw("Fine", (1, 2, 3))
    # A line that broke off is drawn again.
    made = read(cut, on, [*whole(0, 1, program="pen"), run(0, 2.0, program="more"), end("more", kind="cover")])
    assert to_draw(cut, made) == ToDraw("Fine", (2, 3))
    done = read(cut, on, [*whole(0, 1, program="pen"), *whole(0, 1, program="more")])
    assert to_draw(cut, done) is None
    assert to_draw(sheet(pen=lines), read(cut, on, whole(0, program="pen"))) == ToDraw(None, (1, 2, 3))


def test_what_is_shown_as_cut_lies_as_it_lies_on_the_sheet() -> None:
    cut, on = sheet(), film(ALL)
    log = [run(0, 5.0), run(0, 9.0), run(1, 3.0, through=False), run(7, 3.0, program="another job's")]
    first, second = read(cut, on, log).strokes
    # The cutter counts across from the other side of the film.
    assert first.points.tolist() == [[4.0, 30.0], [5.0, 30.0], [8.0, 30.0], [9.0, 30.0]]
    assert (first.what, first.contour, first.turn, first.through) == ("cut", 0, 0, True)
    assert (second.contour, second.through) == (1, False)
    point = {**run(2, 1.0), "tip": [[1.0, 1.0]]}
    assert read(cut, on, [point]).strokes == ()


def where(cut: SheetCut, on: FilmTry, made: Progress) -> list[shapely.Geometry]:
    """The damaged parts at their new places."""
    return [
        shapely.union_all(
            [
                translate(shapely.Polygon(c), again.dx_mm, again.dy_mm)
                for c, owner in zip(cut.contours, cut.owners, strict=True)
                if owner == again.part
            ]
        )
        for again in recuts_for(cut, on, made) or []
    ]


def test_damaged_parts_find_room_clear_of_all_else_as_near_as_may_be() -> None:
    # The slip came in the first pass of two, so that nothing was whole.
    cut = sheet(passes=2)
    on = film(ALL, test_at=(45.0, 40.0))
    made = read(cut, on, [*whole(0, 1, 2), run(3, 7.0), end(kind="slip", slip_mm=1.5)])
    assert damaged(cut, on, made) == [0, 1, 2]
    found = where(cut, on, made)
    assert len(found) == 3
    planned = [shapely.Polygon(c) for c in cut.contours]
    trial = shapely.box(45, 40, 53, 48)
    for k, part in enumerate(found):
        # Two mm apart, five from the edges of the film; it is found on a grid that rounds to the safe side.
        assert all(part.distance(other) > 2 - 0.05 for other in (*planned, trial, *found[:k]))
        left, top, right, bottom = part.bounds
        assert left > 5 - 0.01
        assert top > 5 - 0.01
        assert bottom < 95 + 0.01
        assert right < 160
    # Small ones lie just beside what was planned.
    assert min(part.distance(shapely.union_all(planned)) for part in found) < 4


def test_film_just_long_enough_for_a_damaged_part_is_enough() -> None:
    # Parts are as wide as the film between its margins: another goes only behind them.
    tall = tuple(tuple((10 + 15 * k + x, y) for x, y in ((0, 5), (10, 5), (10, 45), (0, 45), (0, 5))) for k in range(4))
    told = {"contours": tall, "width_mm": 50, "length_used_mm": 70, "owners": (0, 1, 2, 3)}
    log = [run(0, 20.0), end(kind="slip", slip_mm=1.5)]
    for reach, room in ((90, True), (76, False)):
        cut = sheet(reach_mm=reach, **told)
        on = film(ALL)
        found = where(cut, on, read(cut, on, log))
        assert bool(found) is room
        if found:
            assert 67 < found[0].bounds[0] < 71
            assert found[0].bounds[2] < reach - 5 + 0.01


def test_on_new_film_all_of_a_part_is_cut_that_is_not_whole() -> None:
    cut, on = sheet(owners=(0, 0, 1, -1)), film(ALL)
    assert unfinished(cut, on, read(cut, on, [])) == [0, 1, 2, 3]
    # The hole of the first part came out, its outline did not: both are cut again, with the box that is left.
    made = read(cut, on, [*whole(0, 2), run(1, 20.0), end(kind="film-out", at_mm=50)])
    assert unfinished(cut, on, made) == [0, 1, 3]
    assert unfinished(cut, on, read(cut, on, [*whole(0, 1, 3), end()])) == [2]
    assert unfinished(cut, on, read(cut, on, [*whole(0, 1, 2, 3), end()])) == []


def test_a_part_cut_again_twice_counts_where_it_was_cut_last() -> None:
    again = (
        Recut(part=0, dx_mm=0.0, dy_mm=40.0),
        Recut(part=1, dx_mm=0.0, dy_mm=40.0),
        Recut(part=0, dx_mm=70.0, dy_mm=0.0),
    )
    # Contours: four of the sheet, two of the first again, one of the second, two of the first once more.
    cut, on = sheet(), film(ALL, sent(*((k, 0, 0.0) for k in range(4, 9)), program="two"), recuts=again)
    assert spoiled_on(cut, on) == {0, 1, 2, 4, 5}
    made = read(cut, on, [])
    assert [contour for contour, _, _ in to_do(cut, on, made)] == [3, 6, 7, 8]
    made = read(cut, on, [*whole(3, 4, program="two"), end("two")])
    assert unfinished(cut, on, made) == [2, 3]
    # Its first place and a test cut before it change nothing of that.
    tested = changed(on, test_at=(60.0, 60.0))
    assert spoiled_on(cut, tested) == {0, 1, 2, *(4 + len(trial_on(tested)) + k for k in (0, 1))}
