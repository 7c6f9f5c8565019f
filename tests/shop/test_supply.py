"""Which pieces of stock things are laid on, and what is taken off them."""

from __future__ import annotations

from typing import Any

import pytest
from shapely import MultiPolygon, box

from gladstack.core.plan.laying import Item, Room
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.shop.shelf.supply import TO_BUY, Load, Supply, laid_on_stock, widest_room

CUTTER = Cutter(id="c", name="Cutter", width_mm=400, length_mm=1500, side_margin_mm=2, end_margin_mm=3)
RED = Material.model_validate({"id": "red", "name": "Red", "kind": "adhesive", "colour": "#c0392b", "margin_mm": 1})
BLUE = RED.model_copy(update={"id": "blue"})
MARGIN = 5.0


def piece(id_: str, kind: str, wide: float, long: float, left: float, material: str = "red") -> Piece:
    made: dict[str, Any] = {"id": id_, "material": material, "kind": kind}
    return Piece.model_validate({**made, "width_mm": wide, "length_mm": long, "left": left})


OFFCUT, LARGER = piece("offcut", "offcut", 100, 120, 2), piece("larger", "offcut", 150, 200, 1)
SHEET, ROLL = piece("sheet", "sheet", 300, 200, 3), piece("roll", "roll", 250, 5000, 900)


def supply(*pieces: Piece) -> Supply:
    return Supply(Shop(materials=(RED, BLUE), pieces=pieces), CUTTER)


def squares(count: int, size: float) -> list[Item]:
    return [Item(MultiPolygon([box(0, 0, size, size)]), form=0) for _ in range(count)]


def laid(items: list[Item], held: Supply, chosen: str | None = None) -> tuple[list[Load], list[int]]:
    return laid_on_stock(items, RED, held, 2.0, 0, chosen, MARGIN)


def test_the_smallest_offcut_comes_first_and_film_to_buy_last() -> None:
    held = supply(ROLL, LARGER, SHEET, OFFCUT, piece("other", "roll", 380, 1000, 800, "blue"))
    assert [p.id for p in held.pieces(RED, MARGIN, None)] == ["offcut", "larger", "sheet", "roll", TO_BUY]
    assert [p.id for p in held.pieces(RED, MARGIN, "roll")] == ["roll", "offcut", "larger", "sheet", TO_BUY]


@pytest.mark.parametrize(
    ("pieces", "wide"),
    [((ROLL,), 250), ((SHEET, ROLL), 300), ((OFFCUT,), 400), ((), 400), ((piece("w", "roll", 600, 900, 0),), 400)],
)
def test_film_to_buy_is_as_wide_as_what_one_has_had_or_the_cutter_takes(pieces: tuple[Piece, ...], wide: float) -> None:
    bought = supply(*pieces).pieces(RED, MARGIN, None)[-1]
    assert (bought.id, bought.kind, bought.width_mm) == (TO_BUY, "roll", wide)


def test_what_is_taken_is_no_longer_there() -> None:
    held = supply(OFFCUT, SHEET, ROLL)
    for one, amount in ((OFFCUT, 1.0), (SHEET, 1.0), (SHEET, 2.0), (ROLL, 884.0)):
        held.take(one, amount)
    # The end of the roll is 16 mm: one more than its margins and 5 mm.
    assert [(p.id, p.left) for p in held.pieces(RED, MARGIN, None)[:-1]] == [("offcut", 1), ("roll", 16)]
    held.take(ROLL, 1.0)
    held.take(OFFCUT, 1.0)
    held.take(held.pieces(RED, MARGIN, None)[-1], 700.0)
    assert [p.id for p in held.pieces(RED, MARGIN, None)] == [TO_BUY]
    assert TO_BUY not in held.taken


def test_a_piece_reaches_as_far_as_the_cutter_takes_it() -> None:
    held = supply()
    assert held.room(SHEET, MARGIN) == Room(190, 290)
    assert held.room(piece("long", "roll", 600, 9000, 8000), 10.0) == Room(1480, 380)
    assert held.size(ROLL) == (900, 250)


@pytest.mark.parametrize(("material", "side", "end", "margin"), [(1, 2, 3, 3), (1, 4, 3, 4), (9, 4, 3, 9)])
def test_the_widest_of_all_margins_counts(material: float, side: float, end: float, margin: float) -> None:
    cutter = CUTTER.model_copy(update={"side_margin_mm": side, "end_margin_mm": end})
    film = RED.model_copy(update={"margin_mm": material})
    assert Supply(Shop(materials=(film,), pieces=()), cutter).margin(film) == margin


def test_all_goes_on_the_first_piece_that_holds_it() -> None:
    # 90 x 110 within the margins: four of 40 fit the small offcut, five do not.
    for count, on in ((4, "offcut"), (5, "larger"), (12, "larger"), (13, "sheet")):
        (load,), left = laid(squares(count, 40), supply(OFFCUT, LARGER, SHEET, ROLL))
        assert (load.piece.id, len(load.spots), left) == (on, count, [])
    (load,), _ = laid(squares(4, 40), supply(OFFCUT, LARGER, SHEET, ROLL), chosen="roll")
    assert load.piece.id == "roll"


def test_a_load_is_as_long_as_what_lies_on_it() -> None:
    (load,), _ = laid(squares(10, 40), supply(ROLL))
    # Five in a row across 240 mm, two rows 2 mm apart or little more.
    assert 82 <= load.length_mm <= 84
    lowest = max(spot.x_mm for _, spot in load.spots)
    assert load.length_mm == pytest.approx(lowest + 40, abs=0.01)
    assert sorted(k for k, _ in load.spots) == list(range(10))


def test_what_one_piece_does_not_hold_goes_on_as_few_as_it_can() -> None:
    held = supply(SHEET)
    loads, left = laid(squares(40, 55), held)
    # 3 x 5 on each of three sheets; none is had for the other 25 but what is bought, which holds them all.
    assert left == []
    assert [load.piece.id for load in loads] == [TO_BUY]
    loads, left = laid(squares(40, 55), held, chosen="sheet")
    assert [load.piece.id for load in loads] == [TO_BUY]
    assert sorted(k for load in loads for k, _ in load.spots) == list(range(40))


def test_a_roll_is_shorter_by_what_was_laid_on_it_and_its_margins() -> None:
    held = supply(ROLL)
    (load,), _ = laid(squares(10, 40), held)
    assert held.taken == {"roll": load.length_mm + 2 * MARGIN}
    sheets = supply(SHEET)
    laid(squares(10, 40), sheets)
    assert sheets.taken == {"sheet": 1.0}


def test_what_fits_nowhere_is_told() -> None:
    wide = Item(MultiPolygon([box(0, 0, 500, 500)]))
    loads, left = laid([*squares(2, 40), wide], supply(ROLL))
    assert left == [2]
    assert sorted(k for load in loads for k, _ in load.spots) == [0, 1]
    assert laid([wide], supply()) == ([], [0])


def test_the_widest_room_is_that_of_the_widest_piece_that_is_no_offcut() -> None:
    assert widest_room(RED, supply(LARGER, SHEET, ROLL), MARGIN) == Room(190, 290)
    assert widest_room(RED, supply(ROLL, piece("longer", "roll", 250, 5000, 1200)), MARGIN) == Room(1190, 240)
    # Only an offcut is there: film would be bought.
    assert widest_room(RED, supply(LARGER), MARGIN) == Room(1490, 390)
