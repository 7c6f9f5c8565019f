"""Edits: pure, typed, told in the maker's words."""

from __future__ import annotations

import contextlib
import re
from functools import reduce
from pathlib import Path
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.edits import Edit, OneEdit, apply_edit, needs_geometry
from gladstack.recipe.model.arts import LetteringArt, LetterTweak
from gladstack.recipe.model.makings import DropShadow, OutlineShadow
from gladstack.recipe.model.recipe import Recipe
from tests.recipe.owl import BLUE, DAB, EDITS, GREEN, RECIPE, RED, STAR, WORDS

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
BACK = {
    "pick-colour": {"kind": "unpick-colour", "colour": RED},
    "merge-colours": {"kind": "part-colours", "colour": RED},
    "drop-colour": {"kind": "keep-colour", "colour": GREEN},
    "rename-film": {"kind": "rename-film", "film": RED, "name": None},
    "set-film-joint": {"kind": "set-film-joint", "film": BLUE, "rule": None},
    "set-pair-joint": {"kind": "set-pair-joint", "a": BLUE, "b": RED, "rule": None},
    "add-art": {"kind": "remove-art", "art": "shape-1"},
    "add-making": {"kind": "remove-making", "making": "stitch-line-1"},
    "set-film-colour": {"kind": "set-film-colour", "film": RED, "colour": None},
    "thicken-film": {"kind": "thicken-film", "film": RED, "mm": 0},
    "put-right": {"kind": "put-right", "what": "shadow", "done": True},
    "set-bands": {"kind": "set-bands", "bands": 1},
    "set-rims": {"kind": "set-rims", "rims": "broken"},
    "set-straight": {"kind": "set-straight", "art": "picture", "corners": None},
    "frame-picture": {"kind": "frame-picture", "art": "picture", "frame": None},
    "treat-picture": {"kind": "treat-picture", "art": "picture", "treatment": "colours"},
    "leave-out": {"kind": "leave-out", "film": RED, "left_out": False},
    "draw-film": {"kind": "draw-film", "film": RED, "drawn": "no"},
    "set-finish": {"kind": "set-finish", "film": RED, "finish": {"kind": "matte"}},
    "scale-design": {"kind": "scale-design", "factor": 1 / 1.5},
    "tidy-film": {"kind": "tidy-film", "film": RED, "below_mm2": 0},
    "close-gaps": {"kind": "close-gaps", "film": BLUE, "mm": 0},
    "set-small": {"kind": "set-small", "mm2": 0.5},
    "add-mend": {"kind": "remove-mend", "art": "picture", "mend": "let-go-1"},
    "change-mend": {"kind": "change-mend", "art": "picture", "mend": DAB.model_dump()},
    "order-mends": {"kind": "order-mends", "art": "picture", "order": ["edge", "dab"]},
}


def made(data: dict[str, object]) -> Edit:
    return EDIT.validate_python(data)


@pytest.mark.parametrize("data", EDITS, ids=lambda d: str(d["kind"]))
def test_every_edit_changes_the_recipe_and_says_so(data: dict[str, object]) -> None:
    edit = made(data)
    changed = apply_edit(RECIPE, edit)
    assert changed != RECIPE
    assert edit.describe(RECIPE)
    assert Recipe.model_validate_json(changed.model_dump_json()) == changed
    assert EDIT.validate_json(EDIT.dump_json(edit)) == edit


