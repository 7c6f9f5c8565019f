"""What is open is closed: a notch in a motif, and the gaps of a drawing of loose lines."""

from __future__ import annotations

import random
from pathlib import Path

import numpy as np
import pytest

from tests.browser.maker import Maker
from tests.core.drawing.test_gaps import drawing, loose_polygon
from tests.recipe.test_notch import NIGHT, TEAL, horseshoe


def test_a_notch_is_closed_by_one_line_and_claimed(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "block.png"
    path.write_bytes(horseshoe())
    maker.bring(path)
    maker.go_to("Colours")
    maker.fold_out("Mending")
    maker.press("Bridge")
    maker.click('//fieldset[legend[normalize-space()="New edge"]]//*[normalize-space()="Straight"]')
    maker.type_into("Width", "2mm")
    maker.draw((119 / 320, 66 / 320), (200 / 320, 66 / 320))
    maker.fold_out("Regions")
    maker.press("Claim regions")
    maker.new_film("Claim for", TEAL, there=False)
    maker.draw((0.5, 0.4))
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the notch was not claimed")
    areas = {layer["film"]: layer["area_mm2"] for layer in made["built"]["layers"]}
    assert set(areas) == {NIGHT, TEAL}
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    assert maker.complaints() == []


def test_a_drawing_of_loose_lines_is_joined(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "plate.dxf"
    corners = np.array([(0, 0), (80, 0), (80, 40), (0, 40)], float)
    path.write_bytes(drawing(lambda space: loose_polygon(corners, 0.4, random.Random(7), space)))
    maker.bring(path)
    maker.go_to("Art")
    (layer,) = maker.design()["built"]["layers"]
    assert layer["area_mm2"] == pytest.approx(3200, rel=2e-3)
    assert maker.field("Join gaps up to").get_attribute("value") == "0.5 mm"
    maker.type_into("Join gaps up to", "0.01mm")
    maker.see_text("has no closed outlines")
    assert maker.design()["built"]["layers"][0]["area_mm2"] == layer["area_mm2"]
