"""What a cut film takes off the shelf and leaves on it, by hand; and what of a film is spoiled once parts are cut again."""

from __future__ import annotations

from typing import Any

import pytest

from gladstack.shop.cut.cutting import FilmTry, Recut, SheetCut
from gladstack.shop.cut.figures import pieces_for, stock_changes
from gladstack.shop.cut.progress import spoiled_on
from gladstack.shop.shelf.stock import Gain, Piece, Use
from tests.shop.cut_sheets import cut_sheet, square

LEFT_OVER = Gain(material="red", width_mm=120, length_mm=200)


def sheet(kind: str, **more: Any) -> SheetCut:
    """A sheet of three parts, the first with a hole: 150 mm of film are planned for, of 400."""
    contours = (square(2), square(0), square(20), square(40))
    return cut_sheet(**{"kind": kind, "gains": (LEFT_OVER,), "contours": contours, "owners": (0, 0, 1, 2), **more})


def tried(ended: str, used_mm: float, **more: Any) -> FilmTry:
    data = {"film": "f", "piece": "p", "wanted": (0, 1, 2, 3), "ended": ended, "used_mm": used_mm, **more}
    return FilmTry.model_validate(data)


AGAIN = (Recut(part=1, dx_mm=0, dy_mm=30),)
ROLLS = [
    # (how it ended, mm that the blade was in, left on the roll, what is taken, whether the planned rest is kept)
    ("cut", 140.0, 900.0, 150.0, True),
    ("cut", 150.0, 900.0, 150.0, True),
    ("cut", 180.0, 900.0, 180.0, False),
    ("spoiled", 90.0, 900.0, 90.0, False),
    ("cut", 140.0, 120.0, 120.0, True),
]


@pytest.mark.parametrize(("ended", "used", "left", "taken", "kept"), ROLLS)
def test_a_roll_is_shorter_by_what_was_cut_of_it(ended: str, used: float, left: float, taken: float, kept: bool) -> None:
    uses, gains = stock_changes(sheet("roll"), tried(ended, used), left)
    assert uses == [Use(piece="p", amount=taken)]
    assert gains == ([LEFT_OVER] if kept else [])


PIECES = [
    ("cut", 150.0, (), LEFT_OVER),
    # Cut again beside the rest, or farther than planned, only what lies beyond is left.
    ("cut", 150.0, AGAIN, Gain(material="red", width_mm=300, length_mm=250)),
    ("cut", 200.0, (), Gain(material="red", width_mm=300, length_mm=200)),
    ("spoiled", 150.0, (), Gain(material="red", width_mm=300, length_mm=250)),
    ("spoiled", 340.0, (), Gain(material="red", width_mm=300, length_mm=60)),
    # Less than is worth keeping is not kept.
    ("spoiled", 341.0, (), None),
]


@pytest.mark.parametrize(("ended", "used", "recuts", "left"), PIECES)
def test_a_sheet_is_gone_and_leaves_an_offcut(ended: str, used: float, recuts: tuple[Recut, ...], left: Gain | None) -> None:
    uses, gains = stock_changes(sheet("sheet"), tried(ended, used, recuts=recuts), 3.0)
    assert uses == [Use(piece="p", amount=1.0)]
    assert gains == ([left] if left else [])


def test_film_that_was_bought_or_not_touched_changes_nothing() -> None:
    assert stock_changes(sheet("roll", bought=True), tried("cut", 150), 900.0) == ([], [])
    assert stock_changes(sheet("roll"), tried("out", 0.0), 900.0) == ([], [])
    assert stock_changes(sheet("sheet"), tried("cut", 150), 0.0) == ([], [])


def test_a_sheet_is_cut_again_from_its_own_piece_or_another_as_wide_and_long_enough() -> None:
    def piece(id_: str, **more: Any) -> Piece:
        data = {"id": id_, "material": "red", "kind": "sheet", "width_mm": 300, "length_mm": 400, "left": 1, **more}
        return Piece.model_validate(data)

    shelf = [
        piece("large"), piece("small", length_mm=150), piece("short", length_mm=149), piece("narrow", width_mm=299),
        piece("gone", left=0), piece("blue", material="blue"), piece("p", width_mm=290),
    ]  # fmt: skip
    assert [p.id for p in pieces_for(sheet("sheet"), shelf)] == ["p", "small", "large"]


def test_what_is_cut_again_spoils_all_that_was_cut_of_it_before() -> None:
    cut = sheet("sheet")
    assert spoiled_on(cut, tried("cut", 150)) == frozenset()
    assert spoiled_on(cut, tried("cut", 150, recuts=AGAIN)) == {2}
    # The first part has two contours, and so has each of its copies; those of the first copy follow the sheet's four.
    twice = tuple(Recut(part=p, dx_mm=0, dy_mm=30.0 * k) for k, p in enumerate((0, 1, 0), start=1))
    assert spoiled_on(cut, tried("cut", 150, recuts=twice)) == {0, 1, 2, 4, 5}
    # A test cut lies between the two.
    tested = tried("cut", 150, recuts=twice, test_at=(80, 80))
    assert spoiled_on(cut, tested) == {0, 1, 2, 6, 7}
