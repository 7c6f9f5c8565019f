"""The whole path in a browser: a picture goes in, a ZIP of cut sheets comes out."""

from __future__ import annotations

import time
import zipfile
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.accessible import axe
from tests.browser.conftest import Served
from tests.browser.hands import Hands, moves
from tests.pictures import photo, picture_of


@pytest.fixture
def hands(browser: webdriver.Chrome, served: Served) -> Hands:
    hands = Hands(browser, served.address)
    hands.open("/")
    hands.browser.execute_script("localStorage.clear()")
    hands.browser.get_log("browser")
    return hands


def start_design(hands: Hands, tmp_path: Path, name: str = "dome") -> None:
    path = tmp_path / f"{name}.png"
    path.write_bytes(picture_of(name, 400))
    hands.open("/")
    hands.see_text("Choose a file")
    hands.choose_picture(str(path))
    hands.see('//button[@role="tab"][@aria-selected="true"][normalize-space()="Colours"]')


def test_from_a_picture_to_the_downloaded_sheets(hands: Hands, served: Served, tmp_path: Path) -> None:
    path = tmp_path / "hill dome.png"
    path.write_bytes(picture_of("dome", 400))
    width = hands.field("Finished width")
    width.send_keys(Keys.CONTROL, "a")
    width.send_keys("5in")
    hands.choose_picture(str(path))
    hands.see_text("7 colours")
    hands.see_text("background, dropped")

    hands.go_to("Stack")
    order = hands.names("Stack")
    assert len(order) == 6
    row = hands.see('//button[@draggable][starts-with(@aria-label, "Gold")]')
    row.send_keys(Keys.ALT, Keys.ARROW_DOWN)
    hands.until(lambda: hands.names("Stack") != order, "the stack was not reordered")
    hands.undo()
    hands.until(lambda: hands.names("Stack") == order, "undo did not bring the order back")

    hands.see('//button[starts-with(@aria-label, "Joint of all films")]').click()
    for kind, said in (("Butt", "butt"), ("Lap", "lap 0.4 mm")):
        hands.see(f'//fieldset[@aria-label="Kind of joint"]//button[starts-with(normalize-space(), "{kind}")]').click()
        hands.see(f'//button[starts-with(@aria-label, "Joint of all films: {said}")]')
    hands.type_into("Length of the lap", "1/32in")
    hands.see('//button[starts-with(@aria-label, "Joint of all films: lap 0.8 mm")]')
    hands.until(lambda: hands.see_text("thick").text != "1 film thick", "a lap lies on no other film")

    hands.browser.refresh()
    hands.see('//button[starts-with(@aria-label, "Joint of all films: lap 0.8 mm")]')
    served.stop()
    served.start()
    hands.browser.refresh()
    hands.undo()
    hands.see('//button[starts-with(@aria-label, "Joint of all films: lap 0.4 mm")]')
    hands.complaints()  # The page may have asked for news while nobody was there to answer: that is no fault.

    hands.go_to("Sheets")
    hands.press("History")
    hands.see('//li[button[@aria-current="step"]]')
    moves(hands.browser).send_keys(Keys.ESCAPE).perform()
    hands.see_text("Marks and numbers").click()
    hands.choose("Marks", "Three: the free corner shows a flipped film")
    hands.see_text("3 marks")
    hands.go_to("Cut")
    hands.see_text("Download files").click()
    hands.press("Download as ZIP")
    downloads: Path = hands.browser.downloads  # type: ignore[attr-defined]
    archive = downloads / "hill-dome.zip"
    hands.until(archive.exists, "nothing was downloaded")
    with zipfile.ZipFile(archive) as files:
        names = files.namelist()
        assert len([n for n in names if n.startswith("sheets/") and n.endswith(".svg")]) == 6
        assert 'width="127mm"' in files.read("stack.svg").decode()
        sheet = files.read(next(n for n in names if n.startswith("sheets/") and n.endswith(".svg"))).decode()
        assert sheet.split('id="marks"')[1].split("</g>")[0].count("<path") == 3
        assert "Gather on transfer tape" in files.read("assembly.txt").decode()
    assert hands.complaints() == []


def test_a_dropped_picture_shows_its_layers_at_once(hands: Hands) -> None:
    hands.drop("telescope.png", picture_of("telescope", 1024))
    hands.see_text("6 colours")
    hands.until(lambda: hands.pixel(0.5, 0.5) != (0, 0, 0))
    assert hands.names("Stack") == []
    hands.go_to("Stack")
    assert len(hands.names("Stack")) == 5


def test_colours_can_be_merged_dropped_named_and_picked(hands: Hands, tmp_path: Path) -> None:
    start_design(hands, tmp_path)
    hands.see_text("7 colours")
    hands.type_into("Name of Gold", "Evening star")
    hands.see('//input[@aria-label="Name of Evening star"]')
    hands.press("Change Evening star")
    hands.press("Drop this colour")
    hands.see_text("dropped")
    hands.undo()
    hands.press("Change Evening star")
    hands.see('//p[normalize-space()="One film with"]/following-sibling::ul//button').click()
    hands.see_text("one film with")
    hands.press("One colour fewer")
    hands.see_text("6 colours")
    hands.press("take the proposed number")
    hands.see_text("7 colours")
    hands.press("Pick only some colours")
    hands.see_text("Click each colour of the picture")
    stage = hands.see("//canvas[@tabindex]")
    moves(hands.browser).move_to_element(stage).click().perform()
    hands.see_text("1 colour picked")
    moves(hands.browser).move_to_element_with_offset(stage, 3, 3).click().perform()
    hands.see_text("Click each colour of the picture")
    moves(hands.browser).move_to_element(stage).click().perform()
    hands.press("Done picking")
    hands.see_text("1 picked colour")
    hands.see_text("other colours go to the nearest of these")
    assert hands.complaints() == []


