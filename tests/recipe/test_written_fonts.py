"""Fonts beside a recipe: by the name of their file, by their hash, or within it."""

from __future__ import annotations

import base64
import hashlib
import json
from pathlib import Path
from typing import Any

import pytest

from gladstack.core.base.errors import FontError, RecipeError
from gladstack.recipe.art.written import assets_of, read_recipe
from gladstack.recipe.build.build import build
from gladstack.stages.memo import Memo
from tests.fonts import bars_font

BARS = bars_font()
DIGEST = hashlib.sha256(BARS).hexdigest()


def recipe(font: str, **more: Any) -> str:
    art = {"kind": "lettering", "id": "words", "text": "I", "font": font, "height_mm": 70, **more}
    return json.dumps({"name": "Bar", "arts": [art]})


NAMED = {"file": "bars.ttf", "hash": DIGEST, "within": "data:font/ttf;base64," + base64.b64encode(BARS).decode()}


@pytest.mark.parametrize("told", NAMED.values(), ids=list(NAMED))
@pytest.mark.parametrize(("weight", "width"), [(None, 40), (900, 90)])
def test_a_font_of_ones_own_is_found(told: str, weight: int | None, width: float, tmp_path: Path) -> None:
    if not told.startswith("data:"):
        (tmp_path / "bars.ttf").write_bytes(BARS)
    axes = [{"tag": "wght", "value": weight}] if weight else []
    made, held = read_recipe(recipe(told, axes=axes), tmp_path)
    built = build(made, assets_of(held), Memo())
    left, _, right, _ = built.layers[0].cut.bounds
    assert right - left == pytest.approx(width, abs=0.1)
    assert made.arts[0].font == DIGEST  # type: ignore[union-attr]


def test_a_line_of_its_own_font(tmp_path: Path) -> None:
    (tmp_path / "bars.ttf").write_bytes(BARS)
    made, held = read_recipe(recipe("lobster-two", lines=[{"font": "bars.ttf"}]), tmp_path)
    assert made.arts[0].lines[0].font == DIGEST  # type: ignore[union-attr]
    assert set(held) == {DIGEST}


def test_fonts_that_are_not_there_or_no_fonts_are_told(tmp_path: Path) -> None:
    with pytest.raises(RecipeError, match="does not lie beside"):
        read_recipe(recipe("bars.ttf"), tmp_path)
    (tmp_path / "bars.ttf").write_bytes(b"no font")
    with pytest.raises(FontError):
        read_recipe(recipe("bars.ttf"), tmp_path)
    with pytest.raises(RecipeError, match="base64"):
        read_recipe(recipe("data:font/ttf;base64,###"), tmp_path)
    made, held = read_recipe(recipe(DIGEST), tmp_path)
    with pytest.raises(FontError, match="on the shelf"):
        build(made, assets_of(held), Memo())
