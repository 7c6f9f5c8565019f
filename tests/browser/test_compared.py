"""A design held against an earlier step of its own."""

from __future__ import annotations

from tests.browser.maker import Maker


def test_a_design_is_held_against_an_earlier_step(maker: Maker) -> None:
    maker.begin("moon")
    maker.add_shape("Circle or ellipse")
    maker.new_film("Film", "#c0392b")
    maker.go_to("Sheets")
    maker.press("History")
    maker.click('(//button[starts-with(@aria-label, "Compare with")])[last()]')
    maker.see('//section[@aria-label="Compared"]//li[contains(., "new:")]')
    assert maker.browser.current_url.endswith("/proof")
    # What is undone meanwhile is taken in.
    for _ in maker.design()["history"][1:]:
        maker.undo()
    maker.see_text("Every film is cut as it was.")
    maker.click('//section[@aria-label="Compared"]//button[normalize-space()="Close"]')
    maker.until(lambda: not maker.browser.find_elements("xpath", '//section[@aria-label="Compared"]'), "still there")
