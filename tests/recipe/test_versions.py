"""Versions of one motif: what is changed in one is its own or goes through all, and nothing is lost on the way."""

from __future__ import annotations

import contextlib
from math import isclose
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.edits import Edit, Several, apply_edit, described, edited
from gladstack.recipe.edit.versioning import OfVersions
from gladstack.recipe.edit.versions import as_version, decisions
from gladstack.recipe.model.recipe import JointRule, Recipe
from gladstack.recipe.model.values import changed
from tests.recipe.owl import EDITS, GREEN, RECIPE, RED, WORDS

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
OWN = {"set-joint", "set-film-joint", "set-pair-joint", "set-use", "set-method", "thicken-film", "set-small", "set-ground"}
OWN |= {"tidy-film", "settle-piece", "close-gaps", "close-gap", "repair-film", "leave-out", "scale-design", "let-repairs-go"}


def made(data: dict[str, Any]) -> Edit:
    return EDIT.validate_python(data)


def plain(recipe: Recipe) -> Recipe:
    return changed(recipe, versions=())


def alike(a: Any, b: Any) -> bool:
    if isinstance(a, float) and isinstance(b, float):
        return isclose(a, b, rel_tol=1e-9, abs_tol=2e-6)
    if isinstance(a, dict):
        return a.keys() == b.keys() and all(alike(a[k], b[k]) for k in a)
    if isinstance(a, list | tuple):
        return len(a) == len(b) and all(map(alike, a, b))
    return bool(a == b)


def dump(recipe: Recipe) -> dict[str, Any]:
    """A recipe but for its versions, its films in any order and without those that say nothing."""
    told = plain(recipe).model_dump()
    told["films"] = {f["film"]: f for f in told["films"]}
    return told


@pytest.mark.parametrize("data", EDITS, ids=lambda d: str(d["kind"]))
@pytest.mark.parametrize("version", ["v-1", "v-2"])
def test_an_edit_made_in_a_version_shows_in_it_as_it_would_in_a_design_of_its_own(
    version: str, data: dict[str, Any]
) -> None:
    edit = made(data)
    if isinstance(edit, OfVersions):
        return
    wanted = apply_edit(as_version(RECIPE, version), edit)
    assert alike(dump(as_version(edited(RECIPE, version, edit), version)), dump(wanted))


@pytest.mark.parametrize("data", EDITS, ids=lambda d: str(d["kind"]))
def test_joints_sizes_and_treatments_are_a_versions_own_and_all_else_goes_through_all(data: dict[str, Any]) -> None:
    edit = made(data)
    if isinstance(edit, OfVersions):
        return
    after = edited(RECIPE, "v-2", edit)
    others = as_version(after, "v-1")
    assert (plain(after) == plain(RECIPE)) == (edit.kind in OWN)
    assert (plain(others) == plain(as_version(RECIPE, "v-1"))) == (edit.kind in OWN)
    assert described(RECIPE, "v-2", edit, after).startswith("Mug: ") == (edit.kind in OWN)


@given(st.lists(st.tuples(st.sampled_from([None, "v-1", "v-2"]), st.sampled_from(EDITS)), max_size=8))
def test_any_run_of_edits_in_any_version_keeps_all_of_them_sound(run: list[tuple[str | None, dict[str, Any]]]) -> None:
    recipe = RECIPE
    for version, data in run:
        with contextlib.suppress(RecipeError):
            recipe = edited(recipe, version, made(data))
    assert Recipe.model_validate_json(recipe.model_dump_json()) == recipe
    for one in recipe.versions:
        shown = as_version(recipe, one.id)
        assert Recipe.model_validate(shown.model_dump()) == shown
        assert all(own.own != own.motif for own in decisions(recipe, one.id) if own.what != "size")


def test_a_version_keeps_its_size_and_its_limits_when_the_motif_is_scaled() -> None:
    larger = edited(RECIPE, None, made({"kind": "scale-design", "factor": 3}))
    assert larger.pictures()[0].width_mm == pytest.approx(360)
    shown, before = as_version(larger, "v-1"), as_version(RECIPE, "v-1")
    assert alike(dump(shown), dump(before))
    assert before.pictures()[0].width_mm == pytest.approx(240)
    assert before.small_mm2 == RECIPE.small_mm2
    assert before.joint == JointRule(kind="lap", mm=0.6)


