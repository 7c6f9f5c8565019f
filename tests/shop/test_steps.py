"""The order of work, carried out by a hand that knows only the paper, ends in the decal that was designed."""

from __future__ import annotations

import random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.plan.laying import moved
from gladstack.core.write.pages import DrawnItem, Page, Text
from gladstack.demo.shelf import demo_shop
from gladstack.recipe.model.fonts import page_type
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.job_pages import job_pages
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.papers.steps import lying, work
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import WantedFilm
from tests.examples import examples
from tests.shop.jobs import built, random_job, squares
from tests.shop.paper_hand import carried_out, seen


@settings(max_examples=examples(100), deadline=None)
@given(st.integers(0, 10**6))
def test_a_hand_that_knows_only_the_paper_makes_the_decal(seed: int) -> None:
    job, designs, shop = random_job(random.Random(seed))
    made = plan(job, designs, shop)
    for design in designs:
        films = [f for f in made.films if f.design == design]
        steps = work(films, job, "mm", lying(made)).steps
        assert seen(carried_out(steps), films) == [(k, True) for k in range(len(films))]
        # Each film is told by name, and what lies scattered is laid part by part.
        for step in (s for s in steps if s.film is not None):
            film = films[step.film or 0]
            assert film.said in step.text
            if step.does in ("lift", "gather") or (step.does in ("place", "press", "glue") and not step.parts):
                # What is lifted as one lies on film as it lies in the decal, but for tiles.
                tiled = any("tile by tile" in s.text for s in steps)
                assert tiled or rigid(made, film)


def rigid(made: Plan, film: WantedFilm) -> bool:
    """Whether all parts of each copy of a film keep their distances on its sheet."""
    for copy in range(film.copies):
        own = [p for s in made.sheets for p in s.parts if p.bit.film is film and p.bit.copy == copy]
        sheets = [s.number for s in made.sheets if any(p.bit.film is film and p.bit.copy == copy for p in s.parts)]
        if len(sheets) != 1 or any(p.bit.tile is not None for p in own):
            return False
        for p in own[1:]:
            there = p.shape.centroid.distance(own[0].shape.centroid)
            here = moved(p.bit.polygon, film.onto_film).centroid.distance(moved(own[0].bit.polygon, film.onto_film).centroid)
            if abs(there - here) > 1e-2:
                return False
    return True


def test_what_had_to_be_divided_is_not_lifted_as_one() -> None:
    ring = {"kind": "shape", "id": "r", "film": "#1d2b53", "form": {"form": "ring", "across_mm": 420, "band_mm": 30}}
    star = {"kind": "shape", "id": "s", "film": "#f2b632", "form": {"form": "star"}}
    design = built({"arts": [ring, star]})
    for layout, copies in (("nested", 3), ("nested", 1), ("register", 1)):
        job = Job.model_validate(
            {"name": "J", "designs": [{"design": "d", "name": "D", "copies": copies}], "layout": layout}
        )
        made = plan(job, {"d": design}, demo_shop())
        steps = work(made.films, job, "mm", lying(made)).steps
        if layout == "register":
            assert any("tiles: do what follows tile by tile" in step.text for step in steps)
        else:
            assert [step.does for step in steps if step.film is not None] == ["place", "place"]
            assert steps[1].parts


def steps_of(colours: list[str], use: Use, **more: Any) -> list[str]:
    design = squares(colours, use)
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], **more})
    made = plan(job, {"d": design}, demo_shop())
    return [step.text for step in work(made.films, made.job, design.recipe.unit, lying(made)).steps]


def test_what_was_nested_is_laid_part_by_part_with_the_numbers_of_the_map() -> None:
    words = {"kind": "lettering", "id": "w", "text": "NIGHT", "font": "inter-black", "height_mm": 14, "film": "#1d2b53"}
    base = {"kind": "shape", "id": "s", "film": "#fff4d6", "form": {"form": "ellipse", "width_mm": 90, "height_mm": 40}}
    design = built({"arts": [base, words]})
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "layout": "nested"})
    # A word alone on its film is lifted as one; letters that lie by themselves are not.
    kept = plan(job, {"d": design}, demo_shop())
    assert not any(step.parts for step in work(kept.films, job, "mm", lying(kept)).steps)
    job = changed(job, together="parts")
    sheet = job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ())
    (made,) = sheet.designs
    assert any("parts 1 to 5" in step.text and step.parts for step in made.work.steps)
    assert sorted(n.number for n in made.numbers) == [1, 2, 3, 4, 5]
    on_film = sorted(n.number for entry in sheet.sheets for n in entry.numbers)
    assert on_film == [1, 2, 3, 4, 5]


def test_through_glass_the_film_seen_on_top_is_gathered_last() -> None:
    texts = steps_of(["#1d2b53", "#fff4d6"], Use.GLASS)
    assert texts[0].startswith("Lay transfer tape on Night navy")
    assert "on Moon cream" in texts[1]
    assert any("inside of the glass" in text for text in texts)


def test_card_is_glued_and_stencils_are_painted_through() -> None:
    card = steps_of(["#1d2b53", "#fff4d6"], Use.CARD)
    assert card[0].endswith("as the base.")
    assert "foam pads" in card[1]
    assert not any("tape" in text for text in card)
    assert all("openings" in text for text in steps_of(["#9fb8c9"], Use.STENCIL))


def test_a_job_has_its_own_seconds_and_shrink_is_told_in_figures() -> None:
    pressing = {"tack_s": 10, "full_s": 30, "behind_s": 5}
    texts = steps_of(["#1d2b53", "#f2b632"], Use.PRESSED, pressing=pressing)
    assert any("60.0 mm is cut 60.2 mm" in text for text in texts)
    assert any("press 10 s, only to tack it" in text for text in texts)
    # Navy bears 30 s in all, and has had 10 of them.
    assert any("press 20 s, in full" in text for text in texts)
    assert texts[-1].endswith("5 s from behind.")


@pytest.mark.parametrize(("unit", "heat"), [("mm", "150 °C"), ("in", "302 °F")])
def test_heat_is_told_in_the_makers_degrees(unit: str, heat: str) -> None:
    design = squares(["#f2b632"], Use.PRESSED, unit=unit)
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    sheet = job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ())
    assert any(heat in step.text for step in sheet.designs[0].work.steps)


def test_where_no_ground_is_known_no_place_is_told() -> None:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    for ground, place in (("table", ""), ("window", "from the lower edge")):
        design = squares(["#1d2b53"], ground={"kind": ground})
        assert job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ()).designs[0].place == place


def test_the_map_of_what_is_laid_from_behind_is_turned_round() -> None:
    arts = [
        {"kind": "shape", "id": "a", "film": "#1d2b53", "form": {"form": "star"}, "place": {"x_mm": -40}},
        {"kind": "shape", "id": "b", "film": "#fff4d6", "form": {"form": "ellipse"}, "place": {"x_mm": 40}},
    ]
    sides = []
    for use in (Use.SURFACE, Use.GLASS):
        design = built({"arts": arts, "use": use})
        job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
        sheet = job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ())
        (page,) = [p for p in job_pages(sheet, page_type()) if any("true size, as it is" in m.text for m in texts_of(p))]
        drawn = {m.fill: m.chains[0].pieces[..., 0].mean() for m in page.marks if isinstance(m, DrawnItem) and m.fill}
        sides.append(drawn["#1d2b53"] < drawn["#fff4d6"])
    assert sides == [True, False]


def texts_of(page: Page) -> list[Text]:
    return [m for m in page.marks if isinstance(m, Text)]
