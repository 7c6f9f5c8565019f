"""A part of a picture taken for the whole of it, by hand."""

from __future__ import annotations

from pathlib import Path

from PIL import Image, ImageDraw

from tests.browser.hands import moves
from tests.browser.maker import Maker


def test_a_part_is_framed_and_made_as_wide_as_typed(maker: Maker, tmp_path: Path) -> None:
    picture = Image.new("RGB", (600, 400), "#ffffff")
    pen = ImageDraw.Draw(picture)
    pen.ellipse((60, 100, 260, 300), fill="#f2b632")
    pen.rectangle((340, 100, 540, 300), fill="#1d2b53")
    path = tmp_path / "evening.png"
    picture.save(path)
    maker.open("/")
    maker.choose_picture(str(path))
    maker.press("Take a part of it…")
    page = maker.see('//img[@alt="As it was brought in" and contains(@class, "max-w-full")]')
    maker.until(lambda: page.get_property("naturalWidth") == 600, "the picture never came")
    wide, high = page.size["width"], page.size["height"]
    hand = moves(maker.browser)
    # Round the square alone: from beside it to the far corner.
    hand.move_to_element_with_offset(page, int(0.02 * wide), int(-0.4 * high)).click_and_hold()
    hand.move_by_offset(int(0.44 * wide), int(0.8 * high)).release().perform()
    maker.type_into("Width of this part", "90 mm")
    maker.press("Take this part")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["frame"], "no part was taken")
    assert made["recipe"]["arts"][0]["width_mm"] == 90
    assert [layer["film"] for layer in made["built"]["layers"]] == ["#1d2b53"]
    # The square's 201 of 600 px, and as much of the 90 mm.
    frame = made["recipe"]["arts"][0]["frame"]
    assert abs(made["built"]["width_mm"] - 90 * (201 / 600) / (frame["right"] - frame["left"])) < 0.1
    maker.press("Part of it")
    maker.press("Take the whole picture")
    maker.built_when(lambda d: d["recipe"]["arts"][0]["frame"] is None and len(d["built"]["layers"]) == 2, "not whole")
    maker.undo()
    maker.built_when(lambda d: d["recipe"]["arts"][0]["frame"] == frame, "not undone")
