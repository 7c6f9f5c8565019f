"""Stencils of lettering and shapes: inner parts of holes are told of, and held by strips."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.model.recipe import Recipe
from tests.examples import examples
from tests.recipe.stacks import MEMO, RED, form, layer, no_picture, words
from tests.recipe.stacks import built as built_of

PLATE = {"width_mm": 400, "height_mm": 90}
EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def stencil(text: str, **more: Any) -> Recipe:
    hole = words(text, None, id_="hole", **more)
    return Recipe.model_validate({"name": "Stencil", "arts": [form("rectangle", RED, size=PLATE), hole]})


def made_of(recipe: Recipe) -> Built:
    return build(recipe, Assets(picture=no_picture), MEMO)


def loose(made: Built) -> list[Any]:
    return [f for f in proof_of(made) if f.code == "loose-inner-part"]


@settings(max_examples=examples(12))
@given(
    st.text("AOB8QRDP", min_size=1, max_size=4),
    st.floats(0, 360),
    st.floats(0.6, 2),
    st.booleans(),
)
def test_one_click_holds_all_inner_parts_however_the_words_lie(text: str, turn: float, scale: float, mirrored: bool) -> None:
    place = {"x_mm": 10, "y_mm": 5, "turn_deg": turn, "scale_x": scale, "scale_y": scale, "mirrored": mirrored}
    recipe = stencil(text, place=place)
    before = made_of(recipe)
    (told,) = loose(before)
    assert len(layer(before, RED).cut.geoms) > 1
    held = apply_edit(recipe, told.fixes[0].edit)
    after = made_of(held)
    assert len([p for p in layer(after, RED).cut.geoms if p.area > 0.5]) == 1
    assert loose(after) == []
    assert [f for f in proof_of(after) if f.code == "idle-mend"] == []


def test_what_goes_round_nothing_and_what_is_film_is_not_told_of() -> None:
    assert loose(made_of(stencil("HILL"))) == []
    assert loose(built_of({"arts": [words("OO", RED)]})) == []
    ring = form("ring", None, id_="hole")
    (told,) = loose(built_of({"arts": [form("rectangle", RED, size=PLATE), ring]}))
    assert told.text.startswith("1 inner part of the hole is")


def test_a_bridge_drawn_by_hand_crosses_the_hole_and_cutting_away_closes_it() -> None:
    bridge = {"kind": "bridge", "id": "b", "start": {"x": 0.5, "y": -0.2}, "end": {"x": 0.5, "y": -2}, "width_mm": 3}
    plain, crossed = (layer(made_of(stencil("I", mends=m)), RED).cut for m in ([], [bridge]))
    assert crossed.area > plain.area + 3
    assert plain.difference(crossed).area == pytest.approx(0, abs=1e-6)
    corners = [{"x": x, "y": y} for x, y in ((-9, -90), (9, -90), (9, 90), (-9, 90))]
    away = {"kind": "cut-away", "id": "c", "around": corners}
    assert layer(made_of(stencil("I", mends=[away])), RED).cut.area == pytest.approx(400 * 90)


def test_a_bridge_that_misses_the_hole_is_told_of() -> None:
    astray = {"kind": "bridge", "id": "b", "start": {"x": 8, "y": 8}, "end": {"x": 9, "y": 9}}
    made = made_of(stencil("I", mends=[astray]))
    assert any("does not cross the hole" in f.text for f in proof_of(made))


def test_other_steps_leave_the_hole_of_mixed_letters_alone() -> None:
    letters = words("IO", None, id_="hole", films=[{"start": 0, "end": 1, "film": RED}])
    give = {"kind": "take-over", "id": "t", "film": None, "around": [], "thinner_mm": 0.3}
    plain, mended = (
        built_of({"arts": [form("rectangle", "#2f8f8b", size=PLATE), {**letters, "mends": m}]}) for m in ([], [give])
    )
    assert layer(mended, "#2f8f8b").cut.area == pytest.approx(layer(plain, "#2f8f8b").cut.area)
