"""The shop by hand: a film on the shelf, a job laid and marked as cut, parts put and pinned."""

from __future__ import annotations

import json
import urllib.request

import pytest
from selenium import webdriver
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.conftest import Served
from tests.browser.maker import Maker
from tests.browser.shop_hand import ShopHand


@pytest.fixture
def hand(browser: webdriver.Chrome, served: Served) -> ShopHand:
    return ShopHand(browser, served.address)


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Maker:
    return Maker(browser, served.address)


def test_a_film_is_put_on_the_shelf_and_counted(hand: ShopHand) -> None:
    hand.open("/shelf")
    hand.press("New film")
    hand.type_into("Name", "Dusk violet")
    hand.click('//button[.//*[normalize-space()="Dusk violet"]]')
    hand.see('//form[@aria-label="Dusk violet"]')
    hand.press("Add it")
    hand.until(lambda: hand.asked("/shelf?search=dusk")["films"][0]["pieces"], "no roll came in")
    hand.press("Retire")
    hand.until(lambda: hand.asked("/shelf?search=dusk")["films"][0]["material"]["retired"], "it was not retired")
    assert hand.complaints() == []


def test_mugs_are_laid_pinned_cut_and_put_back(hand: ShopHand) -> None:
    hand.open("/")
    hand.click('//a[.//*[normalize-space()="Mugs for the twelve helpers"]]')
    hand.see_text("cut off")
    before = hand.asked("/jobs/job-mugs/plan")["length_used_mm"]
    hand.press("Lay closer")
    stop = '//button[starts-with(normalize-space(), "Stop, keep the best")]'
    hand.see(stop)
    # A shared machine may take its time over what takes two seconds.
    WebDriverWait(hand.browser, 90).until(lambda _: hand.asked("/jobs/job-mugs")["job"]["laid"], "nothing was kept")
    hand.click(stop)
    assert hand.asked("/jobs/job-mugs/plan")["length_used_mm"] <= before
    hand.see('//button[normalize-space()="Lay closer"]')

    part = hand.see('//*[name()="path"][starts-with(@aria-label, "Part 1, ")][contains(@aria-label, "copy 1")]')
    part.send_keys("p")
    hand.see_text("1 pinned")
    pinned = hand.see('//*[name()="path"][starts-with(@aria-label, "Part 1, ")][contains(@aria-label, "pinned")]')
    # An arrow goes on to the part beside it; what is in hand is moved.
    pinned.send_keys(Keys.ARROW_RIGHT)
    assert hand.browser.switch_to.active_element != pinned
    pinned.send_keys(Keys.ENTER, Keys.SHIFT, Keys.ARROW_RIGHT)
    hand.see_text("lies")
    hand.undo()
    hand.until(lambda: not any(p["pinned"] for p in hand.asked("/jobs/job-mugs")["job"]["laid"]), "undo left the pin")

    for name in ("Part 1, Gold, copy 1", "Part 2, Gold, copy 1"):
        found = hand.see(f'//*[name()="path"][starts-with(@aria-label, "{name}")]')
        hand.browser.execute_script("arguments[0].focus()", found)
        found.send_keys(" ")
    hand.press("Keep 2 parts together")
    hand.see_text("2 parts keep together")
    hand.press("each by itself")
    hand.until(lambda: not hand.asked("/jobs/job-mugs")["job"]["kept"], "they still keep together")

    roll = hand.piece("night-navy", "night-navy-roll")
    hand.press("Mark as cut")
    hand.see_text("Cut on")
    assert hand.piece("night-navy", "night-navy-roll") < roll
    hand.press("Undo “cut”")
    hand.see('//button[normalize-space()="Mark as cut"]')
    assert hand.piece("night-navy", "night-navy-roll") == roll
    assert hand.complaints() == []


def test_a_banner_is_tiled_its_seam_moved_and_its_film_chosen(hand: ShopHand) -> None:
    hand.open("/job/job-banner")
    hand.see_text("tiles")
    first = hand.asked("/jobs/job-banner/plan")["seams"][0]
    seam = (first["y"] or first["x"])[0]
    label = hand.see('//label[span[starts-with(normalize-space(), "Seam 1 from")]]/span').text
    hand.type_into(label, f"{seam['from_edge'] - 2:.1f}mm")
    hand.until(
        lambda: (
            [s["at_mm"] for s in hand.asked("/jobs/job-banner")["job"]["tiles"]["placed"]]
            == [pytest.approx(seam["at"] - 2, abs=0.06)]
        ),
        "the seam was not moved",
    )
    hand.press(f"{label}: find its place")
    hand.until(lambda: not hand.asked("/jobs/job-banner")["job"]["tiles"]["placed"], "the seam stayed")
    hand.choose("Cut Red from", "Any film of this colour")
    hand.see_text("film to buy")
    hand.choose("Weed box", "Round each copy")
    hand.see_text("boxed")
    assert hand.complaints() == []


