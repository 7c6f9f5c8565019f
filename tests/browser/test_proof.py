"""What will go wrong is found, looked at and mended before the blade touches film."""

from __future__ import annotations

import re
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.hands import moves
from tests.browser.maker import Maker

WEEDING = '//section[@aria-label="In weeding"]'


def proof(maker: Maker) -> Any:
    """The proof as the server tells it."""
    return maker.browser.execute_async_script(
        "const done = arguments[0]; fetch(`/api/designs/${location.pathname.split('/')[2]}/proof`)"
        ".then((r) => r.json()).then(done);"
    )


def codes(maker: Maker) -> list[str]:
    return [found["code"] for found in proof(maker)["findings"]]


def test_hairline_letters_are_found_and_thickened_until_none_is_left(maker: Maker) -> None:
    maker.begin("illi till illi till illi till")
    maker.font("Inter Thin")
    maker.until(lambda: "thin-part" in codes(maker), "nothing is thin")
    maker.go_to("Proof")
    maker.click(f'{WEEDING}//button[contains(., "is only")]')
    maker.see('//span[starts-with(normalize-space(), "1 of ")]')
    every = maker.see('//button[starts-with(normalize-space(), "Thicken all")]')
    maker.patiently(every.click, "never could thicken")
    made = maker.built_when(lambda d: any(f["repairs"] for f in d["recipe"]["films"]), "nothing was thickened")
    assert [r["how"] for f in made["recipe"]["films"] for r in f["repairs"]] == ["thicken"]
    maker.until(lambda: "thin-part" not in codes(maker), "it is still thin")
    maker.until(
        lambda: not maker.browser.find_elements(By.XPATH, f'{WEEDING}//button[contains(., "is only")]'), "still told"
    )
    maker.undo()
    maker.built_when(lambda d: not any(f["repairs"] for f in d["recipe"].get("films", [])), "not undone")
    maker.see(f'{WEEDING}//button[contains(., "is only")]')


HIDE = '//button[starts-with(normalize-space(), "Hide it with laps")]'


def test_a_film_is_taken_in_hand_and_what_it_bares_is_hidden_by_laps(maker: Maker) -> None:
    maker.begin("moon")
    maker.add_shape("Circle or ellipse")
    maker.new_film("Film", "#c0392b")
    maker.flush()
    maker.go_to("Proof")
    maker.click('//summary[contains(., "A hand that slips")]')
    maker.click('//button[@aria-label="Take Navy in hand"]')
    stage = maker.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]")
    for _ in range(4):
        stage.send_keys(Keys.ARROW_RIGHT)
    slip = '//p[@role="status"][contains(@class, "measure")][contains(., "off its place")]'
    said = maker.see(slip).text
    assert re.search(r"0\.40 mm off its place", said)
    stage.send_keys(Keys.ESCAPE)
    maker.until(
        lambda: not maker.browser.find_elements(By.XPATH, slip),
        "not laid back",
    )
    worst = sum(film["bares_mm2"] for film in proof(maker)["films"])
    assert worst > 1
    maker.see_text("to see what it makes worse")
    moves(maker.browser).move_to_element(maker.see(HIDE)).perform()
    maker.see('//ul[@aria-label="What gets worse"]/li[contains(., "Navy is only")]')
    maker.click(HIDE)
    maker.built_when(lambda d: d["recipe"]["pairs"], "no laps were made")
    assert sum(film["bares_mm2"] for film in proof(maker)["films"]) < 0.1 * worst


def test_lenses_show_what_is_narrow_and_how_thick_it_is(maker: Maker) -> None:
    maker.begin("illi")
    maker.font("Inter Thin")
    maker.go_to("Proof")
    maker.press("Narrow")
    maker.until(lambda: maker.browser.find_elements(By.XPATH, '//button[@aria-pressed="true"][normalize-space()="Narrow"]'))
    maker.press("Thickness")
    maker.click('//summary[contains(., "Thickness")]')
    maker.see_text("1 film")
    assert maker.complaints() == []


def test_scaling_says_first_what_will_be_too_thin(maker: Maker) -> None:
    maker.begin("Dome")
    maker.font("Inter Black")
    before = maker.design()["recipe"]
    maker.type_into("Width of the whole design", "9mm")
    maker.see('//ul[@aria-label="What gets worse"]/li[contains(., "wide here")]')
    maker.press("Cancel")
    assert maker.design()["recipe"] == before
    maker.type_into("Width of the whole design", "300mm")
    maker.press("Keep them")
    maker.built_when(lambda d: abs(d["built"]["width_mm"] - 300) < 0.5, "was not scaled")
