"""What films are cut from: by colour, kind and use, never by chance; and what holds on what."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.uses import USES, Use
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job, JobFilm
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import MATCH, OTHER_COLOUR, apart
from gladstack.shop.shelf.kinds import KINDS, Kind
from gladstack.shop.shelf.materials import ANY, any_film, of_kind
from gladstack.shop.shelf.shelf import Shop
from tests.examples import examples
from tests.shop.jobs import built, squares


def laid(design: Built, shop: Shop | None = None, **films: str) -> Plan:
    chosen = [{"design": "d", "film": f"#{colour}", "material": material} for colour, material in films.items()]
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "films": chosen})
    return plan(job, {"d": design}, shop or demo_shop())


def told(made: Plan, design: Built) -> list[str]:
    return [one.code for one in proof_of_plan(made, {"d": design}) if one.severity != "note"]


COLOUR = st.integers(0, 0xFFFFFF).map("#{:06x}".format) | st.sampled_from([m.colour for m in demo_shop().materials])


@settings(max_examples=examples(60), deadline=None)
@given(st.lists(COLOUR, min_size=1, max_size=5), st.sampled_from(list(Use)))
def test_nothing_is_taken_by_itself_that_looks_or_sticks_otherwise(colours: list[str], use: Use) -> None:
    design = squares(colours, use)
    made = laid(design)
    for film in made.films:
        assert film.material.method == USES[use].method
        if film.near is None:
            assert film.to_get
            continue
        assert apart(film.material.colour, film.layer.colour) == film.near <= MATCH
        assert film.material.suits(use)
        assert film.material.finish.kind in ("matte", "gloss")
    for a, b in product(made.films, made.films):
        if a.material.id == b.material.id:
            assert apart(a.layer.colour, b.layer.colour) <= OTHER_COLOUR
    codes = told(made, design)
    assert codes.count("to-get") == sum(f.to_get for f in made.films)
    assert not {"one-film-twice", "far-colour"} & set(codes)


def test_black_and_dark_blue_are_two_films() -> None:
    shop = Shop(tuple(m for m in demo_shop().materials if m.id != "coal"), pieces=demo_shop().pieces)
    design = squares(["#1c2a50", "#22305a"])
    made = laid(design, shop)
    assert sorted(f.to_get for f in made.films) == [False, True]
    (finding,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "to-get"]
    assert len(finding.fixes) == 3
    # Taking the same film for both all the same is told, and any way out of it mends it.
    same = laid(design, shop, **{f.film[1:]: "night-navy" for f in made.films})
    (twice,) = [one for one in proof_of_plan(same, {"d": design}) if one.code == "one-film-twice"]
    assert twice.fixes
    for fix in twice.fixes:
        mended = plan(fix.edit.apply(same.job), {"d": design}, shop)
        assert "one-film-twice" not in told(mended, design)


def test_a_film_chosen_by_hand_that_has_another_colour_is_told_and_named() -> None:
    design = squares(["#1d2b53"], "heat-transfer")
    made = laid(design, **{"1d2b53": "star-glitter"})
    assert told(made, design) == ["far-colour"]
    assert made.films[0].said == "Navy, cut from Star glitter"
    (far,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "far-colour"]
    for fix in far.fixes:
        mended = plan(fix.edit.apply(made.job), {"d": design}, demo_shop())
        assert not told(mended, design)


def test_glitter_under_smooth_film_is_refused_until_it_is_right() -> None:
    design = squares(["#e8d27a", "#1d2b53"], "heat-transfer")
    made = laid(design, **{"e8d27a": "star-glitter"})
    (wrong,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "lies-over"]
    assert wrong.severity == "stop"
    assert "Shirt navy does not hold on Star glitter" in wrong.text
    assert wrong.fixes
    for fix in wrong.fixes:
        mended = plan(fix.edit.apply(made.job), {"d": design}, demo_shop())
        assert "lies-over" not in told(mended, design)
    turned = laid(squares(["#1d2b53", "#e8d27a"], "heat-transfer"), **{"e8d27a": "star-glitter"})
    assert "lies-over" not in told(turned, squares(["#1d2b53", "#e8d27a"], "heat-transfer"))
    beside = squares(["#e8d27a", "#1d2b53"], "heat-transfer", "butt")
    assert "lies-over" not in told(laid(beside, **{"e8d27a": "star-glitter"}), beside)


def test_more_films_than_a_material_bears_are_told() -> None:
    colours = ["#1d2b53", "#fff4d6", "#2f8f8b", "#f2b632", "#c08a53"]
    design = squares(colours, "heat-transfer")
    assert "too-many-films" in told(laid(design), design)
    flat = squares(colours, "heat-transfer", "butt")
    assert "too-many-films" not in told(laid(flat), flat)


@pytest.mark.parametrize("kind", [kind for kind in Kind if KINDS[kind].method != "drawn"])
def test_a_new_film_brings_what_its_kind_is_known_for(kind: Kind) -> None:
    film = of_kind(kind, "film", "Film", "#112233")
    assert film.mirrored == (KINDS[kind].method == "heat-transfer") == (film.press is not None)
    assert min(film.cost_m2, film.most) > 0
    assert any(film.suits(use) for use in Use)
    for other in Kind:
        lower = of_kind(other, "lower", "Lower", "#332211")
        if film.may_lie_over(lower):
            # What is pressed never lies on what sticks or is glued, and nothing that sticks on what is pressed.
            assert (film.method == "heat-transfer") == (lower.method == "heat-transfer")
        # What the maker says holds.
        assert changed(film, lies_over=(other,)).may_lie_over(changed(lower, lies_under=(kind,)))
        assert not changed(film, lies_over=()).may_lie_over(lower)


def test_no_film_is_cut_from_a_pen() -> None:
    design, shop = squares(["#1d2b53"]), demo_shop()
    films = [{"design": "d", "film": "#1d2b53", "material": "navy-pen"}]
    for chosen in ([], films):
        job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "films": chosen})
        (film,) = plan(job, {"d": design}, shop).films
        assert not film.material.is_pen
        assert not any(near.material.is_pen for near in film.nearest)


def test_what_is_read_through_glass_is_cut_mirrored() -> None:
    made = {use: laid(squares(["#1d2b53", "#fff4d6"], use)) for use in ("surface", "glass")}
    seen, behind = (plan_.sheets[0].parts[0].matrix for plan_ in made.values())
    assert seen[0] * seen[3] - seen[1] * seen[2] > 0 > behind[0] * behind[3] - behind[1] * behind[2]
    assert [(s.mirrored, s.face_down) for s in made["glass"].sheets] == [(True, False)] * 2
    assert all(s.file.endswith("mirrored.svg") for s in made["glass"].sheets)


def test_a_sentence_calls_film_by_its_name_or_by_what_it_is() -> None:
    assert any_film("#1d2b53", "adhesive").spoken == "film of its kind"
    assert any_film("#1d2b53", "glued").spoken == "card"
    assert [m.spoken for m in demo_shop().materials] == [m.name for m in demo_shop().materials]


def test_any_film_is_never_told_as_another_colour() -> None:
    design = squares(["#1d2b53"])
    made = laid(design, **{"1d2b53": ANY})
    assert not made.films[0].to_get
    assert told(made, design) == []
    assert made.job.film("d", "#1d2b53") == JobFilm(design="d", film="#1d2b53", material=ANY)


def test_several_films_over_a_film_that_bears_none_are_told_at_once() -> None:
    design = squares(["#e8d27a", "#1d2b53", "#fff4d6"], "heat-transfer")
    made = laid(design, **{"e8d27a": "star-glitter"})
    (wrong,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "lies-over"]
    assert "Shirt navy and Shirt cream do not hold on Star glitter" in wrong.text
    assert wrong.fixes
    for fix in wrong.fixes:
        mended = plan(fix.edit.apply(made.job), {"d": design}, demo_shop())
        assert "lies-over" not in told(mended, design)


def test_a_nested_stencil_is_told_and_laid_in_register() -> None:
    arts = [
        {"kind": "shape", "id": f"s{k}", "film": "#9fb8c9", "form": {"form": "star"}, "place": {"x_mm": 70 * k, "y_mm": 0}}
        for k in range(2)
    ]
    design = built({"arts": arts, "use": "stencil"})
    for more in ({"layout": "nested"}, {"films": [{"design": "d", "film": "#9fb8c9", "layout": "nested"}]}):
        job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], **more})
        made = plan(job, {"d": design}, demo_shop())
        (wrong,) = [one for one in proof_of_plan(made, {"d": design}) if one.code == "stencil-nested"]
        mended = plan(wrong.fixes[0].edit.apply(job), {"d": design}, demo_shop())
        assert "stencil-nested" not in told(mended, design)
        assert [f.reverse_weed for f in mended.films] == [True]
