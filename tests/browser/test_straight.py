"""A print photographed aslant, set straight by its corners, with the pointer and with keys, and taken back."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from bench.slanted import SIDE_PX, slanted
from tests.browser.counted import Counted
from tests.browser.hands import moves, waiting


def test_a_slanted_print_is_set_straight(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    _, photo, corners = slanted(7)
    path = tmp_path / "print.png"
    Image.fromarray(photo.rgb).save(path)
    maker.file(path)
    maker.go_to("Colours")
    maker.press("Set it straight…")
    maker.see_text("Put each handle on a corner")
    picture = maker.see("//img[@alt='As it was photographed']")
    shown = waiting(maker.browser)
    shown.until(lambda _: picture.get_property("complete") and picture.rect["width"] > 100, "the picture is not shown")
    handles = maker.browser.find_elements(By.XPATH, "//button[contains(@aria-label, 'corner,')]")
    box = picture.rect
    for handle, (x, y) in zip(handles, corners, strict=True):
        middle = handle.rect["x"] + handle.rect["width"] / 2, handle.rect["y"] + handle.rect["height"] / 2
        dx, dy = box["x"] + x * box["width"] - middle[0], box["y"] + y * box["height"] - middle[1]
        moves(maker.browser).drag_and_drop_by_offset(handle, round(dx), round(dy)).perform()
        maker.actions += 1
    handles[0].send_keys(Keys.ARROW_LEFT)
    handles[0].send_keys(Keys.ARROW_RIGHT)
    maker.press("Set it straight")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["corners"] is not None, "it was not set straight")
    for corner, (x, y) in zip(made["recipe"]["arts"][0]["corners"], corners, strict=True):
        assert (corner["x"], corner["y"]) == pytest.approx((x, y), abs=4 / SIDE_PX)
    page = made["built"]["arts"][0]["page"]
    # The drawing is as high as wide, and so is what lies between the corners.
    assert (page["bottom"] - page["top"]) / (page["right"] - page["left"]) == pytest.approx(1, abs=0.03)
    within(9)
    maker.undo()
    maker.built_when(lambda d: d["recipe"]["arts"][0]["corners"] is None, "it was not undone")