def test_a_designs_own_sheets_point_both_ways(hand: ShopHand) -> None:
    hand.open("/design/example-helper-mug")
    hand.go_to("Sheets")
    hand.see_text("Night navy")
    hand.type_into("Copies", "3")
    hand.until(lambda: hand.asked("/designs/example-helper-mug/job")["job"]["designs"][0]["copies"] == 3, "still one copy")
    hand.click('//label[span[normalize-space()="Nested"]]')
    part = hand.see('//*[name()="path"][starts-with(@aria-label, "Part 1, ")][contains(@aria-label, "copy 2")]')
    hand.browser.execute_script("arguments[0].focus()", part)
    hand.see('//*[@aria-label="Helper\'s mug, as it will look"]//*[name()="path"][@stroke="#6d3468"]')
    assert hand.complaints() == []


def test_undo_in_sheets_takes_a_seam_back_and_not_the_design(hand: ShopHand) -> None:
    hand.open("/design/example-window-banner")
    hand.type_into("Name of the design", "Banner over the gate")
    hand.go_to("Sheets")
    hand.see('//button[@aria-label="Undo: Named the design “Banner over the gate”"]')

    def seams() -> list[tuple[float, float]]:
        job = hand.asked("/designs/example-window-banner/job")["id"]
        own = hand.asked(f"/jobs/{job}/plan")["seams"][0]
        return [(s["from_edge"], s["overlap"]) for s in own["x"] + own["y"]]

    label = hand.see('//label[span[starts-with(normalize-space(), "Seam 1 from")]]/span').text
    before = seams()
    hand.type_into(label, f"{before[0][0] - 6:.1f}mm")
    hand.until(lambda: seams()[0][0] == pytest.approx(before[0][0] - 6, abs=0.06), "the seam was not moved")
    # Farther than a tile can reach: the nearest place is taken, and it is said.
    hand.type_into(label, "5mm")
    hand.see_text("cannot lie at 5.0 mm")
    assert len(seams()) == len(before)
    hand.undo()
    hand.until(lambda: seams()[0][0] == pytest.approx(before[0][0] - 6, abs=0.06), "the seam stayed at the edge")
    hand.undo()
    hand.until(lambda: seams() == before, "the seam did not come back")
    assert hand.field("Name of the design").get_attribute("value") == "Banner over the gate"
    hand.see('//button[@aria-label="Undo: Named the design “Banner over the gate”"]')
    hand.redo()
    hand.until(lambda: seams()[0][0] == pytest.approx(before[0][0] - 6, abs=0.06), "the move did not come again")
    hand.press("Let all seams find their places")
    hand.until(lambda: seams() == before, "the seams are still held")
    assert hand.complaints() == []


def test_a_pen_of_the_shelf_draws_and_the_sheets_are_found_by_whom_they_are_for(maker: Maker, served: Served) -> None:
    maker.open("/shelf")
    maker.press("New film")
    maker.choose("Kind", "Pen")
    maker.type_into("Width of its line", "0.7mm")
    maker.type_into("Name", "Dusk pen")
    maker.see_text("draws 0.7 mm wide")
    # What is sold in inches stays in inches.
    maker.press("New film")
    maker.choose("Comes in as", "sheets")
    maker.type_into("Width, mm", "12in")
    maker.type_into("Length, mm", "24in")
    maker.type_into("Name", "Dusk foot")
    maker.see_text("1 of 12 × 24 in")
    asked = urllib.request.Request(f"{served.address}/api/designs/demo-sticker/copy", method="POST")
    with urllib.request.urlopen(asked) as answer:
        design = json.load(answer)["id"]
    maker.open(f"/design/{design}/stack")
    maker.open_film("Cream")
    maker.press("Draw with a pen")
    pen = maker.see('//select[starts-with(@aria-label, "Pen that draws")]').get_attribute("aria-label")
    assert pen is not None
    maker.choose(pen, "Dusk pen, 0.7 mm")
    maker.built_when(lambda d: d["built"]["pens"][0]["line_mm"] == 0.7, "the pen was not taken")
    maker.go_to("Sheets")
    maker.see_text("has another colour in the design")
    maker.fold_out("For whom")
    maker.type_into("Name", "Dusk choir")
    maker.fold_out("Onto the ground")
    maker.open("/")
    maker.type_into("Search jobs", "dusk choir")
    maker.click('//a[contains(., "for Dusk choir")]')
    maker.see_text("has another colour in the design")
    maker.until(lambda: maker.browser.current_url.endswith(f"{design}/sheets"), "another place was opened")
    assert maker.complaints() == []
