"""A picture in the colours one has."""

from __future__ import annotations

import pytest

from gladstack.demo.shelf import demo_shop
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.model.arts import PictureArt
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.uses import Use
from gladstack.shop.plan.had import as_had, take_had
from gladstack.shop.plan.wanted import apart
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.memo import Memo
from tests.pictures import picture_of

MEMO = Memo()


def made(recipe: Recipe, name: str) -> Built:
    return build(recipe, Assets(picture=lambda _: picture_of(name, 256)), MEMO)


@pytest.mark.parametrize("use", [Use.SURFACE, Use.PRESSED, Use.CARD])
@pytest.mark.parametrize("name", ["dome", "night-badge"])
def test_a_picture_becomes_films_of_the_shelf_in_one_step(name: str, use: Use) -> None:
    digest = ("a" if name == "dome" else "b") * 64
    recipe = Recipe(name="P", arts=(PictureArt(id="picture", picture=digest, width_mm=120),), use=use)
    before = made(recipe, name)
    found = as_had(before, "picture", demo_shop())
    assert {h.film for h in found} == {layer.film for layer in before.layers}
    # Each goes to the nearest there is, and what comes to one material becomes one film.
    for had in found:
        assert had.material.suits(use)
        plain = [
            m for m in demo_shop().materials if m.suits(use) and m.taken_unasked and m.finish.kind in ("matte", "gloss")
        ]
        assert had.delta_e == pytest.approx(min(apart(m.colour, had.colour) for m in plain), abs=0.01)
        assert had.into is None or found[[h.film for h in found].index(had.into)].material == had.material
    step = take_had("picture", found)
    after = made(apply_edit(recipe, step), name)
    kept = [h for h in found if h.into is None]
    assert {layer.colour for layer in after.layers} == {h.material.colour for h in kept}
    assert len(after.layers) == len(kept) == len({h.material.id for h in kept})
    assert step.describe(recipe) == "Took only films of the shelf"


def test_an_empty_shelf_proposes_nothing() -> None:
    recipe = Recipe(name="P", arts=(PictureArt(id="picture", picture="a" * 64, width_mm=120),))
    assert as_had(made(recipe, "dome"), "picture", Shop()) == ()
    assert as_had(made(recipe, "dome"), "no-such", demo_shop()) == ()
