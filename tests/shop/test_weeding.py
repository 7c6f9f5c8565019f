"""What weeding a film asks for, and the film a plan saves, worked out by hand."""

from __future__ import annotations

import pytest

from gladstack.recipe.build.built import Built
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.costs import WEED_PART_S, WEED_WASTE_S
from gladstack.shop.papers.weeding import Weeded, easiest_first, weeded
from gladstack.shop.plan.saved import naive_length
from gladstack.shop.plan.wanted import WantedFilm, wanted_films
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.shop.shelf.supply import Supply
from tests.shop.jobs import RED, built

CUTTER = Cutter(id="c", name="Cutter", width_mm=600, length_mm=9000, side_margin_mm=1, end_margin_mm=1)


def rows(count: int, size_mm: float, form: str = "rectangle") -> Built:
    """So many squares (or rings) of one film in a row."""
    size = {"width_mm": size_mm, "height_mm": size_mm} if form == "rectangle" else {"across_mm": size_mm}
    arts = [
        {"kind": "shape", "id": f"s{k}", "film": RED, "form": {"form": form, **size}, "place": {"x_mm": 2 * size_mm * k}}
        for k in range(count)
    ]  # fmt: skip
    return built({"arts": arts})


def wanted(design: Built, kind: str = "adhesive") -> WantedFilm:
    film = Material.model_validate({"id": "red", "name": "Red", "kind": kind, "colour": RED, "least_part_mm": 1.0})
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    (one,) = wanted_films(job, {"d": design}, Shop(materials=(film,), pieces=()))
    return one


def told(one: Weeded) -> tuple[int, int, int, float]:
    return one.parts, one.waste, one.enclosed, one.minutes


def test_parts_and_waste_are_counted_and_timed() -> None:
    assert told(weeded(wanted(rows(4, 10)))) == (4, 1, 0, pytest.approx((4 * WEED_PART_S + WEED_WASTE_S) / 60))
    rings = weeded(wanted(rows(3, 12, "ring")))
    assert told(rings) == (3, 4, 3, pytest.approx((3 * WEED_PART_S + 4 * WEED_WASTE_S) / 60))
    assert rings.smallest_mm2 is not None
    assert weeded(wanted(rows(4, 10))).smallest_mm2 is None


def test_the_smallest_piece_of_waste_is_the_smallest_hole() -> None:
    arts = [
        {
            "kind": "shape",
            "id": f"r{k}",
            "film": RED,
            "form": {"form": "ring", "across_mm": across},
            "place": {"x_mm": 50 * k},
        }
        for k, across in enumerate((30, 12, 24))
    ]
    both = weeded(wanted(built({"arts": arts})))
    assert both.enclosed == 3
    assert both.smallest_mm2 == pytest.approx(weeded(wanted(rows(1, 12, "ring"))).smallest_mm2)


def test_many_small_parts_of_adhesive_film_are_best_weeded_from_under_the_tape() -> None:
    """Parts are small below three times what the film bears, on either side."""
    assert weeded(wanted(rows(6, 2.9))).reverse
    assert not weeded(wanted(rows(5, 2.9))).reverse
    assert not weeded(wanted(rows(6, 3.1))).reverse
    assert not weeded(wanted(rows(6, 2.9), "smooth")).reverse


def test_long_waste_wants_lines_to_weed_by() -> None:
    assert not weeded(wanted(rows(1, 149))).lines
    assert weeded(wanted(rows(1, 151))).lines
    # The longer of its sides counts.
    assert weeded(wanted(rows(8, 10.1))).lines


def test_what_is_done_soon_is_weeded_first() -> None:
    films = [weeded(wanted(rows(n, 10))) for n in (5, 1, 3)]
    assert [one.parts for one in easiest_first(films)] == [1, 3, 5]


@pytest.mark.parametrize(("copies", "high", "strips"), [(1, 60, 1), (3, 60, 1), (1, 290, 1), (1, 295, 2), (2, 700, 3)])
def test_film_laid_by_hand_goes_in_strips_one_after_another(copies: int, high: float, strips: int) -> None:
    """On a roll of 300 mm with margins of 3 mm a strip is 294 mm wide."""
    size = {"form": "rectangle", "width_mm": 80, "height_mm": high}
    design = built({"arts": [{"kind": "shape", "id": "a", "film": RED, "form": size}]})
    film = Material.model_validate({"id": "red", "name": "Red", "kind": "adhesive", "colour": RED, "margin_mm": 3.0})
    roll = Piece(id="roll", material="red", kind="roll", width_mm=300, length_mm=9000, left=9000)
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": copies}]})
    shop = Shop(materials=(film,), pieces=(roll,))
    found = naive_length(wanted_films(job, {"d": design}, shop), Supply(shop, CUTTER))
    assert found == pytest.approx(copies * strips * (80 + 2 * 3))
