"""Fonts by hand: one of the maker's own at a chosen weight, another form of one letter, a line that reads to the left."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.counted import Counted
from tests.fonts import bars_font


def is_as_heavy(design: Any, weight: float) -> bool:
    """Whether the bar is as wide to its height as it is at a weight."""
    built = design["built"]
    return bool(abs(built["width_mm"] / built["height_mm"] - weight / 700) < 0.01)


def test_a_variable_font_of_the_makers_own_at_a_chosen_weight(
    maker: Counted,
    within: Callable[[int], None],
    tmp_path: Path,
) -> None:
    path = tmp_path / "bars.ttf"
    path.write_bytes(bars_font())
    maker.press("Begin with lettering")
    maker.words("I")
    maker.click('//button[starts-with(@aria-label, "Font:")]')
    maker.browser.find_element(By.CSS_SELECTOR, 'input[aria-label="Font file"]').send_keys(str(path))
    maker.built_when(lambda d: len(d["recipe"]["arts"][0]["font"]) == 64, "the font was not taken")
    maker.browser.switch_to.active_element.send_keys(Keys.ESCAPE)
    maker.until(lambda: maker.field("Weight").get_attribute("value") == "400", "it does not stand at the regular weight")
    for_it = maker.built_when(lambda d: is_as_heavy(d, 400), "it is not regular")
    assert for_it["built"]["findings"] == []
    maker.actions += 1
    maker.choose("Style", "Black")
    maker.built_when(lambda d: is_as_heavy(d, 900), "it did not become heavier")
    maker.type_into("Weight", "650")
    maker.built_when(lambda d: is_as_heavy(d, 650), "the weight was not taken")
    style = Select(maker.see('//label[span[normalize-space()="Style"]]//select'))
    maker.until(lambda: style.first_selected_option.text == "of its own", "the style still has a name")
    maker.undo()
    maker.built_when(lambda d: is_as_heavy(d, 900), "undo does not give the weight back")
    within(8)


def test_another_form_of_one_letter(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("OBOB")
    maker.font("Lobster Two Bold")
    plain = maker.built_when(lambda d: d["recipe"]["arts"][0]["font"] == "lobster-two", "the font was not taken")
    maker.click('(//fieldset[@aria-label="Letters"]//button[@aria-label="Letter B"])[2]')
    maker.click('//fieldset[@aria-label="Letters"]/following-sibling::div//button[@aria-label="Other forms of letters"]')
    maker.click('//fieldset[@aria-label="Alternates"]//button[@aria-label="this form" or @aria-label="form 1"]')
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["letters"], "the form was not taken")
    (tweak,) = made["recipe"]["arts"][0]["letters"]
    assert (tweak["index"], tweak["forms"]) == (3, [{"tag": "salt", "value": 1}])
    assert made["built"]["layers"] != plain["built"]["layers"]
    within(9)


def test_a_line_to_the_left_with_a_phone_number(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    made = maker.words("טלפון 050-123 Ada")
    letters = sorted(made["built"]["arts"][0]["letters"], key=lambda letter: letter["box"]["left"])
    assert "".join(letter["text"] for letter in letters) == "Ada050-123ןופלט"
    told = [f for f in made["built"]["findings"] if f["code"] == "other-font"]
    assert len(told) == 1
    assert "Noto Sans Hebrew" in told[0]["text"]
    maker.click('//fieldset[legend[normalize-space()="Lines read"]]//*[normalize-space()="To the right"]')
    turned = maker.built_when(lambda d: d["recipe"]["arts"][0]["direction"] == "ltr", "the direction was not taken")
    letters = sorted(turned["built"]["arts"][0]["letters"], key=lambda letter: letter["box"]["left"])
    assert "".join(letter["text"] for letter in letters) == "050-123ןופלטAda"
    within(6)


def test_a_font_is_named_anew_and_taken_off_the_shelf(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "bars.ttf"
    path.write_bytes(bars_font())
    maker.press("Begin with lettering")
    maker.words("I")
    maker.click('//button[starts-with(@aria-label, "Font:")]')
    maker.browser.find_element(By.CSS_SELECTOR, 'input[aria-label="Font file"]').send_keys(str(path))
    made = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["font"]) == 64, "the font was not taken")
    maker.press("Change Bars on the shelf")
    maker.see_text("keeping it when it is removed: I")
    maker.type_into("Name of the font", "Fence bars")
    maker.press("Keep the name")
    maker.press("Change Fence bars on the shelf")
    maker.press("Delete from the shelf")
    gone = '//*[@role="dialog"]//*[normalize-space()="Fence bars" or @aria-label="Fence bars"]'
    maker.until(lambda: not maker.browser.find_elements(By.XPATH, gone), "it is still on the shelf")
    maker.browser.refresh()
    maker.see("//canvas")
    assert maker.design()["recipe"]["arts"][0]["font"] == made["recipe"]["arts"][0]["font"]
    assert maker.design()["built"]["layers"]
