"""Examples with honest faults, each mended by hand from the first finding to none."""

from __future__ import annotations

from typing import Any

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By

from tests.browser.conftest import Served
from tests.browser.maker import Maker
from tests.browser.shop_hand import ShopHand


@pytest.fixture
def hand(browser: webdriver.Chrome, served: Served) -> ShopHand:
    return ShopHand(browser, served.address)


MOST_STEPS = 25
ROW = '//li[button[@aria-expanded]//*[@aria-label="Will fail" or @aria-label="May fail"]]'
SETTLED = '//div[@role="status"][not(contains(., "Looking"))][not(.//*[@title="Looking again"])]'


def told(hand: ShopHand, design: str) -> list[str]:
    """What will or may fail of a design and its sheets, as the server tells it."""
    job = hand.asked(f"/designs/{design}/job")["id"]
    asked: list[dict[str, Any]] = [
        *hand.asked(f"/designs/{design}")["built"]["findings"],
        *hand.asked(f"/designs/{design}/proof")["findings"],
        *hand.asked(f"/jobs/{job}/plan")["findings"],
    ]
    return sorted(one["text"] for one in asked if one["severity"] != "note")


def is_shown(maker: Maker, left: list[str]) -> bool:
    """Whether the page tells just that: what is offered for what was told before no longer fits."""
    rows = maker.browser.execute_script(
        "return [...document.querySelectorAll('li > button[aria-expanded]')].filter((row) =>"
        ' row.querySelector(\'[aria-label="Will fail"], [aria-label="May fail"]\')).map((row) =>'
        " [row.querySelector('.grow').textContent, parseInt(row.querySelector('.measure')?.textContent ?? '1')])"
    )
    return sum(count for _, count in rows) == len(left) and all(text in left for text, _ in rows)


def mend(maker: Maker) -> None:
    """Opens what is told first and takes what is offered for all of its kind, or else the first that is offered."""
    maker.see(ROW)

    def taken() -> bool:
        for row in maker.browser.find_elements(By.XPATH, ROW):
            head = row.find_element(By.XPATH, "./button")
            if head.get_attribute("aria-expanded") == "false":
                head.click()
            maker.until(lambda r=row: "Trying what helps" not in r.text, "never tried")
            offered = [b for b in row.find_elements(By.XPATH, "./div//button") if b.text]
            every = [b for b in offered if " all " in b.text or b.text.endswith("them")]
            if offered:
                (every or offered)[0].click()
                return True
        return False

    maker.patiently(lambda: maker.until(taken, "nothing is offered"), "cannot be mended")


@pytest.mark.parametrize("example", ["star-dust", "glitter-under", "too-thin"])
def test_what_is_told_of_an_example_is_mended_until_none_is_left(maker: Maker, hand: ShopHand, example: str) -> None:
    design = f"example-{example}"
    maker.open(f"/design/{design}")
    maker.go_to("Proof")
    maker.see(SETTLED)
    first = left = told(hand, design)
    assert first
    steps = 0
    while left:
        mend(maker)
        steps += 1
        before = left
        maker.until(lambda seen=before: told(hand, design) != seen, f"nothing changed of {before}")
        left = told(hand, design)
        maker.until(lambda now=left: is_shown(maker, now), f"the page does not tell of {left}")
        maker.see(SETTLED)
        assert steps <= MOST_STEPS, f"still told: {left}"
    maker.until(lambda: not maker.browser.find_elements(By.XPATH, ROW), "still shown")
    assert maker.complaints() == []
    for _ in range(steps):
        maker.undo()
    maker.until(lambda: told(hand, design) == first, "not as it was")


def test_a_seam_through_a_stem_is_moved_to_where_it_is_wide(hand: ShopHand) -> None:
    hand.open("/job/job-lantern-mast")
    hand.see_text("runs through a part of Navy that is 2.0 mm wide")
    hand.click('//button[starts-with(normalize-space(), "Move it by")]')
    hand.until(lambda: "seam-thin" not in {f["code"] for f in hand.asked("/jobs/job-lantern-mast/plan")["findings"]})
    hand.until(
        lambda: not hand.browser.find_elements(By.XPATH, '//*[contains(text(), "runs through a part")]'), "still told"
    )
    assert hand.complaints() == []
