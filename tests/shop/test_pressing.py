"""Press schedules, each worked out by hand: materials x order x method."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.shop.jobs.job import Finishing, Pressing
from gladstack.shop.papers.pressing import schedule
from gladstack.shop.shelf.kinds import Press
from gladstack.shop.shelf.materials import Material


def film(kind: str, press: Press | None = None, id_: str = "m") -> Material:
    return Material.model_validate({"id": id_, "name": id_, "kind": kind, "colour": "#112233", "press": press})


SMOOTH = film("smooth", Press(celsius=150, tack_s=3, full_s=12, peel="warm"))
HOT = film("smooth", Press(celsius=140, tack_s=2, full_s=10, peel="hot"))
FLOCK = film("flock", Press(celsius=160, tack_s=4, full_s=17, peel="cold", behind_s=8))
FOIL = film("foil", Press(celsius=145, bears_celsius=150, tack_s=5, full_s=15, bears_s=20, peel="cold"))
GLITTER = film("glitter", Press(celsius=155, tack_s=5, full_s=20, bears_s=60))
TENDER = film("smooth", Press(celsius=120, bears_celsius=125, tack_s=2, full_s=8, bears_s=12))
PLAIN = film("smooth")
VINYL = film("adhesive")
STENCIL = film("stencil")

# (films from the ground up, degrees, seconds of each press, longest in all, seconds from behind, how often one is told)
CASES = [
    ([SMOOTH], 150, [12], 12, 0, 0),
    ([SMOOTH, SMOOTH], 150, [3, 12], 15, 0, 0),
    ([SMOOTH, SMOOTH, SMOOTH], 150, [3, 3, 12], 18, 0, 0),
    ([SMOOTH] * 5, 150, [3, 3, 3, 3, 12], 24, 0, 0),
    # Six: 5 x 3 s of tacking and 12 in full are 27 s; the lowest bears 24, so 9 s are left for the last.
    ([SMOOTH] * 6, 150, [3, 3, 3, 3, 3, 9], 24, 0, 1),
    ([SMOOTH] * 9, 150, [3] * 8 + [0], 24, 0, 1),
    ([HOT], 140, [10], 10, 0, 0),
    # The lower is made for 140 and bears 150.
    ([HOT, SMOOTH], 150, [2, 12], 14, 0, 1),
    # The upper is made for 140; the last is pressed 10 s, by which the lower has 13 of its 12.
    ([SMOOTH, HOT], 150, [3, 10], 13, 0, 1),
    ([FLOCK], 160, [17], 17, 8, 0),
    # Smooth bears 160; 4 + 12: flock below has had 16 and lacks one more second.
    ([FLOCK, SMOOTH], 160, [4, 13], 17, 8, 1),
    ([SMOOTH, FLOCK], 160, [3, 17], 20, 8, 1),
    # Foil bears 150 and flock needs 160.
    ([FOIL, FLOCK], 160, [5, 15], 20, 8, 2),
    ([FOIL], 145, [15], 15, 0, 0),
    ([FOIL, SMOOTH], 150, [5, 12], 17, 0, 1),
    ([FOIL, FOIL], 145, [5, 15], 20, 0, 0),
    # Twice tacked below, the lowest foil has 10 s left of its 20.
    ([FOIL, FOIL, FOIL], 145, [5, 5, 10], 20, 0, 1),
    ([GLITTER], 155, [20], 20, 0, 0),
    # Smooth lies lowest: 3 + 20 is within the 24 s that it bears.
    ([SMOOTH, GLITTER], 155, [3, 20], 23, 0, 1),
    # Glitter below has 5 s of tacking and wants 20: the last one 15 s, though smooth needs but 12.
    ([GLITTER, SMOOTH], 155, [5, 15], 20, 0, 1),
    ([TENDER, SMOOTH], 150, [2, 10], 12, 0, 2),
    ([PLAIN], 150, [15], 15, 0, 0),
    ([PLAIN, SMOOTH], 150, [4, 12], 16, 0, 0),
    # What is not pressed has no place in the press.
    ([VINYL, SMOOTH], 150, [12], 12, 0, 0),
    ([SMOOTH, VINYL, HOT], 150, [3, 10], 13, 0, 1),
]


@pytest.mark.parametrize(("films", "celsius", "seconds", "longest", "behind", "told"), CASES)
def test_schedules_worked_out_by_hand(
    films: list[Material], celsius: int, seconds: list[float], longest: float, behind: float, told: int
) -> None:
    made = schedule([(f"film {k}", m) for k, m in enumerate(films)])
    assert made is not None
    assert made.celsius == celsius
    assert [s.seconds for s in made.steps] == seconds
    assert max(made.totals_s) == longest
    assert made.behind_s == behind
    assert len(made.told) == told
    assert [s.full for s in made.steps] == [False] * (len(seconds) - 1) + [True]
    assert [s.cover for s in made.steps] == [False] + [True] * (len(seconds) - 1)


# (films from the ground up, in which order, seconds of each press and from behind, which are in full, how often one is told)
ORDERS = [
    ([SMOOTH, SMOOTH], "each", [12, 12], 0, [True, True], 0),
    # The lowest is pressed 36 s and bears 24.
    ([SMOOTH, SMOOTH, SMOOTH], "each", [12, 12, 12], 0, [True, True, True], 1),
    # Each has been tacked 3 s at least, and wants 12.
    ([SMOOTH, SMOOTH], "behind", [3, 3], 9, [False, False], 0),
    # Flock wants 17 and is tacked 4; smooth below bears 24 and is tacked 7.
    ([SMOOTH, FLOCK], "behind", [3, 4], 13, [False, False], 1),
    # The lowest foil bears 20 s and is tacked 15 of them: of 10 that the last wants, 5 are left.
    ([FOIL, FOIL, FOIL], "behind", [5, 5, 5], 5, [False, False, False], 1),
]


@pytest.mark.parametrize(("films", "finish", "seconds", "behind", "full", "told"), ORDERS)
def test_a_maker_presses_in_another_order(
    films: list[Material], finish: Finishing, seconds: list[float], behind: float, full: list[bool], told: int
) -> None:
    made = schedule([(f"film {k}", m) for k, m in enumerate(films)], Pressing(finish=finish))
    assert made is not None
    assert [s.seconds for s in made.steps] == seconds
    assert made.behind_s == behind
    assert [s.full for s in made.steps] == full
    assert len(made.told) == told


def test_ten_of_thirty_seconds_then_the_rest_from_behind() -> None:
    made = schedule([("film", SMOOTH)], Pressing(finish="behind", tack_s=10, full_s=24))
    assert made is not None
    assert ([s.seconds for s in made.steps], made.behind_s, made.totals_s) == ([10], 14, (24,))


def test_nothing_to_press_makes_no_schedule() -> None:
    assert schedule([("a", VINYL), ("b", STENCIL)]) is None
    assert schedule([]) is None


def test_how_each_is_peeled() -> None:
    made = schedule([("a", HOT), ("b", SMOOTH), ("c", FLOCK)])
    assert made is not None
    assert [s.peel for s in made.steps] == ["hot", "warm", "cold"]


@given(st.lists(st.sampled_from([SMOOTH, HOT, FLOCK, FOIL, GLITTER, TENDER, PLAIN]), min_size=1, max_size=8))
def test_no_film_is_pressed_longer_than_it_bears_unless_it_is_tacked_to_death(films: list[Material]) -> None:
    made = schedule([(str(k), m) for k, m in enumerate(films)])
    assert made is not None
    presses = [m.press or Press() for m in films]
    tacked = [sum(p.tack_s for p in presses[k:-1]) for k in range(len(presses))]
    for press, total, before in zip(presses, made.totals_s, tacked, strict=True):
        assert total <= max(press.most_s, before) + 1e-9
    assert made.celsius == max(p.celsius for p in presses)


def test_the_film_that_bears_the_least_is_told_by_its_name() -> None:
    for films, name in (([FOIL, GLITTER], "film 0"), ([GLITTER, FOIL, GLITTER], "film 1")):
        made = schedule([(f"film {k}", m) for k, m in enumerate(films)], Pressing(full_s=20))
        assert made is not None
        assert any(one.startswith(f"{name} bears 20 s in all") for one in made.told), made.told
