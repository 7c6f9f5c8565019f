"""Lengths follow by their type: nothing in millimetres is forgotten when a design is scaled."""

from __future__ import annotations

import re
from collections.abc import Iterator
from operator import attrgetter
from typing import Any, get_args

import pytest

from gladstack.recipe.edit.scale import scaled
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.scaling import scales_of
from gladstack.recipe.model.values import Frozen

RECIPE = Recipe.model_validate(
    {
        "name": "Scaled",
        "arts": [
            {
                "kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 40, "place": {"x_mm": 3, "y_mm": 4},
                "separation": {"speck_mm": 0.5}, "simplify_mm": 0.1,
                "mends": [{"kind": "brush", "id": "m", "path": [{"x": 0, "y": 0}], "mode": "add", "film": "#112233"}],
            },
            {
                "kind": "lettering", "id": "w", "text": "A", "height_mm": 10, "spacing_mm": 1, "margin_mm": 0.5,
                "bend": {"radius_mm": 50}, "lines": [{"height_mm": 5}], "letters": [{"index": 0, "dx_mm": 0.3}],
            },
            {"kind": "vector", "id": "v", "file": "b" * 64, "place": {"x_mm": 6, "scale_x": 2}},
        ],
        "makings": [
            {
                "kind": "outline-shadow", "id": "o", "film": "#445566", "mm": 2, "small_mm2": 5, "holes": "fill-chosen",
                "chosen": [{"x_mm": 7, "y_mm": 8}],
            },
        ],
        "films": [{"film": "#112233", "thicken_mm": 0.2, "close_mm": 0.3, "small": {"below_mm2": 2, "how": "drop"}}],
        "joint": {"kind": "lap", "mm": 0.4},
        "small_mm2": 0.7,
    }
)  # fmt: skip


def models(model: type[Frozen], seen: set[type[Frozen]]) -> Iterator[type[Frozen]]:
    """A model and all that its fields are made of."""
    if model in seen:
        return
    seen.add(model)
    yield model
    waiting: list[Any] = [f.annotation for f in model.model_fields.values()]
    while waiting:
        one = waiting.pop()
        waiting += get_args(one)
        if isinstance(one, type) and issubclass(one, Frozen):
            yield from models(one, seen)


NAME = attrgetter("__name__")


@pytest.mark.parametrize("model", sorted(models(Recipe, set()), key=NAME), ids=NAME)
def test_every_length_and_area_says_how_it_follows(model: type[Frozen]) -> None:
    said = scales_of(model)
    for name in model.model_fields:
        if re.search(r"(^|_)mm$", name):
            assert name in said, f"{model.__name__}.{name}"
        elif name.endswith("_mm2"):
            assert said[name].power in (0, 2), f"{model.__name__}.{name}"
        else:
            assert name not in said


@pytest.mark.parametrize("added", [False, True])
def test_what_is_of_the_motif_scales_and_what_was_added_only_if_wanted(added: bool) -> None:
    new = scaled(RECIPE, 3.0, lengths=added)
    more, area = (3.0, 9.0) if added else (1.0, 1.0)
    picture, words, file = new.arts
    assert (picture.width_mm, picture.place.x_mm, picture.place.y_mm) == (120, 9, 12)  # type: ignore[union-attr]
    assert picture.separation.speck_mm == 0.5  # type: ignore[union-attr]
    assert (picture.simplify_mm, picture.mends[0].width_mm) == pytest.approx((0.3, 3))  # type: ignore[union-attr]
    assert (words.height_mm, words.spacing_mm, words.bend.radius_mm) == (30, 3, 150)  # type: ignore[union-attr]
    assert (words.lines[0].height_mm, words.letters[0].dx_mm) == pytest.approx((15, 0.9))  # type: ignore[union-attr]
    assert words.margin_mm == pytest.approx(0.5 * more)  # type: ignore[union-attr]
    assert (file.place.x_mm, file.place.scale_x, file.place.scale_y) == (18, 6, 3)
    (shadow,) = new.makings
    assert (shadow.mm, shadow.small_mm2) == pytest.approx((2 * more, 5 * area))  # type: ignore[union-attr]
    assert (shadow.chosen[0].x_mm, shadow.chosen[0].y_mm) == (21, 24)  # type: ignore[union-attr]
    (film,) = new.films
    assert (film.thicken_mm, film.close_mm) == pytest.approx((0.2 * more, 0.3 * more))
    assert film.small is not None
    assert film.small.below_mm2 == pytest.approx(2 * area)
    assert new.joint.mm == pytest.approx(0.4 * more)
    assert new.small_mm2 == 0.7