def test_lenses_pan_zoom_and_the_core_sample(hands: Hands) -> None:
    hands.open("/design/demo-shirt")
    hands.see_text("thick")
    time.sleep(0.5)
    finished = hands.pixel(0.44, 0.5)
    assert finished != (251, 250, 247)
    hands.press("Cut lines")
    hands.until(lambda: hands.pixel(0.44, 0.5) != finished)
    hands.press("Exploded")
    hands.press("Finished")
    stage = hands.see("//canvas[@tabindex]")
    moves(hands.browser).move_to_element_with_offset(stage, -40, 60).perform()
    sample = hands.see('//ol[@aria-label="Core sample"]')
    assert sample.text.splitlines()[-1] == "ground"
    assert len(sample.text.splitlines()) >= 2
    scale = hands.see('//button[@title="Fit the decal"]')
    before = scale.text
    stage.send_keys("+")
    hands.until(lambda: scale.text != before)
    stage.send_keys("0")
    hands.until(lambda: scale.text == before)


def test_two_windows_on_one_design(hands: Hands, tmp_path: Path) -> None:
    start_design(hands, tmp_path)
    address = hands.browser.current_url
    first = hands.browser.current_window_handle
    hands.browser.switch_to.new_window("tab")
    hands.browser.get(address)
    hands.type_into("Name of the design", "Named in the second")
    hands.see('//button[@aria-label="Undo: Named the design “Named in the second”"]')
    second = hands.browser.current_window_handle
    hands.browser.switch_to.window(first)
    # It is told of what was done there, before anything is done on what it saw.
    hands.see_text("was changed in another window")
    hands.until(lambda: hands.field("Name of the design").get_attribute("value") == "Named in the second")
    # An edit made on what this window saw last, before it could look again.
    design = address.split("/design/")[1].split("/")[0]
    status = hands.browser.execute_async_script(
        "const done = arguments[1]; fetch(`/api/designs/${arguments[0]}/edits`, {method: 'POST',"
        "headers: {'content-type': 'application/json'}, body: JSON.stringify({base: 1,"
        "edit: {kind: 'resize', width_mm: 50}})})"
        ".then((r) => done(r.status));",
        design,
    )
    assert status == 409
    hands.until(lambda: hands.field("Name of the design").get_attribute("value") == "Named in the second")
    hands.browser.switch_to.window(second)
    hands.browser.close()
    hands.browser.switch_to.window(first)


def test_bad_files_say_what_is_wrong_and_what_helps(hands: Hands, tmp_path: Path) -> None:
    path = tmp_path / "letter.png"
    path.write_text("Dear observatory")
    hands.choose_picture(str(path))
    hands.see_text("is not a picture that can be read")
    hands.see_text("Bring in a PNG, JPEG, GIF, WebP, BMP, TIFF, AVIF or HEIC.")
    path = tmp_path / "photo.png"
    path.write_bytes(photo())
    hands.choose_picture(str(path))
    hands.see_text("not made of flat colours")


@pytest.mark.parametrize("place", ["Art", "Colours", "Stack", "Sheets", "Cut"])
def test_every_place_is_accessible_and_needs_no_page_scroll(hands: Hands, place: str) -> None:
    hands.open("/design/demo-mug")
    hands.go_to(place)
    hands.see('//div[@role="tabpanel"]')
    assert axe(hands) == []
    page = hands.browser.execute_script("const e = document.documentElement; return [e.scrollHeight, e.clientHeight]")
    assert page[0] == page[1]
    assert hands.complaints() == []


@pytest.mark.parametrize("page", ["/", "/shelf", "/help", "/job/job-mugs", "/names/example-helper-names"])
def test_every_page_is_accessible(hands: Hands, page: str) -> None:
    hands.open(page)
    hands.see("//main//h1 | //main//header | //main//h2")
    assert axe(hands) == []


@pytest.mark.parametrize(
    ("place", "opens"),
    [
        ("Stack", '//button[normalize-space()="History"]'),
        ("Stack", '//button[normalize-space()="More"]'),
        ("Stack", '//button[starts-with(@aria-label, "Joint of all films")]'),
        ("Stack", '//button[starts-with(@aria-label, "Ground:")]'),
        ("Stack", '//button[normalize-space()="Make a shadow of the whole decal"]'),
        ("Colours", '(//button[normalize-space()="Change"])[2]'),
        ("Art", '//button[normalize-space()="Shape"]'),
    ],
)
def test_what_opens_is_accessible(hands: Hands, place: str, opens: str) -> None:
    hands.open("/design/demo-mug")
    hands.go_to(place)
    hands.click(opens)
    hands.see('//*[@role="dialog" or @role="menu"]')
    assert axe(hands) == []


def test_sheets_over_the_page_are_accessible(hands: Hands) -> None:
    hands.open("/design/demo-mug")
    hands.see('//div[@role="tabpanel"]')
    hands.browser.find_element(By.TAG_NAME, "body").send_keys("?")
    hands.see('//*[@role="dialog"][.//h2[.="Keys"]]')
    assert axe(hands) == []
    hands.press("Close")
    hands.drop("moon.png", picture_of("dome", 64))
    hands.see('//*[@role="dialog"][contains(., "Add it to this design")]')
    assert axe(hands) == []
