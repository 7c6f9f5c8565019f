"""The first page: designs looked for, renamed, copied, tagged, deleted, put back; help; where a dropped picture goes."""

from __future__ import annotations

import json
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.keys import Keys

from gladstack.work.crew import Crew
from tests.browser.conftest import Served
from tests.browser.counted import Counted
from tests.fonts import bars_font
from tests.pictures import picture_of

CARDS = '//section[@aria-labelledby="designs"]/ul/li'


def names(maker: Counted) -> list[str]:
    script = "return [...document.querySelectorAll('section[aria-labelledby=designs] > ul > li')].map(e => e.innerText)"
    return [text.split("\n")[0] for text in maker.browser.execute_script(script)]


def designs(maker: Counted) -> int:
    with urllib.request.urlopen(f"{maker.address}/api/designs") as answer:
        return len(json.load(answer))


@pytest.fixture
def first_page(browser: webdriver.Chrome, crew: Crew, tmp_path: Path) -> Iterator[Counted]:
    """The first page with nothing but the demo's designs."""
    app = Served(tmp_path / "demo", crew)
    maker = Counted(browser, app.address)
    maker.open("/")
    maker.see_text("Night owl sticker")
    yield maker
    app.stop()


def more(maker: Counted, name: str, what: str) -> None:
    button = f'//button[@aria-label="More for {name}"]'

    def opened() -> bool:
        # A list that is just drawn anew may take the menu along.
        if maker.see(button).get_attribute("aria-expanded") != "true":
            maker.click(button)
        return bool(maker.see(button).get_attribute("aria-expanded") == "true")

    maker.until(opened, f"the menu of {name} does not open")
    maker.press(what)


def test_a_design_is_found_renamed_copied_tagged_and_comes_back_from_the_bin(first_page: Counted) -> None:
    maker = first_page
    more(maker, "Night owl sticker", "Duplicate")
    maker.see_text("Night owl sticker copy")
    more(maker, "Night owl sticker copy", "Rename")
    field = maker.see('//input[@aria-label="Name of the design"]')
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("Lantern words", Keys.ENTER)
    maker.see_text("Lantern words")
    more(maker, "Lantern words", "Tags")
    maker.see('//input[@aria-label="Tags, with commas between"]').send_keys("banners, evening", Keys.ENTER)
    maker.press("evening")
    maker.until(lambda: names(maker) == ["Lantern words"], "the tag does not narrow the list")
    maker.press("evening")
    maker.see('//input[@aria-label="Search designs"]').send_keys("LANTERN banners")
    maker.until(lambda: names(maker) == ["Lantern words"], "the search does not find it")
    more(maker, "Lantern words", "Delete")
    maker.see_text("No design has all of these words")
    maker.press("Undo")
    maker.until(lambda: names(maker) == ["Lantern words"], "undo does not bring it back")
    more(maker, "Lantern words", "Delete")
    maker.press("Bin")
    maker.see('//section[@aria-label="Bin"]//li[contains(., "Lantern words")]')
    maker.press("Put back")
    maker.until(lambda: names(maker) == ["Lantern words"], "it does not come out of the bin")


def test_cards_have_their_pictures(first_page: Counted) -> None:
    loaded = "return [...document.querySelectorAll('section[aria-labelledby=designs] img')].slice(0, 3)"
    first_page.until(
        lambda: all(
            first_page.browser.execute_script(f"{loaded}.map(e => e.complete && e.naturalWidth > 100)"),
        ),
        "no pictures",
    )


def test_an_empty_first_page_teaches_by_an_example(browser: webdriver.Chrome, crew: Crew, tmp_path: Path) -> None:
    empty = Served(tmp_path / "empty", crew, demo=False)
    try:
        maker = Counted(browser, empty.address)
        maker.open("/")
        maker.see_text("each of its colours becomes a film to cut")
        maker.press("One word laid over another")
        maker.see('//button[@role="tab"][normalize-space()="Stack"]')
        assert maker.design()["recipe"]["name"] == "Open over evening"
    finally:
        empty.stop()


