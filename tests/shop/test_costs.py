"""What a job costs adds up, and follows from rates and from what was really taken."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.costs import costs_of, one_of
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.rates import Rates
from gladstack.shop.shelf.shelf import Shop
from tests.examples import examples
from tests.shop.jobs import built, random_job, squares

RATES = Rates(currency="GS", cutter_hour=12, hand_hour=30, tape_m2=5, blank=1.5, margin_percent=20)


@settings(max_examples=examples(30), deadline=None)
@given(st.integers(0, 10**6))
def test_costs_add_up_to_what_the_ledger_will_hold(seed: int) -> None:
    job, designs, shop = random_job(random.Random(seed))
    made = plan(job, designs, shop)
    film = {line.what: line.amount for line in costs_of(made, Rates()).lines}
    assert sum(film.values()) == pytest.approx(
        sum(s.material.cost_m2 * s.length_used_mm * s.width_mm / 1e6 for s in made.sheets)
    )
    for sheet in made.sheets:
        if sheet.piece.kind == "roll" and not sheet.bought:
            assert sheet.use.amount == pytest.approx(sheet.length_used_mm)
    costs = costs_of(made, RATES)
    assert costs.total == pytest.approx(sum(line.amount for line in costs.lines))
    assert costs.price == pytest.approx(1.2 * costs.total)
    assert costs.each * costs.count == pytest.approx(costs.price)
    assert min(line.amount for line in costs.lines) > 0
    hours = sum(s.times.cut_s + s.times.travel_s + s.times.lift_s for s in made.sheets) / 3600
    cutter = next(line for line in costs.lines if line.what == "Cutter")
    assert (cutter.amount, cutter.said) == (pytest.approx(12 * hours), f"{60 * hours:.0f} min")
    # The order that is found never takes longer than the one that was given.
    assert all(s.times.whole_s <= s.times.before_s + 1e-6 for s in made.sheets)


def test_each_further_pass_takes_the_blade_as_long_again_and_no_way_longer() -> None:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": 3}]})
    shop = demo_shop()
    thrice = tuple(changed(m, blade=changed(m.blade, passes=3 * m.blade.passes)) for m in shop.materials)
    once, again = (plan(job, {"d": squares(["#1d2b53"])}, s).sheets for s in (shop, replace(shop, materials=thrice)))
    assert len(once) == len(again) == 1
    one, more = once[0].times, again[0].times
    assert (more.cut_s, more.lift_s) == (pytest.approx(3 * one.cut_s), pytest.approx(3 * one.lift_s))
    assert (more.travel_s, more.travel_before_s) == pytest.approx((one.travel_s, one.travel_before_s))
    assert one.lift_s > 0


def test_what_it_really_took_goes_before_the_model() -> None:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": 4}]})
    design = squares(["#1d2b53", "#fff4d6"])
    made = plan(job, {"d": design}, demo_shop())
    costs = costs_of(made, RATES)
    # Two films of four parts each on a sheet: 4 s a part and 3 s for the waste; 25 s a film and copy.
    assert costs.model_min * 60 == pytest.approx(2 * (4 * 4 + 3) + 4 * 2 * 25)
    took = plan(changed(job, hand_min=60.0), {"d": design}, demo_shop())
    hands = next(line for line in costs_of(took, RATES).lines if line.what == "Hands")
    assert (hands.amount, hands.said) == (pytest.approx(30), "60 min")


def test_one_made_by_itself_costs_what_its_own_job_costs() -> None:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": 6}], "hand_min": 60})
    design, shop = squares(["#1d2b53", "#fff4d6"]), demo_shop()
    single = one_of(job)
    assert single is not None
    costs = costs_of(plan(job, {"d": design}, shop), RATES, plan(single, {"d": design}, shop))
    own = {"name": "J", "designs": [{"design": "d", "name": "D"}], "hand_min": 10}
    assert costs.alone == pytest.approx(costs_of(plan(Job.model_validate(own), {"d": design}, shop), RATES).price)
    assert costs.alone is not None
    assert costs.alone > costs.each
    assert one_of(single) is None


def test_the_price_stands_on_the_job_sheet_if_wanted() -> None:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": 4}], "priced": True})
    design = squares(["#1d2b53"])
    made = plan(job, {"d": design}, demo_shop())
    costs = costs_of(made, RATES)
    said = job_sheet(made, {"d": design}, (), RATES).price
    assert said == f"Price: {costs.price:.2f} GS for 4, {costs.each:.2f} GS each"
    assert job_sheet(plan(changed(job, priced=False), {"d": design}, demo_shop()), {"d": design}, (), RATES).price == ""


def test_films_over_nothing_are_proposed_to_lie_by_themselves() -> None:
    bar = {"kind": "shape", "id": "bar", "film": "#1d2b53", "form": {"form": "rectangle", "width_mm": 900, "height_mm": 80}}
    moon = {"kind": "shape", "id": "moon", "film": "#fff4d6", "form": {"form": "ellipse"}, "place": {"x_mm": 400, "y_mm": 0}}
    design = built({"arts": [bar, moon]})
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    made = plan(job, {"d": design}, demo_shop())
    (told,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "lay-close"]
    close = plan(told.fixes[0].edit.apply(job), {"d": design}, demo_shop())
    before, after = (sum(s.length_used_mm for s in one.sheets) for one in (made, close))
    assert after < 2 / 3 * before
    assert told.measure is not None
    assert after == pytest.approx(told.measure.limit, rel=0.1)
    square = squares(["#1d2b53", "#fff4d6"])
    assert "lay-close" not in {one.code for one in proof_of_plan(plan(job, {"d": square}, demo_shop()), {"d": square})}


def test_a_sheet_that_the_cutter_cannot_reach_over_is_told_at_its_own_size() -> None:
    design = squares(["#f2b632"], unit="in")
    shop = demo_shop()
    sheets = tuple(p for p in shop.pieces if p.id == "lamp-gold-sheets")
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    twelve = tuple(changed(p, width_mm=304.8, length_mm=304.8) for p in sheets)
    for cutters, said in ((shop.cutters, ["12.000 in × 12.000 in"]), (shop.cutters[::-1], [])):
        made = plan(changed(job, cutter=cutters[0].id), {"d": design}, Shop(shop.materials, shop.cutters, twelve))
        told = [one.text for one in proof_of_plan(made, {"d": design}) if one.code == "beyond-reach"]
        assert len(told) == len(said)
        assert all(size in text for size, text in zip(said, told, strict=True))


def test_marks_that_the_cutter_cannot_find_are_told() -> None:
    design, shop = squares(["#1d2b53", "#fff4d6"]), demo_shop()
    own = changed(shop.cutters[0], reads_marks=("squares",))
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "marks": {"count": 3}})
    blind = Shop(shop.materials, (own,), shop.pieces)
    made = plan(job, {"d": design}, blind)
    (told,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "marks-unread"]
    mended = plan(told.fixes[0].edit.apply(job), {"d": design}, blind)
    assert "marks-unread" not in {one.code for one in proof_of_plan(mended, {"d": design})}
    plain = plan(job, {"d": design}, shop)
    assert "marks-unread" not in {one.code for one in proof_of_plan(plain, {"d": design})}


def test_weed_lines_run_only_where_there_is_something_to_weed() -> None:
    moons = [
        {
            "kind": "shape",
            "id": f"m{k}",
            "film": "#fff4d6",
            "form": {"form": "ellipse"},
            "place": {"x_mm": 700 * k, "y_mm": 0},
        }
        for k in range(2)
    ]
    job = Job.model_validate(
        {"name": "J", "designs": [{"design": "d", "name": "D"}], "weeding": {"lines": True, "strip_mm": 40}}
    )
    (sheet,) = plan(job, {"d": built({"arts": moons})}, demo_shop()).sheets
    assert sheet.furniture.lines
    shapes = [p.shape for p in sheet.parts]
    assert all(min(shapely.LineString(line).distance(s) for s in shapes) <= 40 for line in sheet.furniture.lines)
