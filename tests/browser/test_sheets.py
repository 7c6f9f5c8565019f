"""Sheets that tell the truth: uses, what holds on what, words boxed, a job cut again and priced, a cutter of one's own."""

from __future__ import annotations

import pytest
from selenium import webdriver

from tests.browser.conftest import Served
from tests.browser.maker import Maker
from tests.browser.shop_hand import ShopHand


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Maker:
    return Maker(browser, served.address)


@pytest.fixture
def hand(browser: webdriver.Chrome, served: Served) -> ShopHand:
    return ShopHand(browser, served.address)


def own_job(hand: ShopHand) -> str:
    design = hand.browser.current_url.split("/design/")[1].split("/")[0]
    return str(hand.asked(f"/designs/{design}/job")["id"])


def test_a_sticker_is_read_through_glass(hand: ShopHand) -> None:
    hand.open("/design/demo-sticker")
    hand.go_to("Stack")
    hand.click('//label[contains(normalize-space(), "Read through glass")]')
    hand.go_to("Sheets")
    hand.see_text("the top film goes onto the glass first")
    plan = hand.asked(f"/jobs/{own_job(hand)}/plan")
    assert all(sheet["mirrored"] and not sheet["face_down"] for sheet in plan["sheets"])
    hand.undo()
    hand.until(lambda: not hand.asked(f"/jobs/{own_job(hand)}/plan")["sheets"][0]["mirrored"], "it is still mirrored")
    assert hand.complaints() == []


def test_glitter_under_smooth_film_is_told_and_put_right(hand: ShopHand) -> None:
    hand.open("/design/demo-shirt")
    hand.go_to("Sheets")
    hand.choose("Cut Gold from", star_glitter(hand))
    hand.click('//button[contains(normalize-space(), "to look at")]')
    hand.click('//summary[contains(normalize-space(), "more to look at")]')
    hand.see_text("not hold on Star glitter")
    hand.see('//button[normalize-space()="Mark as cut"][@disabled]')
    hand.press("Cut Gold from Shirt gold")
    hand.until(lambda: not stops(hand), "it is still told")
    hand.see('//button[normalize-space()="Mark as cut"][not(@disabled)]')
    assert hand.complaints() == []


def star_glitter(hand: ShopHand) -> str:
    """What the shelf's glitter is called among the films to cut gold from."""
    option = hand.see('//select[@aria-label="Cut Gold from"]//option[contains(normalize-space(), "Star glitter")]')
    return option.text


def stops(hand: ShopHand) -> list[str]:
    found = hand.asked(f"/jobs/{own_job(hand)}/plan")["findings"]
    return [one["code"] for one in found if one["severity"] == "stop"]


def test_a_card_is_glued_and_its_words_are_boxed(maker: Maker, hand: ShopHand) -> None:
    maker.begin("Star light")
    maker.go_to("Stack")
    maker.click('//label[contains(normalize-space(), "Card")][.//input[@type="radio"]]')
    maker.go_to("Sheets")
    maker.select("Weed box", "Round each word")
    maker.until(lambda: len(hand.asked(f"/jobs/{own_job(hand)}/plan")["sheets"]) == 1, "no sheet")
    maker.until(lambda: hand.asked(f"/jobs/{own_job(hand)}/plan")["sheets"][0]["boxes"].count("M") == 2, "not a box a word")
    plan = hand.asked(f"/jobs/{own_job(hand)}/plan")
    assert plan["films"][0]["material_name"] == "Night card"
    maker.go_to("Cut")
    maker.see_text("3 pages")
    pages = hand.asked(f"/jobs/{own_job(hand)}/job-sheet")["pages"]
    assert "Glue" in pages[0]
    assert "transfer tape" not in pages[0]
    assert maker.complaints() == []


def test_a_job_is_cut_two_more_are_cut_and_it_is_priced_and_repeated(hand: ShopHand) -> None:
    hand.open("/shelf")
    hand.press("Rates")
    hand.field("Currency").send_keys("GS")
    hand.type_into("Work by hand, an hour", "30")
    hand.until(lambda: hand.asked("/rates")["hand_hour"] == 30, "the rates were not kept")
    hand.open("/design/example-helper-mug")
    hand.go_to("Sheets")
    hand.type_into("Copies", "3")
    job = own_job(hand)
    hand.until(lambda: hand.asked(f"/jobs/{job}")["job"]["designs"][0]["copies"] == 3, "still one copy")
    hand.press("Mark as cut")
    hand.see_text("Cut on")
    roll = hand.piece("night-navy", "night-navy-roll")
    hand.type_into("Copies", "5")
    hand.press("Cut 2 more")
    hand.see('//button[normalize-space()="Mark as cut"][not(@disabled)]')
    assert hand.asked(f"/jobs/{job}")["job"]["designs"][0]["copies"] == 2
    assert hand.piece("night-navy", "night-navy-roll") == roll
    hand.press("Mark as cut")
    hand.see_text("Cut on")
    hand.click('//summary[contains(normalize-space(), "What was cut, 2 times")]')
    hand.click('(//ul[@aria-label="What was cut"]//button)[2]')
    hand.until(lambda: hand.asked(f"/jobs/{job}")["job"]["designs"][0]["copies"] == 3, "the first was not taken again")
    hand.click('//summary[contains(normalize-space(), "What it costs")] | //button[contains(., "What it costs")]')
    hand.see_text("Price, with the margin")
    hand.see('//td[contains(normalize-space(), "GS")]')
    assert hand.complaints() == []


def test_a_cutter_of_ones_own_in_inches(hand: ShopHand) -> None:
    hand.open("/shelf")
    hand.press("More")
    hand.press("Show lengths in inches")
    hand.press("New cutter")
    hand.type_into("Widest cut", "12")
    hand.type_into("Longest cut", "24 in")
    hand.type_into("Name of the cutter", "Desk cutter")
    hand.until(lambda: any(c["name"] == "Desk cutter" for c in hand.asked("/shelf")["cutters"]), "no cutter came")
    own = next(c for c in hand.asked("/shelf")["cutters"] if c["name"] == "Desk cutter")
    assert (own["width_mm"], own["length_mm"]) == (304.8, 609.6)
    hand.see_text("cuts 12 in wide and 24 in long")
    hand.press("More")
    hand.press("Show lengths in millimetres")
    assert hand.complaints() == []