def test_what_a_design_is_for_sets_width_film_and_ground(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "dome.png"
    path.write_bytes(picture_of("dome", 128))
    maker.press("Shirt, left chest")
    maker.choose_picture(str(path))
    maker.see('//button[@role="tab"][@aria-selected="true"]')
    made = maker.built_when(lambda d: d["built"], "nothing was built")
    assert made["recipe"]["use"] == "heat-transfer"
    assert made["recipe"]["ground"]["kind"] == "shirt"
    assert abs(made["built"]["width_mm"] - 90) < 0.5
    maker.see_text("background dropped")
    maker.press("Next: Stack")
    maker.see('//button[@role="tab"][@aria-selected="true"][normalize-space()="Stack"]')


@pytest.mark.parametrize(("answer", "new"), [("Add it to this design", False), ("Start a new design", True)])
def test_a_picture_dropped_on_an_open_design_asks_where_it_goes(maker: Counted, answer: str, new: bool) -> None:
    maker.open("/design/example-two-words")
    maker.see('//canvas[@tabindex="0"]')
    before = maker.design()
    maker.drop("moon.png", picture_of("dome", 64))
    maker.see_text("Where does “moon.png” go?")
    maker.press(answer)
    if new:
        maker.until(lambda: maker.design()["id"] != before["id"], "no new design")
        return
    after = maker.built_when(lambda d: len(d["recipe"]["arts"]) == len(before["recipe"]["arts"]) + 1, "not added")
    assert after["id"] == before["id"]
    maker.undo()
    maker.built_when(lambda d: len(d["recipe"]["arts"]) == len(before["recipe"]["arts"]), "not undone")


def test_anything_dropped_goes_where_it_belongs(first_page: Counted) -> None:
    maker = first_page
    maker.drop_all({"bars.otf": bars_font()})
    maker.see_text("is on the shelf of fonts now")
    with urllib.request.urlopen(f"{maker.address}/api/shelf.csv") as shelf:
        maker.drop_all({"films.csv": shelf.read()})
    maker.see_text("The shelf has ")
    maker.drop_all({"guests.csv": b"name\nHalloran\n"})
    maker.see_text("is a list of names: open the design that they are for")
    maker.drop_all({"notes.zip": b"no archive"})
    maker.see_text("This is not a whole design file")
    # A font and a picture in one drop: each goes its own way.
    maker.drop_all({"bars.otf": b"no font", "moon.png": picture_of("dome", 64)})
    maker.see('//button[@role="tab"][@aria-selected="true"][starts-with(normalize-space(), "Colours")]')
    maker.open("/design/example-helper-names")
    maker.see('//canvas[@tabindex="0"]')
    maker.drop_all({"guests.csv": b"name\nHalloran\nMirela\n"})
    maker.see_text("names can be cut")
    assert "/names/example-helper-names" in maker.browser.current_url
    # Where nothing is left to ask, nothing is asked.
    assert not maker.browser.find_elements("xpath", '//div[@role="dialog"]')


@pytest.mark.parametrize(("answer", "arts"), [("A new design of each", 1), ("All onto one new design", 2)])
def test_several_pictures_are_asked_for_once(first_page: Counted, answer: str, arts: int) -> None:
    maker = first_page
    before = designs(maker)
    maker.drop_all({"dome.png": picture_of("dome", 64), "moon.png": picture_of("telescope", 64)})
    maker.see_text("Where do these 2 files go?")
    maker.press(answer)
    if arts == 1:
        maker.see_text("2 designs were begun.")
        maker.until(lambda: designs(maker) == before + 2, "two designs were not begun")
        return
    maker.until(lambda: "/design/" in maker.browser.current_url, "no design was opened")
    maker.built_when(lambda d: len(d["recipe"]["arts"]) == arts, "not all on one")
    assert designs(maker) == before + 1


def test_help_is_searched_and_has_its_jobs(maker: Counted) -> None:
    maker.open("/help")
    maker.see('//h2[normalize-space()="A badge with stitches"]')
    maker.see('//input[@aria-label="Search the guide"]').send_keys("stitch gap")
    maker.until(lambda: len(maker.browser.find_elements("xpath", "//article")) == 1, "the search does not narrow the guide")
    maker.see('//article//h2[normalize-space()="A badge with stitches"]')
    picture = maker.browser.find_element("xpath", "//article//img")
    maker.until(lambda: int(str(picture.get_property("naturalWidth"))) > 200, "its picture is not there")
