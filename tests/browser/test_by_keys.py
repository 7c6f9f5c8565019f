"""Three jobs by keys alone: what is pressed is reached by Tab, and after every action the focus is somewhere still."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.counted import Counted
from tests.browser.hands import moves

MOST_TABS = 150
BUSY = "return document.querySelectorAll('[data-pending], [aria-busy=true]').length > 0"
AT = "return document.activeElement === arguments[0] || !!arguments[0].contains(document.activeElement)"


class ByKeys:
    """A maker whose hands stay on the keys."""

    def __init__(self, maker: Counted) -> None:
        self.maker = maker
        self.browser = maker.browser

    def send(self, *keys: str) -> None:
        """Presses keys where the focus is, and looks that it is still somewhere once the page has settled."""
        moves(self.browser).send_keys(*keys).perform()
        self.maker.until(lambda: not self.browser.execute_script(BUSY), "the page does not settle")
        at = "return document.activeElement !== document.body && document.activeElement.checkVisibility()"
        self.maker.until(lambda: self.browser.execute_script(at), f"the focus fell to the page after {keys!r}")

    def reach(self, xpath: str) -> None:
        """Goes to something by Tab."""
        element = self.maker.see(xpath)
        self.maker.until(element.is_enabled, f"{xpath} stays switched off")
        for _ in range(MOST_TABS):
            if self.browser.execute_script(AT, element):
                return
            moves(self.browser).send_keys(Keys.TAB).perform()
        pytest.fail(f"{xpath} is not reached by Tab")

    def press(self, name: str, key: str = Keys.ENTER) -> None:
        self.reach(f'//button[normalize-space()="{name}" or starts-with(@aria-label, "{name}")]')
        self.send(key)

    def go_to(self, place: str) -> None:
        """Along the thread of places: it is one stop of Tab, and arrows go along it."""
        self.reach('//button[@role="tab"][@aria-selected="true"]')
        for _ in range(6):
            at = self.browser.execute_script("return document.activeElement.textContent")
            if at.startswith(place):
                break
            self.send(Keys.ARROW_RIGHT)
        self.maker.see(f'//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "{place}")]')


@pytest.fixture
def keys(maker: Counted) -> ByKeys:
    return ByKeys(maker)


def test_words_are_set_joined_and_laid(maker: Counted, keys: ByKeys) -> None:
    keys.press("Begin with lettering")
    maker.see_text("On the stack")
    keys.reach('//label[span[normalize-space()="Words"]]/textarea')
    moves(maker.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    keys.send("DOME")
    keys.send(Keys.TAB)
    maker.built_when(lambda d: d["recipe"]["arts"][0]["text"] == "DOME", "the words were not set")
    keys.press("Shape")
    keys.press("Star")
    maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "no star came")
    keys.press("Duplicate")
    maker.built_when(lambda d: len(d["recipe"]["arts"]) == 3, "no second star")
    keys.press("Delete")
    maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "it is still there")
    keys.go_to("Stack")
    keys.reach('//button[starts-with(@aria-label, "Joint of all films")]')
    keys.send(Keys.ENTER)
    keys.reach('//fieldset[@aria-label="Kind of joint"]//button[starts-with(normalize-space(), "Gap")]')
    keys.send(Keys.ENTER)
    maker.built_when(lambda d: d["recipe"]["joint"]["kind"] == "gap", "no gap")
    keys.send(Keys.ESCAPE)
    keys.reach("(//button[@draggable])[1]")
    keys.send(Keys.ENTER)
    keys.press("Make a shadow or line of it")
    keys.reach('//button[starts-with(normalize-space(), "Outline shadow")]')
    keys.send(Keys.ENTER)
    maker.built_when(lambda d: len(d["recipe"]["makings"]) == 1, "no shadow")
    keys.press("Undo: ")
    maker.built_when(lambda d: not d["recipe"]["makings"], "the shadow is still there")
    keys.go_to("Sheets")
    maker.see('//section[@aria-label="Bench"]//strong')
    assert maker.complaints() == []


def test_colours_of_a_picture_are_dropped_brought_back_and_named(maker: Counted, keys: ByKeys) -> None:
    maker.open("/design/demo-badge")
    maker.see('//button[@role="tab"]')
    keys.go_to("Colours")
    films = {layer["film"] for layer in maker.design()["built"]["layers"]}
    change = '(//button[starts-with(@aria-label, "Change ")])[2]'
    keys.reach(change)
    keys.send(Keys.ENTER)
    keys.press("Drop this colour")
    maker.built_when(lambda d: {layer["film"] for layer in d["built"]["layers"]} != films, "no colour was dropped")
    keys.press("Undo: ")
    maker.built_when(lambda d: {layer["film"] for layer in d["built"]["layers"]} == films, "it did not come back")
    keys.press("Redo: ")
    maker.built_when(lambda d: {layer["film"] for layer in d["built"]["layers"]} != films, "not dropped again")
    keys.press("Undo: ")
    maker.built_when(lambda d: {layer["film"] for layer in d["built"]["layers"]} == films, "it did not come back again")
    keys.press("One colour fewer")
    maker.built_when(lambda d: len(d["built"]["layers"]) < len(films), "there are as many films")
    keys.press("Undo: ")
    maker.built_when(lambda d: len(d["built"]["layers"]) == len(films), "not undone")
    keys.reach('(//input[starts-with(@aria-label, "Name of ")])[2]')
    keys.send("Night", Keys.ENTER)
    maker.built_when(lambda d: "Night" in str([layer["name"] for layer in d["built"]["layers"]]), "not named")
    keys.press("Undo: ")
    assert maker.complaints() == []


def test_parts_are_moved_turned_and_pinned_on_the_bench(maker: Counted, keys: ByKeys) -> None:
    maker.open("/job/job-mugs")
    part = '(//*[name()="path"][starts-with(@aria-label, "Part ") or starts-with(@aria-label, "Letter ")][@tabindex="0"])[1]'
    maker.see(part)
    before = spots(maker)
    keys.reach(part)
    for key in (Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_LEFT):
        keys.send(key)
    keys.send(Keys.ENTER)
    keys.send(Keys.ESCAPE)
    keys.send("p")
    maker.until(lambda: len(spots(maker)) > len(before), "no part was pinned")
    at = maker.browser.execute_script("return document.activeElement.getAttribute('aria-label')")
    assert at.endswith(", pinned"), "a letter of a word that is pinned does not say so"
    keys.send("p")
    maker.until(lambda: len(spots(maker)) == len(before), "it is still pinned")
    keys.press("Undo: ")
    keys.press("Redo: ")
    keys.press("Undo: ")
    keys.press("Undo: ")
    maker.until(lambda: len(spots(maker)) == len(before), "not as it was")
    assert maker.complaints() == []


def spots(maker: Counted) -> list[str]:
    """The parts that are shown as pinned."""
    pinned = maker.browser.find_elements(By.XPATH, '//*[name()="path"][contains(@aria-label, ", pinned")]')
    return [one.get_attribute("aria-label") or "" for one in pinned]
