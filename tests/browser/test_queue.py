"""Whoever waits sees the place in the queue, and how far long work has come; it can be given up."""

from __future__ import annotations

import asyncio
import threading

import pytest
from selenium import webdriver

from gladstack.work.crew import Crew
from tests.browser.conftest import Served
from tests.browser.maker import Maker
from tests.pictures import picture_of
from tests.work import jobs


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Maker:
    return Maker(browser, served.address)


def _occupy(crew: Crew, cost_s: float, seconds: float) -> None:
    asyncio.run(crew.run(cost_s, "This", jobs.wait, seconds))


def occupied(crew: Crew, seconds: float) -> list[threading.Thread]:
    """Somebody else's work in the lanes for short and long work."""
    hands = [threading.Thread(target=_occupy, args=(crew, cost, seconds)) for cost in (9.0, 1.0)]
    for hand in hands:
        hand.start()
    return hands


def test_the_place_in_the_queue_is_told(maker: Maker, crew: Crew) -> None:
    maker.open("/")
    maker.see('//button[normalize-space()="Begin with lettering"]')
    # A browser asks for six things at a time: the small pictures of the list come first.
    pictures = "return [...document.images].length > 10 && [...document.images].every((image) => image.complete)"
    maker.until(lambda: maker.browser.execute_script(pictures), "the small pictures never came")
    hands = occupied(crew, 5.0)
    maker.drop("dome.png", picture_of("dome", 96))
    maker.see_text("Waiting for its turn, 1 before it")
    for hand in hands:
        hand.join()
    maker.until(lambda: "/design/" in maker.browser.current_url, "the picture was never brought in")


def test_a_list_is_laid_with_progress_and_can_be_given_up(maker: Maker) -> None:
    maker.open("/names/example-helper-names")
    maker.see("//textarea").send_keys("\n".join(f"Dome {k}" for k in range(30)))
    maker.press("Lay 30 names on film")
    maker.see_text("of 30 built")
    maker.press("Cancel")
    maker.see_text("The films are not laid.")
    maker.press("Lay the films")
    maker.see_text("cut off")