def test_the_history_reads_as_a_maker_would_say_it() -> None:
    """The labels of all edits above, read through once: another wording is a decision, not an accident."""
    read = (Path(__file__).parent / "labels.txt").read_text().splitlines()
    assert [made(data).describe(RECIPE) for data in EDITS] == read
    inches = RECIPE.model_copy(update={"unit": "in"})
    assert made({"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.79375}}).describe(inches).endswith("lap 0.031 in")
    for data, said in SAID_OTHERWISE:
        assert made(data).describe(RECIPE) == said


SAID_OTHERWISE: list[tuple[dict[str, object], str]] = [
    ({"kind": "set-method", "film": RED, "method": None}, "Red: method as the design"),
    ({"kind": "take-material", "film": RED, "material": None}, "Red is cut from the nearest of the shelf"),
    ({"kind": "take-material", "film": RED, "material": "any"}, "Red is cut from any film of its colour"),
    ({"kind": "take-material", "film": RED, "material": "barn-red"}, "Red is cut from barn-red"),
    ({"kind": "set-film-colour", "film": RED, "colour": None}, "Red is shown in its own colour"),
    ({"kind": "thicken-film", "film": RED, "mm": 0}, "Red: own weight"),
    ({"kind": "leave-out", "film": RED, "left_out": False}, "Took in again Red"),
    ({"kind": "set-film-joint", "film": RED, "rule": None}, "Joint of Red with what lies on it: as all films"),
    ({"kind": "set-ground", "ground": {"kind": "table", "colour": "#fbfaf7"}}, "Shown on the light table, #fbfaf7"),
    ({"kind": "scale-design", "factor": 0.5, "lengths": "scale"}, "Scaled the design to 50 %, joints too"),
    ({"kind": "turn-design", "turn_deg": 0, "mirror": True}, "Mirrored the design"),
]


def test_as_many_colours_as_were_picked_can_be_asked_for() -> None:
    picked = apply_edit(RECIPE, made({"kind": "pick-colour", "colour": RED}))
    picked = apply_edit(picked, made({"kind": "pick-colour", "colour": BLUE}))
    assert apply_edit(picked, made({"kind": "count-colours", "count": 2})).arts[0].separation.count == 2  # type: ignore[union-attr]
    with pytest.raises(RecipeError, match="too few"):
        apply_edit(picked, made({"kind": "count-colours", "count": 1}))


def test_every_kind_of_edit_is_tested() -> None:
    kinds = {e.model_fields["kind"].default for e in get_args(get_args(OneEdit)[0])}
    assert kinds == {d["kind"] for d in [*EDITS, *BACK.values()]}


@given(st.lists(st.sampled_from(EDITS), min_size=1, max_size=6))
def test_several_edits_are_one_step_that_does_what_they_do(run: list[dict[str, object]]) -> None:
    whole = made({"kind": "several", "name": "Got it ready", "edits": run})
    try:
        one_by_one = reduce(apply_edit, map(made, run), RECIPE)
    except RecipeError as fault:
        with pytest.raises(RecipeError, match=re.escape(fault.problem)):
            apply_edit(RECIPE, whole)
        return
    assert apply_edit(RECIPE, whole) == one_by_one
    assert whole.describe(RECIPE) == "Got it ready"
    assert needs_geometry(whole) == any(needs_geometry(made(data)) for data in run)


@pytest.mark.parametrize("kind", BACK)
def test_choices_can_be_taken_back_without_a_trace(kind: str) -> None:
    there = next(d for d in EDITS if d["kind"] == kind)
    assert apply_edit(apply_edit(RECIPE, made(there)), made(BACK[kind])) == RECIPE


@given(st.lists(st.sampled_from(EDITS), max_size=8))
def test_any_run_of_edits_keeps_the_recipe_sound(run: list[dict[str, object]]) -> None:
    recipe = RECIPE
    for data in run:
        with contextlib.suppress(RecipeError):  # what an earlier edit took away cannot be changed any more
            recipe = apply_edit(recipe, made(data))
    assert Recipe.model_validate(recipe.model_dump()) == recipe
    assert len({f.film for f in recipe.films}) == len(recipe.films)
    ids = [x.id for x in (*recipe.arts, *recipe.makings)]
    assert len(set(ids)) == len(ids)


def test_lengths_are_read_with_their_unit() -> None:
    assert apply_edit(RECIPE, made(EDITS[1])).pictures()[0].width_mm == 101.6
    assert apply_edit(RECIPE, made(EDITS[11])).joint.mm == pytest.approx(0.79375)
    with pytest.raises(ValidationError, match="not a length"):
        made({"kind": "resize", "width_mm": "wide"})


def test_what_contradicts_the_recipe_is_refused() -> None:
    with pytest.raises(RecipeError, match="with itself"):
        apply_edit(RECIPE, made({"kind": "merge-colours", "colour": RED, "into": RED}))
    picked = RECIPE
    for colour in (RED, BLUE, GREEN):
        picked = apply_edit(picked, made({"kind": "pick-colour", "colour": colour}))
    with pytest.raises(RecipeError, match="picked by hand"):
        apply_edit(picked, made({"kind": "count-colours", "count": 2}))


def test_merging_in_a_ring_lets_the_newest_win() -> None:
    recipe = RECIPE
    for colour, into in ((RED, BLUE), (BLUE, GREEN), (GREEN, RED)):
        recipe = apply_edit(recipe, made({"kind": "merge-colours", "colour": colour, "into": into}))
    targets = {m.colour: m.into for m in recipe.pictures()[0].separation.merges}
    # Red goes its own way no more, for green was merged into it after that.
    assert targets == {BLUE: GREEN, GREEN: RED}
    here, steps = GREEN, 0
    while here in targets:
        here, steps = targets[here], steps + 1
        assert steps < 5


def test_a_recipe_of_the_first_kind_is_still_read() -> None:
    old = {
        "version": 1, "name": "Owl", "art": {"kind": "picture", "picture": "a" * 64, "filename": "owl.png", "width_mm": 120},
        "separation": {"count": 5, "dropped": [GREEN]}, "order": [BLUE, RED],
        "films": [{"colour": RED, "name": "Beak", "joint": {"kind": "lap", "mm": 0.3}}],
    }  # fmt: skip
    recipe = Recipe.model_validate(old)
    (art,) = recipe.pictures()
    assert (art.width_mm, art.separation.count, art.separation.dropped) == (120, 5, (GREEN,))
    assert recipe.film(RED).name == "Beak"
    assert recipe.order == (BLUE, RED)


def test_a_recipe_that_told_its_sheets_is_read_without_them() -> None:
    sheet = {"width_mm": 210, "height_mm": 297, "margin_mm": 6}
    told = {
        **RECIPE.model_dump(),
        "sheet": sheet,
        "marks": True,
        "films": [{**f.model_dump(), "sheet": sheet} for f in RECIPE.films],
    }
    assert Recipe.model_validate(told) == RECIPE


def test_nudged_letters_and_their_films_follow_the_words() -> None:
    spans = ({"start": 5, "end": 9, "film": RED},)
    nudged = WORDS.model_copy(update={"letters": (LetterTweak(index=5, dx_mm=2),)})
    recipe = apply_edit(RECIPE, made({"kind": "change-arts", "arts": [{**nudged.model_dump(), "films": spans}]}))
    art = recipe.art("words")
    assert isinstance(art, LetteringArt)
    longer = art.model_copy(update={"text": "Open very late"})
    after = apply_edit(recipe, made({"kind": "change-arts", "arts": [longer.model_dump()]})).art("words")
    assert isinstance(after, LetteringArt)
    assert [after.text[t.index] for t in after.letters] == ["l"]
    assert after.text[after.films[0].start : after.films[0].end] == "late"


def test_what_was_made_of_an_art_alone_goes_with_it() -> None:
    left = apply_edit(RECIPE, made({"kind": "remove-art", "art": "words"}))
    assert left.makings == ()
    assert left.films == ()
    with pytest.raises(RecipeError, match="only art"):
        apply_edit(left, made({"kind": "remove-art", "art": "picture"}))


def test_scaling_keeps_joints_and_shadows_unless_they_are_to_scale_too() -> None:
    kept = apply_edit(RECIPE, made({"kind": "scale-design", "factor": 2}))
    both = apply_edit(RECIPE, made({"kind": "scale-design", "factor": 2, "lengths": "scale"}))
    assert kept.pictures()[0].width_mm == both.pictures()[0].width_mm == 240
    assert [m.mm for m in (kept.makings[0], both.makings[0]) if isinstance(m, OutlineShadow)] == [2, 4]
    assert (kept.joint.mm, both.joint.mm) == (0.4, 0.8)


def test_turning_there_and_back_and_mirroring_twice_change_nothing() -> None:
    for there, back in (
        ({"turn_deg": 37}, {"turn_deg": -37}),
        ({"mirror": True}, {"mirror": True}),
    ):
        once = apply_edit(RECIPE, made({"kind": "turn-design", **there}))
        again = apply_edit(once, made({"kind": "turn-design", **back}))
        assert again.arts[1].place.matrix == pytest.approx(RECIPE.arts[1].place.matrix, abs=1e-5)
        assert [m.angle_deg for m in again.makings if isinstance(m, DropShadow)] == [45]


def test_turns_add_up_to_less_than_a_half_either_way() -> None:
    once = apply_edit(RECIPE, made({"kind": "turn-design", "turn_deg": 100}))
    begun = RECIPE.arts[1].place.turn_deg
    twice = apply_edit(once, made({"kind": "turn-design", "turn_deg": 100}))
    assert (once.arts[1].place.turn_deg - begun) % 360 == pytest.approx(100)
    assert (twice.arts[1].place.turn_deg - begun) % 360 == pytest.approx(200)
    assert all(-180 < art.place.turn_deg <= 180 for art in (*once.arts, *twice.arts))


def test_a_scaled_art_is_as_large_as_its_measures_say() -> None:
    """Letter height, exact widths, shapes and pictures are scaled themselves; the point stays where it is."""
    recipe = apply_edit(RECIPE, made({"kind": "add-art", "art": STAR}))
    for art, measure in (("words", "height_mm"), ("picture", "width_mm")):
        once = apply_edit(recipe, made({"kind": "scale-art", "art": art, "factor": 1.5, "x_mm": 60, "y_mm": 0}))
        old, new = recipe.art(art), once.art(art)
        assert getattr(new, measure) == 1.5 * getattr(old, measure)
        assert (new.place.scale_x, new.place.scale_y) == (1, 1)
        assert new.place.x_mm - 60 == 1.5 * (old.place.x_mm - 60)
    star = apply_edit(recipe, made({"kind": "scale-design", "factor": 3})).art("shape-1")
    assert star.form.across_mm == 150
    assert star.form.inner == recipe.art("shape-1").form.inner