def test_art_alone_that_is_dragged_larger_in_a_version_makes_the_version_larger() -> None:
    one = changed(RECIPE, arts=RECIPE.arts[:1], makings=())
    shown = as_version(one, "v-2")
    drawn = changed(shown.arts[0], width_mm=shown.arts[0].width_mm * 1.25)
    after = edited(one, "v-2", made({"kind": "change-arts", "arts": [drawn.model_dump()]}))
    assert plain(after) == plain(one)
    assert as_version(after, "v-2").arts[0].width_mm == pytest.approx(shown.arts[0].width_mm * 1.25)


def test_what_follows_the_motif_again_has_no_trace_of_its_own() -> None:
    after = edited(RECIPE, "v-2", made({"kind": "thicken-film", "film": RED, "mm": 0.3}))
    assert [(d.what, d.film, d.own, d.motif) for d in decisions(after, "v-2")] == [
        ("size", None, 0.7, 1.0), ("thicken_mm", RED, 0.3, 0.0)
    ]  # fmt: skip
    again = edited(after, "v-2", made({"kind": "follow-motif", "version": "v-2", "what": "thicken_mm", "film": RED}))
    assert again == RECIPE
    by_hand = edited(after, "v-2", made({"kind": "thicken-film", "film": RED, "mm": 0}))
    assert by_hand == RECIPE


def test_several_edits_in_a_version_are_each_where_they_belong() -> None:
    both = Several(
        name="Got ready",
        edits=(
            made({"kind": "set-joint", "rule": {"kind": "butt"}}),
            made({"kind": "rename-film", "film": RED, "name": "Beak"}),
        ),
    )
    after = edited(RECIPE, "v-2", both)
    assert after.film(RED).name == "Beak"
    assert after.joint == RECIPE.joint


def test_a_film_called_anew_in_one_version_is_so_in_all() -> None:
    replaced = made(next(e for e in EDITS if e["kind"] == "replace-source"))  # type: ignore[misc]
    heavy = edited(RECIPE, None, made({"kind": "thicken-film", "film": RED, "mm": 0.1}))
    after = edited(heavy, "v-2", replaced)
    # What the motif has of the film stays the motif's.
    assert (after.film("#c23a2c").thicken_mm, after.versions[1].films) == (0.1, ())
    renamed = next(own for own in after.versions[0].films if own.choice.thicken_mm == 0.2)
    assert renamed.choice.film == "#c23a2c"
    assert as_version(after, "v-1").film("#c23a2c").thicken_mm == 0.2


def test_versions_are_known_by_their_names() -> None:
    with pytest.raises(RecipeError, match="already"):
        apply_edit(RECIPE, made({"kind": "add-version", "name": "Mug"}))
    with pytest.raises(RecipeError, match="no version of this name"):
        edited(RECIPE, "v-9", made({"kind": "set-joint", "rule": {"kind": "butt"}}))
    shirt = {"kind": "add-version", "name": "Shirt", "factor": 1.5, "use": "heat-transfer", "like": "v-1"}
    taken = apply_edit(RECIPE, made(shirt))
    assert taken.versions[-1].factor == 1.5
    assert taken.versions[-1].films == RECIPE.versions[0].films
    assert as_version(taken, taken.versions[-1].id).film(GREEN).left_out


def test_points_of_a_versions_films_go_along_when_their_art_is_moved() -> None:
    """Told in the version's own millimetres: twice as far where it is twice as large."""
    recipe = changed(RECIPE, arts=(WORDS,))
    place = WORDS.place.model_copy(update={"x_mm": WORDS.place.x_mm + 3, "y_mm": WORDS.place.y_mm - 5})
    moved = WORDS.model_copy(update={"place": place})
    after = apply_edit(recipe, made({"kind": "change-arts", "arts": [moved.model_dump()]}))
    (own,) = [one.choice for one in after.versions[0].films if one.choice.film == GREEN]
    assert (after.versions[0].factor, own.pieces[0].x_mm, own.pieces[0].y_mm) == pytest.approx((2.0, 12 + 2 * 3, 30 - 2 * 5))
