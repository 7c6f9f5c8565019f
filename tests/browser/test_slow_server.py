"""Edits made faster than the server answers, and while it is away: none is undone, doubled or lost."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Served
from tests.browser.hands import moves
from tests.browser.maker import Maker
from tests.pictures import picture_of

JOINT = "Joint of all films"


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Iterator[Maker]:
    maker = Maker(browser, served.address)
    maker.open("/")
    maker.press("Begin with lettering")
    maker.see('//section[@aria-label="Chosen art"]')
    served.delay_s = 0.5
    yield maker
    served.delay_s = 0.0


def art(design: Any) -> Any:
    return design["recipe"]["arts"][0]


def edits(design: Any) -> int:
    return len(design["history"])


def test_two_quick_edits_of_one_art_are_both_kept(maker: Maker) -> None:
    maker.field("Letter spacing").send_keys(Keys.CONTROL, "a")
    maker.field("Letter spacing").send_keys("2mm", Keys.ENTER)
    maker.field("Line spacing").send_keys(Keys.CONTROL, "a")
    maker.field("Line spacing").send_keys("2.5", Keys.ENTER)
    maker.press("Mirror")
    made = maker.built_when(lambda d: art(d)["place"]["mirrored"], "was not mirrored")
    assert (art(made)["spacing_mm"], art(made)["leading"]) == (2, 2.5)


def test_enter_and_leaving_a_field_make_one_edit(maker: Maker) -> None:
    before = edits(maker.design())
    field = maker.see('//section[@aria-label="Place"]//label[span[normalize-space()="Width"]]/input')
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("60mm", Keys.ENTER, Keys.TAB)
    maker.until(lambda: edits(maker.design()) > before, "the width was not kept")
    maker.press("Mirror")
    made = maker.built_when(lambda d: art(d)["place"]["mirrored"], "was not mirrored")
    box = made["built"]["arts"][0]["box"]
    assert box["right"] - box["left"] == pytest.approx(60, abs=0.05)
    assert edits(made) == before + 2


def test_a_held_arrow_key_is_one_edit_of_all_its_steps(maker: Maker) -> None:
    before = maker.design()
    # What a design begins with is chosen.
    maker.see('//ul[@aria-label="Art on the stack"]//button[@aria-pressed="true"]')
    canvas = maker.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]")
    maker.browser.execute_script("arguments[0].focus()", canvas)
    held = moves(maker.browser)
    for _ in range(10):
        held.send_keys(Keys.ARROW_RIGHT)
    held.perform()
    made = maker.built_when(lambda d: edits(d) > edits(before), "was not moved")
    assert art(made)["place"]["x_mm"] == pytest.approx(art(before)["place"]["x_mm"] + 5)
    assert edits(made) == edits(before) + 1


def test_a_drag_let_go_outside_the_window_is_kept(maker: Maker) -> None:
    maker.add_shape("Heart")
    before = maker.design()
    canvas = maker.browser.find_element(By.TAG_NAME, "canvas").rect
    x, y = canvas["x"] + canvas["width"] / 2, canvas["y"] + canvas["height"] / 2

    def mouse(kind: str, y: float, held: int) -> None:
        event = {"type": kind, "x": x, "y": y, "button": "left", "buttons": held, "clickCount": 1}
        maker.browser.execute_cdp_cmd("Input.dispatchMouseEvent", event)

    for kind, at, held in (("mouseMoved", y, 0), ("mousePressed", y, 1), ("mouseMoved", y - 60, 1), ("mouseMoved", -200, 1)):
        mouse(kind, at, held)
    mouse("mouseReleased", -200, 0)
    made = maker.built_when(lambda d: edits(d) > edits(before), "was not moved")
    was, now = (next(a for a in d["recipe"]["arts"] if a["kind"] == "shape")["place"]["y_mm"] for d in (before, made))
    assert now < was - 10
    mouse("mouseMoved", y, 0)
    assert edits(maker.design()) == edits(before) + 1


def test_what_is_typed_outlives_an_answer_and_a_refusal(maker: Maker) -> None:
    name = maker.field("Name of the design")
    name.send_keys(Keys.CONTROL, "a")
    name.send_keys("Open evening", Keys.ENTER)
    area = maker.see('//label[span[normalize-space()="Words"]]/textarea')
    area.send_keys(Keys.CONTROL, "a")
    area.send_keys("Still being typed")
    maker.built_when(lambda d: d["recipe"]["name"] == "Open evening", "was not renamed")
    assert area.get_attribute("value") == "Still being typed"
    field = maker.field("Letter height")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("9000 km", Keys.ENTER)
    maker.see_text("is not a length")
    assert field.get_attribute("value") == "9000 km"
    # The field itself says that it was refused, and why.
    maker.until(lambda: field.get_attribute("aria-invalid") == "true", "the field does not say that it was refused")
    told = maker.browser.find_element(By.ID, field.get_attribute("aria-describedby"))
    assert "is not a length" in told.text
    field.send_keys(Keys.ESCAPE)
    assert field.get_attribute("aria-invalid") is None
    assert field.get_attribute("value") != "9000 km"
    maker.built_when(lambda d: art(d)["text"] == "Still being typed", "the words were lost")


def test_a_colour_dragged_about_is_one_edit_when_it_rests(maker: Maker) -> None:
    before = edits(maker.design())
    maker.go_to("Stack")
    maker.browser.find_element(By.XPATH, "//button[@draggable]").click()
    maker.fold_out("Colour, film and finish")
    field = maker.see('//input[@type="color" and starts-with(@aria-label, "Colour of")]')
    for colour in ("#101010", "#203040", "#305070", "#2f8f8b"):
        maker.browser.execute_script(
            "Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(arguments[0], arguments[1]);"
            "arguments[0].dispatchEvent(new Event('input', { bubbles: true }));",
            field,
            colour,
        )
    made = maker.built_when(lambda d: d["built"]["layers"][0]["colour"] == "#2f8f8b", "the colour was not kept")
    assert edits(made) == before + 1


def test_a_picture_brought_in_while_an_edit_is_under_way_waits_for_it(maker: Maker, tmp_path: Any) -> None:
    picture = tmp_path / "dome.png"
    picture.write_bytes(picture_of("dome", 96))
    maker.press("Mirror")
    maker.browser.find_element(By.CSS_SELECTOR, 'input[type="file"][aria-label="Picture for the stack"]').send_keys(
        str(picture)
    )
    made = maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "the picture did not come")
    assert art(made)["place"]["mirrored"]


def test_a_server_away_for_a_moment_leaves_everything_standing(maker: Maker, served: Served) -> None:
    served.delay_s = 0
    area = maker.see('//label[span[normalize-space()="Words"]]/textarea')
    served.stop()
    maker.press("Mirror")
    maker.see_text("What you see is safe")
    area.send_keys(" tonight")
    maker.until(lambda: area.get_attribute("value").endswith("tonight"), "nothing was typed")
    assert area.is_displayed()
    assert maker.browser.find_elements(By.TAG_NAME, "canvas")
    served.start()
    maker.until(lambda: not maker.browser.find_elements(By.XPATH, '//p[contains(., "What you see is safe")]'), "still away")
    assert area.get_attribute("value").endswith("tonight")
    maker.built_when(lambda d: art(d)["text"].endswith("tonight"), "not kept when the server was back")
    maker.press("Mirror")
    maker.built_when(lambda d: art(d)["place"]["mirrored"] and art(d)["text"].endswith("tonight"), "not carried on")


def test_what_is_asked_for_shows_at_once_and_is_marked_until_it_is_settled(maker: Maker, served: Served) -> None:
    served.delay_s = 0
    maker.add_shape("Heart")
    maker.go_to("Stack")
    joint = f"//button[starts-with(@aria-label, {JOINT!r})]"
    maker.see(joint)
    served.delay_s = 1.5
    maker.see(joint).click()
    kinds = maker.see('//fieldset[@aria-label="Kind of joint"]')
    for kind in ("Lap", "Gap", "Butt"):
        kinds.find_element(By.XPATH, f'.//button[.//span[normalize-space()="{kind}"]]').click()
        asked = kinds.find_element(By.XPATH, './/button[@aria-pressed="true"]')
        assert (asked.text.splitlines()[0], asked.get_attribute("data-pending")) == (kind, "true")
    maker.until(lambda: not kinds.find_elements(By.XPATH, ".//button[@data-pending]"), "still marked")
    served.delay_s = 0
    assert maker.design()["recipe"]["joint"]["kind"] == "butt"
    served.delay_s = 1.5
    moves(maker.browser).send_keys(Keys.ESCAPE).perform()

    def rows() -> list[str]:
        found = maker.browser.find_elements(By.CSS_SELECTOR, "[data-film-at] button[draggable]")
        return [row.find_element(By.CSS_SELECTOR, ".font-semibold").text for row in found]

    before = rows()
    row = maker.browser.find_element(By.CSS_SELECTOR, "[data-film-at] button[draggable]")
    maker.browser.execute_script("arguments[0].focus()", row)
    moves(maker.browser).key_down(Keys.ALT).send_keys(Keys.ARROW_DOWN).key_up(Keys.ALT).perform()
    assert rows() == before[::-1]
    assert maker.browser.find_elements(By.CSS_SELECTOR, "[data-film-at][data-pending]")
    maker.until(lambda: not maker.browser.find_elements(By.CSS_SELECTOR, "[data-film-at][data-pending]"), "still marked")
    assert rows() == before[::-1]


def test_lists_say_that_there_is_no_answer_and_come_by_themselves(maker: Maker, served: Served) -> None:
    served.delay_s = 0
    maker.open("/")
    maker.see_text("Cut designs together")
    # The page itself is there once the first one has come to rest.
    loaded = "return performance.getEntriesByType('resource').some((e) => e.name.includes('ShelfPage'))"
    maker.until(lambda: maker.browser.execute_script(loaded), "the rest was never loaded")
    served.stop()
    maker.press("Shelf of films")
    maker.see_text("What you see is safe")
    maker.see_text("The shelf cannot be shown")
    assert not maker.browser.find_elements(By.XPATH, '//*[normalize-space()="0 films"]')
    served.start()
    maker.see('//*[contains(normalize-space(), " films") and contains(@class, "measure")]')
    maker.until(lambda: not maker.browser.find_elements(By.XPATH, '//p[contains(., "cannot be shown")]'), "still told")


def test_esc_puts_a_tool_down_wherever_the_focus_is(browser: webdriver.Chrome, served: Served) -> None:
    maker = Maker(browser, served.address)
    maker.open("/design/demo-window")
    maker.go_to("Colours")
    maker.press("Pick only some colours")
    maker.see_text("Click each colour of the picture")
    maker.field("Name of the design").send_keys(Keys.ESCAPE)
    maker.until(lambda: not maker.browser.find_elements(By.XPATH, '//p[contains(., "Click each colour")]'), "still picking")
    maker.press("Pick only some colours")
    maker.see_text("Click each colour of the picture")
    maker.press("Designs")
    maker.open("/design/demo-shirt")
    maker.see('//button[@role="tab"]')
    assert not maker.browser.find_elements(By.XPATH, '//p[contains(., "Click each colour")]')
