"""Lettering by hand: names of one height, and the size that is shown is the one that rules."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By

from tests.browser.maker import Maker


def test_six_names_are_as_tall_as_each_other(maker: Maker) -> None:
    maker.begin("{name=Ada}")
    design = maker.design()
    # The design is set to a width: nobody has to say that short names must not tower over long ones.
    assert design["recipe"]["arts"][0]["fit_width_mm"]
    assert design["recipe"]["name"] == "Ada"
    maker.open(f"/names/{design['id']}")
    maker.see("//textarea").send_keys("Mia\nBartholomew\nÅsa\nJo-Ann\nAda Quince\nBo")
    maker.see_text("All are drawn.")
    maker.see('//p[starts-with(normalize-space(), "Capitals are")][contains(., "tall in every name")]')
    maker.press("Lay 6 names on film")
    maker.until(lambda: "/job/" in maker.browser.current_url, "no job was made")
    tall = maker.browser.execute_async_script(
        "const done = arguments[0]; fetch(`/api/jobs/${location.pathname.split('/')[2]}`).then((r) => r.json())"
        ".then((j) => done(j.job.designs.map((d) => d.words[0].capitals_mm)));"
    )
    assert len(tall) == 6
    assert len(set(tall)) == 1
    assert maker.complaints() == []


def test_a_letter_height_that_is_typed_rules(maker: Maker) -> None:
    maker.begin("Dome")
    before = maker.design()
    assert before["recipe"]["arts"][0]["fit_width_mm"]
    field = maker.browser.find_element(By.XPATH, '//label[span[normalize-space()="Letter height"]]/input')
    scale = before["built"]["arts"][0]["line_scales"][0]
    field.click()
    shown = float(field.get_attribute("value").removesuffix(" mm"))
    assert shown == pytest.approx(before["recipe"]["arts"][0]["height_mm"] * scale, abs=0.01)
    maker.type_into("Letter height", "12mm")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["height_mm"] == 12, "the height was not taken")
    assert made["recipe"]["arts"][0]["fit_width_mm"] is None
    assert made["built"]["arts"][0]["line_scales"] == [1.0]
    maker.undo()
    again = maker.built_when(lambda d: d["recipe"] == before["recipe"], "not undone")
    assert again["recipe"]["name"] == "Dome"


def test_words_that_no_font_can_write_leave_nothing_to_measure_and_say_why(maker: Maker) -> None:
    maker.begin("Dome")
    area = maker.see('//label[span[normalize-space()="Words"]]/textarea')
    # Keys cannot be pressed for letters beyond the first plane.
    maker.browser.execute_script(
        "Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(arguments[0], arguments[1]);"
        "arguments[0].dispatchEvent(new Event('input', { bubbles: true }));",
        area,
        "\U00013000\U00013050",
    )
    maker.click('//h2[normalize-space()="On the stack"]')
    stage = '//section[@aria-label="Light table"]'
    maker.see(f'{stage}//*[normalize-space()="Nothing is left to cut."]')
    maker.see(f'{stage}//*[contains(., "has no")]')
    maker.see('//aside//*[normalize-space()="no films"]')
    assert "%" not in maker.see('//button[@title="Fit the decal"]').text
    maker.go_to("Cut")
    maker.see('//section[@aria-label="At the cutter"]//*[contains(., "nothing to cut")]')


def test_what_is_begun_with_has_nothing_to_mend(maker: Maker) -> None:
    maker.open("/")
    maker.press("Begin with lettering")
    maker.go_to("Proof")
    maker.see_text("No problems found")
    # A line of it goes to a film of its own with two clicks.
    maker.go_to("Art")
    maker.write("Open\nevening")
    maker.click('//button[starts-with(@aria-label, "Film of line 2")]')
    maker.press("A film of this colour")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the line got no film of its own")
    lines = made["recipe"]["arts"][0]["lines"]
    assert [line["film"] for line in lines] == [None, "#c0392b"]
