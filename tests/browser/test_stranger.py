"""The way of somebody new: an empty app, a picture, a name and a film of their own, all by what the screen says."""

from __future__ import annotations

from pathlib import Path

from PIL import Image, ImageDraw
from selenium import webdriver

from gladstack.work.crew import Crew
from tests.browser.conftest import Served
from tests.browser.counted import Counted

MOST_ACTIONS = 30


def lantern(folder: Path) -> Path:
    """Two flat colours on white."""
    picture = Image.new("RGB", (600, 600), "#ffffff")
    draw = ImageDraw.Draw(picture)
    draw.ellipse((60, 60, 540, 540), fill="#1d2b53")
    draw.rounded_rectangle((240, 180, 360, 420), 30, fill="#e8b530")
    path = folder / "lantern.png"
    picture.save(path)
    return path


def test_from_an_empty_app_to_cut_films_and_a_job_sheet(browser: webdriver.Chrome, crew: Crew, tmp_path: Path) -> None:
    empty = Served(tmp_path / "empty", crew, demo=False)
    try:
        maker = Counted(browser, empty.address)
        made = maker.file(lantern(tmp_path))
        assert len(made["built"]["layers"]) == 2
        maker.see_text("2 flat colours")
        maker.see_text("background dropped")
        # What it is cut from a picture takes no more than this.
        assert maker.actions <= 2
        maker.go_to("Art")
        maker.press("Lettering")
        maker.words("Ada")
        # The name is cut from the lantern's own gold.
        maker.click('//button[starts-with(@aria-label, "Film:")]')
        maker.press("Gold")
        maker.built_when(lambda d: len(d["built"]["layers"]) == 2 and len(d["recipe"]["arts"]) == 2, "not two films")
        maker.press("Next: Colours")
        maker.press("Next: Stack")
        maker.press("More")
        maker.press("Shelf of films")
        maker.press("New film")
        maker.type_into("Name", "Night navy")
        maker.see_text("5.00 m of 300 mm")
        maker.press("Back to the design")
        maker.press("Next: Proof")
        maker.press("Next: Sheets")
        maker.see_text("cut off")
        maker.see_text("Night navy")
        maker.type_into("Copies", "10")
        maker.click('//label[span[normalize-space()="Nested"]]')
        gold = maker.see('//select[contains(@aria-label, "Gold")]')
        maker.select(gold.get_attribute("aria-label") or "", "Any film of this colour")
        maker.press("Next: Cut")
        maker.press("Cut these films")
        maker.press("The film is loaded")
        maker.click('//summary[contains(normalize-space(), "Simulated cutter")]')
        maker.press("50 times faster")
        maker.press("Cut it")
        maker.click('//button[starts-with(normalize-space(), "Take it out")]')
        maker.press("The film is loaded")
        maker.press("Cut it")
        maker.click('//button[starts-with(normalize-space(), "Take it out")]')
        maker.see_text("All films are cut")
        maker.press("Page 1 of the job sheet")
        maker.see('//div[@role="dialog"]')
        assert maker.complaints() == []
        print(f"{maker.actions} actions")
        assert maker.actions <= MOST_ACTIONS
    finally:
        empty.stop()
