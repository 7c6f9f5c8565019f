"""An area of the ground's colour that is open at the edge of a motif is claimed once one line closes it."""

from __future__ import annotations

import io

import pytest
from PIL import Image, ImageDraw

from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo

NIGHT, TEAL = "#1d2b53", "#1f7a7a"


def horseshoe() -> bytes:
    """A block with a notch from its top, 100 by 100 on a page of 160."""
    image = Image.new("RGB", (320, 320), "#ffffff")
    draw = ImageDraw.Draw(image)
    draw.rectangle((60, 60, 259, 259), fill=NIGHT)
    draw.rectangle((120, 60, 199, 179), fill="#ffffff")
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def built(background: str, *, closed: bool, claimed: bool) -> Built:
    ends = {"start": {"x": 119 / 320, "y": 66 / 320}, "end": {"x": 200 / 320, "y": 66 / 320}}
    bridge = {"kind": "bridge", "id": "lid", **ends, "width_mm": 2, "follow": False}
    art = {
        "kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 160, "separation": {"background": background},
        "mends": [bridge] if closed else [], "pins": [{"x": 0.5, "y": 0.4, "film": TEAL}] if claimed else [],
    }  # fmt: skip
    recipe = Recipe.model_validate({"name": "Notch", "arts": [art]})
    return build(recipe, Assets(picture=lambda _: horseshoe()), Memo())


@pytest.mark.parametrize("background", ["auto", "outside", "drop"])
def test_a_notch_is_a_region_once_a_line_closes_it(background: str) -> None:
    found = built(background, closed=True, claimed=True)
    teal = [layer for layer in found.layers if layer.film == TEAL]
    assert teal, [layer.film for layer in found.layers]
    # 40 mm wide and 60 deep, less the line across it and what lies above that.
    assert 2100 < teal[0].shape.area < 2400
    assert [a.regions.lost for a in found.arts if a.regions] == [()]


@pytest.mark.parametrize("background", ["auto", "outside"])
def test_closed_and_unclaimed_it_stays_open(background: str) -> None:
    plain, closed = built(background, closed=False, claimed=False), built(background, closed=True, claimed=False)
    assert [layer.film for layer in plain.layers] == [layer.film for layer in closed.layers] == [NIGHT]
    assert closed.layers[0].shape.area - plain.layers[0].shape.area == pytest.approx(80, rel=0.1)
