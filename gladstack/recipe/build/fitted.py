"""A design made as wide as it is wanted: what is seen of film, not the page that its art came on."""

from __future__ import annotations

from collections.abc import Callable

from pydantic import ValidationError

from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.edit.scale import scaled
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo

_NEAR_MM = 0.01
_MOST_ROUNDS = 2
"""A picture traced at another size comes out a hair wider or narrower than in proportion; it is measured twice."""


def fitted(
    recipe: Recipe, width_mm: float, assets: Assets, memo: Memo, tell: Callable[[str], None] = lambda group: None
) -> Recipe:
    """`recipe` scaled so that its films together are `width_mm` wide; lengths of joints and shadows stay.

    Where there is nothing to cut, the page counts; where the page would become too large, all stays as it is. Raises
    GladStackError.
    """
    for _ in range(_MOST_ROUNDS):
        now = build(recipe, assets, memo, tell).width_mm
        if abs(now - width_mm) <= _NEAR_MM or now <= 0:
            break
        try:
            recipe = scaled(recipe, width_mm / now, lengths=False)
        except ValidationError:
            break
    return recipe
