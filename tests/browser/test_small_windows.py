"""Small windows: 320 px wide, as at 400 %, a phone and a tablet; all that can be done can be reached."""

from __future__ import annotations

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By

from tests.browser.accessible import axe, out_of_reach, window_of
from tests.browser.chrome import chromium
from tests.browser.conftest import Served
from tests.browser.hands import Hands
from tests.browser.shop_hand import ShopHand

PAGES = ("/", "/shelf", "/help", "/job/job-mugs", "/names/example-helper-names", *(
    f"/design/demo-mug/{place}" for place in ("art", "colours", "stack", "proof", "sheets", "cut")
))  # fmt: skip


@pytest.fixture
def hands(browser: webdriver.Chrome, served: Served) -> Hands:
    return Hands(browser, served.address)


def opened(hands: Hands, page: str) -> None:
    hands.open(page)
    hands.see("//main//h1 | //main//header | //main//h2")
    if page.startswith("/design"):
        hands.see('//div[@role="tabpanel"][@data-state="active"]//*[self::button or self::input]')


@pytest.mark.parametrize("size", [(320, 640), (320, 240), (640, 400)], ids=lambda s: f"{s[0]}x{s[1]}")
def test_every_control_can_be_brought_into_view(hands: Hands, size: tuple[int, int]) -> None:
    with window_of(hands.browser, *size):
        for page in PAGES:
            opened(hands, page)
            assert out_of_reach(hands) == [], page
            wide = hands.browser.execute_script("return document.documentElement.scrollWidth")
            assert wide <= size[0], page


@pytest.mark.parametrize("width", [320, 640])
def test_small_windows_are_accessible(hands: Hands, width: int) -> None:
    with window_of(hands.browser, width, 800):
        for page in PAGES:
            opened(hands, page)
            assert axe(hands) == [], page


def test_letters_twice_as_large_leave_everything_in_reach(served: Served) -> None:
    with chromium(letters_px=32) as browser:
        hands = Hands(browser, served.address)
        for page in PAGES:
            opened(hands, page)
            assert out_of_reach(hands) == [], page
            assert axe(hands) == [], page
        # What designs are called stands on their cards, whole.
        hands.open("/")
        name = hands.see('//li//a/span[contains(@class, "font-semibold")]')
        card = name.find_element(By.XPATH, "./ancestor::li")
        assert name.rect["y"] + name.rect["height"] <= card.rect["y"] + card.rect["height"]


def test_colours_that_the_system_chooses_leave_everything_told(hands: Hands) -> None:
    forced = {"features": [{"name": "forced-colors", "value": "active"}]}
    hands.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", forced)
    try:
        for page in PAGES:
            opened(hands, page)
            assert axe(hands) == [], page
        opened(hands, "/design/demo-mug/stack")
        # A film's swatch keeps its colour, and what is pressed has a frame.
        row = hands.see('//button[@draggable][starts-with(@aria-label, "Brown,")]')
        seen = hands.browser.execute_script(
            "return [...arguments[0].querySelectorAll('[style]')].map((e) => getComputedStyle(e).backgroundColor)", row
        )
        assert any(colour not in ("rgb(255, 255, 255)", "rgba(0, 0, 0, 0)") for colour in seen)
        lens = hands.see('//button[@aria-pressed="true"] | //*[@aria-current="true"]')
        assert hands.browser.execute_script("return getComputedStyle(arguments[0]).outlineStyle", lens) == "solid"
    finally:
        hands.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})


def test_on_a_phone_the_decal_stays_in_sight_while_the_panel_is_scrolled(hands: Hands) -> None:
    with window_of(hands.browser, 390, 844):
        opened(hands, "/design/demo-mug/stack")
        stage = hands.browser.find_element(By.XPATH, '//section[@aria-label="Light table"]')
        last = hands.see('//div[@role="tabpanel"][@data-state="active"]//button[starts-with(normalize-space(), "Next:")]')
        hands.browser.execute_script("arguments[0].scrollIntoView({block: 'end'})", last)
        box = hands.browser.execute_script("const b = arguments[0].getBoundingClientRect(); return [b.top, b.height]", stage)
        assert box[0] >= -1
        assert box[1] > 250


def touch(hands: Hands, *ways: list[tuple[float, float]]) -> None:
    """Fingers put down at once, each drawn along its way, and lifted."""
    send = hands.browser.execute_cdp_cmd

    def fingers(step: int) -> list[dict[str, float]]:
        return [{"x": way[step][0], "y": way[step][1], "id": k} for k, way in enumerate(ways)]

    for k in range(len(ways)):
        send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": fingers(0)[: k + 1]})
    for step in range(1, len(ways[0])):
        send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": fingers(step)})
    send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})


def along(start: tuple[float, float], end: tuple[float, float]) -> list[tuple[float, float]]:
    return [(start[0] + (end[0] - start[0]) * k / 8, start[1] + (end[1] - start[1]) * k / 8) for k in range(9)]


def test_a_finger_puts_films_in_order_and_two_make_the_bench_larger(browser: webdriver.Chrome, served: Served) -> None:
    hands = ShopHand(browser, served.address)
    opened(hands, "/design/demo-mug/stack")
    # Lines that come later would move the films under the finger.
    hands.see_text("A hand slips")
    hands.see_text("may fail")
    before = hands.names("Stack")

    def swatch(name: str) -> tuple[float, float]:
        row = hands.see(f'//button[@draggable][starts-with(@aria-label, "{name},")]')
        box = row.rect
        return box["x"] + 30, box["y"] + box["height"] / 2

    touch(hands, along(swatch(before[0]), swatch(before[2])))
    moved = [*before[1:3], before[0], *before[3:]]
    hands.until(lambda: hands.names("Stack") == moved, "the film was not taken along")
    hands.undo()
    hands.until(lambda: hands.names("Stack") == before, "not undone")
    opened(hands, "/job/job-mugs")
    revision = hands.asked("/jobs/job-mugs")["revision"]
    strip = hands.see('//*[name()="svg"][@role="application"]')
    wide, box = strip.size["width"], strip.rect
    x, y = box["x"] + 200, box["y"] + 40
    touch(hands, along((x, y), (x - 60, y)), along((x + 80, y), (x + 140, y)))
    hands.until(lambda: hands.see('//*[name()="svg"][@role="application"]').size["width"] > 1.5 * wide, "not larger")
    # No part was moved by it.
    assert hands.asked("/jobs/job-mugs")["revision"] == revision
