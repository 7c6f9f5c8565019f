"""Another picture of the motif takes the place of the first, and what was claimed in that stays claimed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PIL import Image, ImageDraw
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.hands import moves
from tests.browser.maker import Maker

TEAL, NIGHT, GOLD, PAPER, RED = "#1f7a7a", "#1d2b53", "#f2b632", "#f4f0e4", "#c0392b"
STONES = [(x, y) for y in (150, 300, 450) for x in (120, 300, 480)]


def logo(moon: tuple[int, int]) -> Image.Image:
    """Nine stones of different forms on a field, and a moon."""
    image = Image.new("RGB", (620, 620), PAPER)
    draw = ImageDraw.Draw(image)
    draw.rounded_rectangle((30, 40, 570, 560), 60, fill=NIGHT)
    for k, (x, y) in enumerate(STONES):
        r = 38 + 3 * k
        if k % 2:
            draw.rectangle((x - r, y - r // 2, x + r, y + r // 2), fill=GOLD)
        else:
            draw.ellipse((x - r, y - r, x + r, y + r), fill=GOLD)
    draw.ellipse((moon[0] - 25, moon[1] - 25, moon[0] + 25, moon[1] + 25), fill="#c0392b")
    return image


def test_a_logo_is_replaced_after_ten_claims(maker: Maker, tmp_path: Path) -> None:
    first, second = tmp_path / "logo.png", tmp_path / "logo-again.jpg"
    logo((210, 225)).save(first)
    # A larger scan of it, aslant, in which the moon has wandered.
    logo((390, 375)).rotate(3, Image.Resampling.BICUBIC, True, fillcolor=PAPER).resize((900, 900)).save(second, quality=78)
    maker.bring(first)
    before = maker.design()["built"]
    maker.go_to("Colours")
    maker.fold_out("Regions")
    maker.press("Claim regions")
    maker.new_film("Claim for", TEAL, there=False)
    for x, y in [*STONES, (210, 225)]:
        maker.draw((x / 620, y / 620))
    claimed = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["pins"]) == 10, "not ten claims")
    maker.press("Done claiming")
    maker.go_to("Art")
    maker.browser.find_element(By.XPATH, '//input[@aria-label="Replace the picture by another"]').send_keys(str(second))
    maker.see_text("9 of 10 claims keep their place")
    maker.see('//div[@role="dialog"]//*[contains(@aria-label, "under the outlines")]')
    maker.press("Replace it")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["filename"] == "logo-again.jpg", "not replaced")
    art = made["recipe"]["arts"][0]
    assert len(art["pins"]) == 9
    assert len(art["strayed"]) == 1
    # The motif is as large as it was, and where it was.
    box, old = made["built"]["box"], before["box"]
    assert all(abs(box[side] - old[side]) < 0.6 for side in ("left", "top", "right", "bottom"))
    teal = [next(layer["area_mm2"] for layer in d["built"]["layers"] if layer["film"] == TEAL) for d in (claimed, made)]
    assert 0.93 < teal[1] / teal[0] < 1.0
    maker.see_text("1 claim found no like region in the new picture")
    maker.press("Let them go")
    maker.built_when(lambda d: not d["recipe"]["arts"][0]["strayed"], "still astray")
    for _ in range(2):
        maker.undo()
    again = maker.built_when(lambda d: d["recipe"]["arts"][0]["filename"] == "logo.png", "not undone")
    assert again["recipe"] == claimed["recipe"]
    assert maker.complaints() == []


def test_a_file_of_another_kind_is_refused_and_says_why(maker: Maker, tmp_path: Path) -> None:
    picture, file = tmp_path / "logo.png", tmp_path / "logo.svg"
    logo((210, 225)).save(picture)
    file.write_text('<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm"><rect width="20" height="9"/></svg>')
    maker.bring(picture)
    maker.go_to("Art")
    before = maker.design()["recipe"]
    maker.browser.find_element(By.XPATH, '//input[@aria-label="Replace the picture by another"]').send_keys(str(file))
    maker.see_text("is a vector file, and logo.png was made of a picture")
    maker.press("Cancel")
    assert maker.design()["recipe"] == before


def test_an_edge_is_moved_and_another_drawn_anew_and_both_films_follow(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "logo.png"
    logo((210, 225)).save(path)
    maker.bring(path)
    maker.go_to("Colours")
    maker.fold_out("Mending")
    maker.press("Move edge")
    before = maker.design()["built"]
    # The right edge of the middle stone is taken a little into the field.
    maker.draw((350 / 620, 300 / 620), (375 / 620, 300 / 620))
    made = maker.design()
    assert [m["kind"] for m in made["recipe"]["arts"][0]["mends"]] == ["move-edge"]
    areas = [{layer["film"]: layer["area_mm2"] for layer in b["layers"]} for b in (before, made["built"])]
    assert areas[1][GOLD] > areas[0][GOLD] + 5
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    maker.press("Draw edge")
    # The left edge of the field bulges out.
    maker.draw((30 / 620, 200 / 620), (10 / 620, 250 / 620), (10 / 620, 350 / 620), (30 / 620, 400 / 620))
    made = maker.design()
    assert [m["kind"] for m in made["recipe"]["arts"][0]["mends"]] == ["move-edge", "draw-edge"]
    assert made["built"]["width_mm"] > before["width_mm"] + 2
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    maker.undo()
    maker.undo()
    maker.built_when(lambda d: d["recipe"]["arts"][0]["mends"] == [], "not undone")
    assert maker.complaints() == []


KITE = '<path fill="#c0392b" d="M0 0H40V30L20 22 0 30z"/><path fill="#1d2b53" d="M0 30L20 22 40 30V50H0z"/>'


def kite(maker: Maker, folder: Path) -> tuple[float, float]:
    """Two films that have a hinge in common, ready to be mended; where the left top corner lies."""
    path = folder / "kite.svg"
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="50mm" viewBox="0 0 40 50">{KITE}</svg>')
    maker.bring(path)
    maker.go_to("Colours")
    maker.fold_out("Mending")
    box = maker.design()["built"]["box"]
    return box["left"], box["top"]


def areas(made: Any) -> dict[str, float]:
    return {layer["film"]: layer["area_mm2"] for layer in made["built"]["layers"]}


def test_nodes_are_turned_into_curves_led_elsewhere_added_and_taken_out(maker: Maker, tmp_path: Path) -> None:
    left, top = kite(maker, tmp_path)
    maker.press("Nodes")
    maker.click('//label[normalize-space()="Curve"]')
    # The hinge that both films have in common.
    maker.draw((20 / 40, 22 / 40))
    made = maker.design()
    assert made["history"][-1]["label"] == "Mended: node put right"
    curved = areas(made)[RED]
    assert curved < 40 * 30 - 20 * 8 / 2 - 20
    maker.see('//li//*[normalize-space()="Curve"]')
    maker.undo()
    maker.draw((20 / 40, 22 / 40), (20 / 40, 36 / 40))
    assert abs(areas(maker.design())[RED] - (40 * 30 + 20 * 6)) < 1.5 * 50
    maker.see('//li//*[normalize-space()="Node moved"]')
    # Between two nodes of the upper edge there is none yet.
    maker.click('//label[normalize-space()="Corner"]')
    maker.draw((20 / 40, 0), (20 / 40, 5 / 40))
    made = maker.design()
    assert [m["form"] for m in made["recipe"]["arts"][0]["mends"]] == ["as-drawn", "as-drawn"]
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    maker.undo()
    maker.undo()
    maker.click('//label[normalize-space()="Takes it out"]')
    maker.draw((20 / 40, 22 / 40))
    made = maker.design()
    assert made["history"][-1]["label"] == "Took a node out"
    assert abs(areas(made)[RED] - 1200) < 1.5 * 50
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    maker.see('//li//*[normalize-space()="Node taken out"]')
    # Where there is none, that is said.
    maker.drag_mm([(left + 20, top + 10)])
    maker.see_text("There is no node here")


def test_a_film_a_line_an_opening_and_a_claim_are_drawn(maker: Maker, tmp_path: Path) -> None:
    left, top = kite(maker, tmp_path)
    maker.press("Draw area")
    maker.new_film("Of the film", GOLD, there=False)

    def put(*points: tuple[float, float]) -> None:
        for x, y in points:
            maker.drag_mm([(left + x, top + y)])

    put((8, 6), (32, 6), (32, 14))
    # Drawn away from where it was put down, a point makes a curve.
    maker.drag_mm([(left + 20, top + 18), (left + 14, top + 18)])
    put((8, 6))
    made = maker.built_when(lambda d: GOLD in areas(d), "no film was drawn")
    assert 180 < areas(made)[GOLD] < 24 * 12
    assert made["history"][-1]["label"] == "Mended: drawn area"
    put((5, 40), (35, 40), (35, 46))
    moves(maker.browser).send_keys(Keys.BACKSPACE, Keys.ENTER).perform()
    made = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["mends"]) == 2, "no line was drawn")
    step = made["recipe"]["arts"][0]["mends"][1]
    assert (step["closed"], len(step["path"])) == (False, 2)
    maker.click('//label[normalize-space()="Opening"]')
    put((10, 43), (30, 43), (20, 48))
    maker.press("Close the area")
    made = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["mends"]) == 3, "no opening was drawn")
    assert made["recipe"]["arts"][0]["mends"][2]["film"] is None
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    # A way round nothing of a region claims nothing, and says so; what was put down stays until it is taken back.
    maker.click('//label[normalize-space()="Claim"]')
    put((2, 2), (6, 2), (4, 4))
    maker.press("Close the area")
    maker.see_text("No region lies inside what was drawn")
    maker.press("Back a point")
    maker.see('//button[normalize-space()="Close the area"][@disabled]')
    for _ in range(3):
        maker.undo()
    maker.built_when(lambda d: d["recipe"]["arts"][0]["mends"] == [], "not undone")
    assert maker.complaints() == []


def test_another_file_is_drawn_to_its_place(maker: Maker, tmp_path: Path) -> None:
    kite(maker, tmp_path)
    maker.go_to("Art")
    other = tmp_path / "kite-again.svg"
    moved = KITE.replace("M0 30L20 22", "M0 30L20 24").replace("L20 22 0 30", "L20 24 0 30")
    other.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="50mm" viewBox="0 0 40 50">{moved}</svg>')
    maker.browser.find_element(By.XPATH, '//input[@aria-label="Replace the file by another"]').send_keys(str(other))
    laid = maker.see('//*[@role="application"][contains(@aria-label, "under the outlines")]')

    def middle() -> float:
        return float((maker.field("Middle, from left").get_attribute("value") or "0").split()[0])

    before = middle()
    wide = laid.size["width"]
    moves(maker.browser).drag_and_drop_by_offset(laid, round(wide / 4), 0).perform()

    maker.until(lambda: 8 < middle() - before < 12, "it was not drawn to another place")
    drawn = middle()
    laid.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
    maker.until(lambda: abs(middle() - drawn - 1) < 0.06, "it was not moved by a key")
    maker.press("Replace it")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["filename"] == "kite-again.svg", "not replaced")
    assert made["recipe"]["arts"][0]["place"]["x_mm"] > 8
