"""Another picture of the motif takes the place of the first, and what was claimed in that stays claimed."""

from __future__ import annotations

from pathlib import Path

from PIL import Image, ImageDraw
from selenium.webdriver.common.by import By

from tests.browser.maker import Maker

TEAL, NIGHT, GOLD, PAPER = "#1f7a7a", "#1d2b53", "#f2b632", "#f4f0e4"
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
    maker.see('//div[@role="dialog"]//img[contains(@alt, "under the outlines")]')
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
    maker.press("Leave it")
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


def test_a_node_is_taken_out_of_an_edge(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "kite.svg"
    kite = '<path fill="#c0392b" d="M0 0H40V30L20 22 0 30z"/><path fill="#1d2b53" d="M0 30L20 22 40 30V50H0z"/>'
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="50mm" viewBox="0 0 40 50">{kite}</svg>')
    maker.bring(path)
    maker.go_to("Colours")
    maker.fold_out("Mending")
    maker.press("Take out node")
    # The hinge that both films have in common.
    maker.draw((20 / 40, 22 / 40))
    made = maker.design()
    assert made["history"][-1]["label"] == "Took a node out"
    areas = {layer["film"]: layer["area_mm2"] for layer in made["built"]["layers"]}
    assert abs(areas["#c0392b"] - 1200) < 1.5 * 50
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    maker.see('//li//*[normalize-space()="Node taken out"]')
    # Where there is none, that is said.
    maker.drag_mm([(made["built"]["box"]["left"] + 20, made["built"]["box"]["top"] + 10)])
    maker.see_text("There is no node here")
