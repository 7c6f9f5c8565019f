"""Hands on the stage: handles, a box round art, keys, a crosshair, the menu of a place, two fingers."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PIL import Image, ImageDraw
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.counted import Counted
from tests.browser.hands import Hands, moves


@pytest.fixture
def words(maker: Counted) -> Counted:
    """A lettering and a star beside each other, the star chosen."""
    maker.press("Begin with lettering")
    maker.words("HILL")
    maker.shape("Star")
    maker.type_into("From left", "260mm")
    maker.built_when(lambda d: box_of(d, 1)["left"] > 150, "the star did not move")
    maker.click('//button[@title="Fit the decal"]')
    return maker


def box_of(design: Any, k: int) -> Any:
    return design["built"]["arts"][k]["box"]


def drag_grip(maker: Counted, grip: str, dx: int, dy: int, key: str | None = None) -> None:
    handle = maker.browser.find_element(By.CSS_SELECTOR, f'[data-grip="{grip}"]')
    keys = moves(maker.browser)
    if key:
        keys.key_down(key)
    keys.click_and_hold(handle).move_by_offset(dx // 2, dy // 2).move_by_offset(dx - dx // 2, dy - dy // 2)
    keys.release().perform()
    if key:
        moves(maker.browser).key_up(key).perform()


def test_corners_scale_sides_stretch_and_the_round_one_turns(words: Counted) -> None:
    before = box_of(words.design(), 1)
    ratio = (before["right"] - before["left"]) / (before["bottom"] - before["top"])
    drag_grip(words, "se", 40, 40)
    made = words.built_when(lambda d: box_of(d, 1)["right"] > before["right"] + 1, "the corner did nothing")
    after = box_of(made, 1)
    assert after["left"] == pytest.approx(before["left"], abs=0.01)
    assert after["top"] == pytest.approx(before["top"], abs=0.01)
    assert (after["right"] - after["left"]) / (after["bottom"] - after["top"]) == pytest.approx(ratio, rel=1e-3)
    words.click('//button[@title="Fit the decal"]')
    drag_grip(words, "e", 40, 0)
    wide = words.built_when(lambda d: box_of(d, 1)["right"] > after["right"] + 1, "the side did nothing")
    assert box_of(wide, 1)["bottom"] == pytest.approx(after["bottom"], abs=0.01)
    words.click('//button[@title="Fit the decal"]')
    drag_grip(words, "turn", 60, 12, Keys.SHIFT)
    turned = words.built_when(lambda d: d["recipe"]["arts"][1]["place"]["turn_deg"] != 0, "it did not turn")
    assert turned["recipe"]["arts"][1]["place"]["turn_deg"] % 15 == 0


def test_keys_choose_all_duplicate_and_delete(words: Counted) -> None:
    canvas = words.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]")
    canvas.send_keys(Keys.CONTROL, "d")
    words.built_when(lambda d: len(d["recipe"]["arts"]) == 3, "not duplicated")
    copied = words.design()["recipe"]["arts"][2]["id"]
    words.until(lambda: words.browser.find_elements(By.CSS_SELECTOR, "[data-grip]"), "the copy is not chosen")
    canvas.send_keys(Keys.DELETE)
    left = words.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "not deleted")
    assert copied not in {art["id"] for art in left["recipe"]["arts"]}
    canvas.send_keys(Keys.CONTROL, "a")
    canvas.send_keys(Keys.CONTROL, "d")
    words.built_when(lambda d: len(d["recipe"]["arts"]) == 4, "not all were duplicated")


def test_a_box_drawn_with_shift_chooses_what_lies_in_it(words: Counted) -> None:
    canvas = words.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]")
    wide, high = canvas.size["width"], canvas.size["height"]
    words.key(Keys.ESCAPE)
    words.see_text("Choose a piece of art")
    keys = moves(words.browser).key_down(Keys.SHIFT)
    keys.move_to_element_with_offset(canvas, -wide // 2 + 4, -high // 2 + 60).click_and_hold()
    keys.move_by_offset(wide // 2, high // 2).move_by_offset(wide // 2 - 12, high // 2 - 70).release()
    keys.key_up(Keys.SHIFT).perform()
    words.see('//section[@aria-label="Together"]')


def test_a_crosshair_reads_out_what_lies_there_and_points(words: Counted) -> None:
    words.go_to("Stack")
    words.key("x")
    words.key(Keys.ARROW_UP)
    said = words.browser.find_element(By.CSS_SELECTOR, "p.sr-only[aria-live]")
    films = {layer["name"] for layer in words.design()["built"]["layers"]} | {"ground"}
    words.until(lambda: said.text or said.get_property("textContent"), "nothing is read out")
    assert set(said.get_property("textContent").split(", on ")) <= films
    heard = {said.get_property("textContent")}
    for _ in range(60):
        words.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]").send_keys(Keys.ARROW_LEFT)
        heard.add(said.get_property("textContent"))
    assert len(heard) > 1, "the crosshair reads out the same everywhere"
    words.key(Keys.ESCAPE)
    words.until(lambda: not words.browser.find_elements(By.CSS_SELECTOR, "p.sr-only[aria-live]"), "it stays")


def test_the_second_button_says_what_can_be_done_there(words: Counted) -> None:
    star = box_of(words.design(), 1)
    words.drag_mm([((star["left"] + star["right"]) / 2, (star["top"] + star["bottom"]) / 2)])
    moves(words.browser).context_click().perform()
    words.see('//*[@role="menuitem"][starts-with(normalize-space(), "Hide ")]')
    words.click('//*[@role="menuitem"][starts-with(normalize-space(), "Duplicate ")]')
    words.built_when(lambda d: len(d["recipe"]["arts"]) == 3, "not duplicated")


def test_two_clicks_on_lettering_write_where_it_lies(words: Counted) -> None:
    words.go_to("Stack")
    letters = box_of(words.design(), 0)
    words.drag_mm([(letters["left"] + 3, (letters["top"] + letters["bottom"]) / 2)])
    moves(words.browser).double_click().perform()
    words.until(lambda: on_stage(words), "no caret on the stage")
    # The caret came to where it was clicked: before the first letter or right behind it.
    moves(words.browser).send_keys(Keys.HOME, "UP", Keys.END, " TOP").perform()
    made = words.built_when(lambda d: d["recipe"]["arts"][0]["text"] == "UPHILL TOP", "not written while typing rests")
    moves(words.browser).key_down(Keys.SHIFT).send_keys(Keys.HOME).key_up(Keys.SHIFT).perform()
    moves(words.browser).send_keys("DOME", Keys.ESCAPE).perform()
    words.built_when(lambda d: d["recipe"]["arts"][0]["text"] == "DOME", "not written when left")
    words.go_to("Stack")
    words.see('//button[@role="tab"][@aria-selected="true"][normalize-space()="Stack"]')
    assert len(words.design()["history"]) == len(made["history"]) + 1, "it was kept more than once"
    words.go_to("Art")
    assert not on_stage(words)
    words.see('//label[span[normalize-space()="Words"]]/textarea[normalize-space()="DOME"]')


def test_enter_writes_in_the_chosen_lettering_and_blanks_alone_are_not_kept(words: Counted) -> None:
    words.click('//ul[@aria-label="Art on the stack"]//button[contains(., "HILL")]')
    words.key(Keys.ENTER)
    words.until(lambda: on_stage(words), "no caret on the stage")
    moves(words.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).send_keys("  ").perform()
    moves(words.browser).send_keys(Keys.ESCAPE).perform()
    words.see('//label[span[normalize-space()="Words"]]/textarea[normalize-space()="HILL"]')
    assert words.design()["recipe"]["arts"][0]["text"] == "HILL"


def on_stage(maker: Counted) -> bool:
    """Whether the keys go into words on the light table."""
    script = "return document.activeElement?.matches('section[aria-label=\"Light table\"] textarea')"
    return bool(maker.browser.execute_script(script))


def test_two_fingers_move_and_enlarge_the_table(words: Counted) -> None:
    scale = words.see('//button[@title="Fit the decal"]')
    before = scale.text
    pinch = """
      const canvas = document.querySelector("canvas[tabindex]"), box = canvas.getBoundingClientRect();
      canvas.setPointerCapture = () => undefined;
      const send = (type, id, x) => canvas.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: id,
        pointerType: "touch", clientX: box.left + x, clientY: box.top + 300, button: 0 }));
      send("pointerdown", 1, 300); send("pointerdown", 2, 400);
      for (let k = 1; k <= 10; k += 1) { send("pointermove", 1, 300 - 10 * k); send("pointermove", 2, 400 + 10 * k); }
      send("pointerup", 1, 200); send("pointerup", 2, 500);
    """
    words.browser.execute_script(pinch)
    words.until(lambda: int(scale.text.split()[0]) > 2 * int(before.split()[0]), "the pinch did not enlarge it")


def test_the_keys_are_on_a_sheet(maker: Counted) -> None:
    moves(maker.browser).send_keys("?").perform()
    maker.see('//div[@role="dialog"]//dt[normalize-space()="Delete"]')
    maker.press("Close")


def test_a_film_dragged_onto_the_table_becomes_that_of_the_area_there(maker: Counted) -> None:
    maker.open("/design/example-colouring-page")
    maker.go_to("Stack")
    before = {layer["film"]: layer["area_mm2"] for layer in maker.design()["built"]["layers"]}
    dragged = """
      const row = document.querySelector(`button[draggable][aria-label*="${arguments[0]}"]`);
      const canvas = document.querySelector("canvas[tabindex]"), box = canvas.getBoundingClientRect();
      const data = new DataTransfer();
      row.dispatchEvent(new DragEvent("dragstart", { dataTransfer: data, bubbles: true }));
      const to = { dataTransfer: data, bubbles: true, cancelable: true,
        clientX: box.left + box.width / 2 - 150, clientY: box.top + 130 };
      canvas.dispatchEvent(new DragEvent("dragover", to));
      canvas.dispatchEvent(new DragEvent("drop", to));
      row.dispatchEvent(new DragEvent("dragend", { dataTransfer: data, bubbles: true }));
    """
    maker.see('//button[@draggable][contains(@aria-label, "film 1 ")]')
    maker.browser.execute_script(dragged, "film 3 ")
    maker.built_when(
        lambda d: {layer["film"]: layer["area_mm2"] for layer in d["built"]["layers"]} != before, "no area changed its film"
    )
    maker.undo()


def test_a_square_decal_takes_half_of_the_screen(maker: Counted, tmp_path: Path) -> None:
    Image.new("RGB", (400, 400), "white").save(tmp_path / "tile.png")
    with Image.open(tmp_path / "tile.png") as tile:
        ImageDraw.Draw(tile).rectangle((40, 40, 359, 359), fill="#c0392b")
        tile.save(tmp_path / "tile.png")
    maker.bring(tmp_path / "tile.png")
    maker.go_to("Art")
    maker.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]").click()
    maker.see('//*[@data-grip="nw"]')
    across, down = maker.browser.execute_script(
        "const at = (grip) => { const b = document.querySelector(`[data-grip=${grip}]`).getBoundingClientRect();"
        " return [b.x + b.width / 2, b.y + b.height / 2]; };"
        "const [a, b] = [at('nw'), at('se')]; return [b[0] - a[0], b[1] - a[1]]"
    )
    assert across * down > 0.5 * 1280 * 800


def focused(hands: Hands) -> str:
    """What has the focus; nothing where that has fallen to the page."""
    said = (
        "const e = document.activeElement; return e === document.body ? '' : e.getAttribute('aria-label') || e.textContent"
    )
    return str(hands.browser.execute_script(said))


def test_the_focus_never_falls_to_the_page(maker: Counted) -> None:
    """By keys alone: each button that is pressed goes away or is switched off, and the focus stays beside it."""
    maker.press("Begin with lettering")
    maker.words("SKY")
    maker.go_to("Stack")
    for _ in range(20):
        steps = maker.browser.find_elements(By.XPATH, '//button[starts-with(@aria-label, "Undo: ")]')
        if not steps:
            break
        maker.browser.execute_script("arguments[0].focus()", steps[0])
        moves(maker.browser).send_keys(Keys.ENTER).perform()
        maker.until(lambda: focused(maker), "the focus fell to the page by undoing")
    maker.see('//button[normalize-space()="Undo"][@disabled]')
    maker.redo()
    maker.go_to("Cut")

    def by_key(start: str) -> None:
        xpath = f'//button[starts-with(normalize-space(), "{start}")]'
        button = maker.see(xpath)
        maker.until(button.is_enabled, f"{start} cannot be pressed")
        maker.browser.execute_script("arguments[0].focus()", button)
        moves(maker.browser).send_keys(Keys.ENTER).perform()
        maker.until(lambda: not maker.browser.find_elements(By.XPATH, xpath), f"{start} is still there")
        maker.until(lambda: focused(maker), f"the focus fell to the page after {start}")

    by_key("Cut these films")
    by_key("The film is loaded")
    maker.click('//summary[contains(normalize-space(), "Simulated cutter")]')
    maker.press("50 times faster")
    by_key("Cut it")
    maker.see('//button[starts-with(normalize-space(), "Take it out")]')
    maker.until(lambda: focused(maker), "the focus fell to the page while it was cut")
    by_key("Take it out")
