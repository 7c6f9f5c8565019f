"""By hand: films cut through a mishap, a list with rows that do not fit, a design taken to another machine."""

from __future__ import annotations

import time
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from gladstack.work.crew import Crew
from tests.browser.conftest import Served
from tests.browser.hands import Hands
from tests.browser.shop_hand import ShopHand


@pytest.fixture
def hand(browser: webdriver.Chrome, served: Served) -> ShopHand:
    return ShopHand(browser, served.address)


def unfold(hand: Hands, title: str) -> None:
    hand.click(f'//summary[contains(normalize-space(), "{title}")]')


def test_films_are_cut_through_a_mishap_and_a_restart(hand: ShopHand, served: Served) -> None:
    hand.open("/job/job-shirts")
    hand.click('//label[normalize-space()="Cut"]')
    hand.see_text("Print")
    hand.press("Cut these films")
    hand.see_text("face down, on its carrier")
    hand.press("The film is loaded")
    unfold(hand, "Simulated cutter")
    hand.press("50 times faster")
    hand.press("Test cut first")
    hand.see_text("Test cut:")
    hand.choose("Try a mishap", "The line is lost")
    hand.press("Let it happen")
    hand.press("Cut it")
    hand.see_text("The line to the cutter was lost")
    # The page and the server may go: the cut is found again as it stands.
    served.stop()
    served.start()
    hand.open("/job/job-shirts")
    hand.see_text("The line to the cutter was lost")
    unfold(hand, "Simulated cutter")
    hand.press("50 times faster")
    hand.complaints()  # The page may have asked for news while nobody was there to answer: that is no fault.
    hand.press("Go on where it stopped")
    hand.see_text("7 of 7 contours cut once")
    hand.press("Take it out: next film")
    for _ in range(2):
        hand.press("The film is loaded")
        hand.press("Cut it")
        hand.click('//button[starts-with(normalize-space(), "Take it out")]')
    hand.see_text("All films are cut")
    assert hand.piece("shirt-navy", "shirt-navy-roll") < 4300
    assert hand.complaints() == []


def test_a_list_with_rows_that_do_not_fit_is_mended_and_laid(hand: ShopHand) -> None:
    hand.open("/design/example-helper-names")
    hand.go_to("Art")
    hand.click('//ul[@aria-label="Art on the stack"]//button[contains(., "Halloran")]')
    hand.press("Fill it from a list")
    area = hand.see("//textarea")
    area.send_keys("Halloran\n\nBartholomew-Quincelyn the Second of the Hill and all that is on it\nTove")
    hand.see_text("to look at")
    hand.see_text("Nothing is given for name")
    hand.see_text("and there is room for")
    field = hand.see('//input[@aria-label="name in row 2"]')
    field.send_keys("Åsa", Keys.ENTER)
    hand.choose("If row 3 is too long", "set in two lines")
    hand.until(lambda: not hand.browser.find_elements(By.XPATH, '//*[contains(., "Nothing is given for")][not(*)]'), "row 2")
    hand.see_text("All are drawn")
    hand.press("Lay 4 names on film")
    hand.see_text("cut off")
    assert hand.browser.find_elements(By.XPATH, '//*[normalize-space()="Åsa"]')
    assert hand.complaints() == []


def test_a_design_goes_out_as_a_file_and_in_on_an_empty_machine(
    browser: webdriver.Chrome, hand: ShopHand, crew: Crew, tmp_path: Path
) -> None:
    downloads: Path = browser.downloads  # type: ignore[attr-defined]
    hand.open("/design/demo-window")
    hand.press("More")
    hand.press("Download the design")
    deadline = time.monotonic() + 20
    while not (taken := list(downloads.glob("*.gladstack.zip"))) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert taken
    other = Served(tmp_path / "other", crew, demo=False)
    try:
        there = Hands(browser, other.address)
        there.open("/")
        there.see_text("each of its colours becomes a film")
        there.choose_picture(str(taken[0]))
        there.see('//input[@value="Hill-top window"]')
        there.go_to("Stack")
        assert len(there.names("Stack")) == len(hand.asked("/designs/demo-window")["built"]["layers"])
        broken = tmp_path / "broken.zip"
        broken.write_bytes(taken[0].read_bytes()[:2000])
        there.open("/")
        there.choose_picture(str(broken))
        there.see_text("cannot be unpacked")
        assert len(there.browser.find_elements(By.CSS_SELECTOR, 'a[href^="/design/"]')) == 1
    finally:
        other.stop()
