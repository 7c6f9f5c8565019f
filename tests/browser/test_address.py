"""Where one is stands in the address: Back, reload, and an address that leads to nothing."""

from __future__ import annotations

import pytest
from selenium import webdriver

from tests.browser.conftest import Served
from tests.browser.hands import Hands


@pytest.fixture
def hands(browser: webdriver.Chrome, served: Served) -> Hands:
    return Hands(browser, served.address)


def test_back_goes_a_place_back_and_an_address_is_come_back_to(hands: Hands) -> None:
    hands.open("/design/demo-shirt")
    hands.go_to("Stack")
    hands.go_to("Proof")
    assert hands.browser.current_url.endswith("/design/demo-shirt/proof")
    hands.browser.back()
    hands.see('//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "Stack")]')
    hands.browser.refresh()
    hands.see('//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "Stack")]')
    assert hands.browser.current_url.endswith("/design/demo-shirt/stack")
    # Each design opens where it was left, and an address with a place leads there.
    hands.open("/design/demo-badge/colours")
    hands.see('//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "Colours")]')
    hands.open("/design/demo-shirt")
    hands.see('//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "Stack")]')


def test_a_wrong_address_is_a_page_with_a_way_out(hands: Hands) -> None:
    hands.open("/no/such/page")
    hands.see('//h1[normalize-space()="There is nothing at this address"]')
    hands.press("All designs")
    hands.see_text("Choose a file")
