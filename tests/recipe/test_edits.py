"""Edits: pure, typed, told in the maker's words."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from gladstack.core.errors import RecipeError
from gladstack.recipe.edits import Edit, apply_edit, describe_edit
from gladstack.recipe.models import Frozen, PictureArt, Recipe, SheetChoice

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
RECIPE = Recipe(name="Owl", art=PictureArt(picture="a" * 64, filename="owl.png", width_mm=120))
RED, BLUE, GREEN = "#c0392b", "#1d2b53", "#2f8f8b"

EDITS = [
    {"kind": "rename-design", "name": "Shirt"},
    {"kind": "resize", "width_mm": "4in"},
    {"kind": "show-unit", "unit": "in"},
    {"kind": "count-colours", "count": 5},
    {"kind": "pick-colour", "colour": RED},
    {"kind": "merge-colours", "colour": RED, "into": BLUE},
    {"kind": "drop-colour", "colour": GREEN},
    {"kind": "treat-background", "background": "keep"},
    {"kind": "set-detail", "detail_mm": 0.1, "speck_mm": "1mm"},
    {"kind": "rename-film", "colour": RED, "name": "Beak"},
    {"kind": "order-films", "order": [BLUE, RED]},
    {"kind": "set-joint", "rule": {"kind": "lap", "mm": "1/32in"}},
    {"kind": "set-film-joint", "colour": BLUE, "rule": {"kind": "full", "mm": 0.5}},
    {"kind": "set-pair-joint", "a": RED, "b": BLUE, "rule": {"kind": "gap", "mm": 1}},
    {"kind": "set-method", "method": "heat-transfer"},
    {"kind": "set-method", "method": "heat-transfer", "colour": RED},
    {"kind": "set-sheet", "sheet": {"width_mm": 500, "height_mm": 300, "margin_mm": 8}},
    {"kind": "set-sheet", "colour": RED, "sheet": {"width_mm": "12in", "height_mm": 300, "margin_mm": 8}},
    {"kind": "set-marks", "marks": True},
]
BACK = {
    "pick-colour": {"kind": "unpick-colour", "colour": RED},
    "merge-colours": {"kind": "part-colours", "colour": RED},
    "drop-colour": {"kind": "keep-colour", "colour": GREEN},
    "rename-film": {"kind": "rename-film", "colour": RED, "name": None},
    "set-film-joint": {"kind": "set-film-joint", "colour": BLUE, "rule": None},
    "set-pair-joint": {"kind": "set-pair-joint", "a": BLUE, "b": RED, "rule": None},
}


def made(data: dict[str, object]) -> Edit:
    return EDIT.validate_python(data)


@pytest.mark.parametrize("data", EDITS, ids=lambda d: str(d["kind"]))
def test_every_edit_changes_the_recipe_and_says_so(data: dict[str, object]) -> None:
    edit = made(data)
    changed = apply_edit(RECIPE, edit)
    assert changed != RECIPE
    assert describe_edit(edit, RECIPE)
    assert Recipe.model_validate_json(changed.model_dump_json()) == changed
    assert EDIT.validate_json(EDIT.dump_json(edit)) == edit


def test_every_kind_of_edit_is_tested() -> None:
    kinds = {e.model_fields["kind"].default for e in Frozen.__subclasses__() if e.__module__.endswith("edits")}
    assert kinds == {d["kind"] for d in [*EDITS, *BACK.values()]}


@pytest.mark.parametrize("kind", BACK)
def test_choices_can_be_taken_back_without_a_trace(kind: str) -> None:
    there = next(d for d in EDITS if d["kind"] == kind)
    assert apply_edit(apply_edit(RECIPE, made(there)), made(BACK[kind])) == RECIPE


@given(st.lists(st.sampled_from(EDITS), max_size=8))
def test_any_run_of_edits_keeps_the_recipe_sound(run: list[dict[str, object]]) -> None:
    recipe = RECIPE
    for data in run:
        recipe = apply_edit(recipe, made(data))
    assert Recipe.model_validate(recipe.model_dump()) == recipe
    assert len({f.colour for f in recipe.films}) == len(recipe.films)


def test_lengths_are_read_with_their_unit() -> None:
    assert apply_edit(RECIPE, made(EDITS[1])).art.width_mm == 101.6
    assert apply_edit(RECIPE, made(EDITS[11])).joint.mm == pytest.approx(0.79375)
    with pytest.raises(ValidationError, match="not a length"):
        made({"kind": "resize", "width_mm": "wide"})


def test_what_contradicts_the_recipe_is_refused() -> None:
    with pytest.raises(RecipeError, match="with itself"):
        apply_edit(RECIPE, made({"kind": "merge-colours", "colour": RED, "into": RED}))
    with pytest.raises(RecipeError, match="leave nothing"):
        apply_edit(RECIPE, made({"kind": "set-sheet", "sheet": {"width_mm": 50, "height_mm": 50, "margin_mm": 25}}))
    picked = RECIPE
    for colour in (RED, BLUE, GREEN):
        picked = apply_edit(picked, made({"kind": "pick-colour", "colour": colour}))
    with pytest.raises(RecipeError, match="picked by hand"):
        apply_edit(picked, made({"kind": "count-colours", "count": 2}))


def test_merging_in_a_ring_lets_the_newest_win() -> None:
    recipe = RECIPE
    for colour, into in ((RED, BLUE), (BLUE, GREEN), (GREEN, RED)):
        recipe = apply_edit(recipe, made({"kind": "merge-colours", "colour": colour, "into": into}))
    targets = {m.colour: m.into for m in recipe.separation.merges}
    here, steps = GREEN, 0
    while here in targets:
        here, steps = targets[here], steps + 1
        assert steps < 5


def test_a_sheet_of_its_own_outlives_a_change_of_name() -> None:
    recipe = apply_edit(RECIPE, made(EDITS[17]))
    recipe = apply_edit(recipe, made({"kind": "rename-film", "colour": RED, "name": "Beak"}))
    assert recipe.film(RED).sheet == SheetChoice(width_mm=304.8, height_mm=300, margin_mm=8)
