"""What the examples show, made by hand: lettering, motifs, shadows, openings and stitches, from the first click on."""

from __future__ import annotations

from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from bench.line_drawings import DRAWINGS, scan
from gladstack.recipe.model.fonts import SHIPPED, shipped_font
from tests.browser.conftest import Served
from tests.browser.hands import moves
from tests.browser.maker import Maker
from tests.recipe.vector_files import FUSED

EXAMPLES = Path(__file__).parents[2] / "gladstack" / "demo" / "examples"
GOLD, RED, TEAL = "#f2b632", "#c0392b", "#1f7a7a"


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Maker:
    maker = Maker(browser, served.address)
    maker.open("/")
    maker.browser.execute_script("localStorage.clear()")
    maker.browser.get_log("browser")
    return maker


def test_a_motif_is_knocked_out_of_two_lines_and_kept_inside_them(maker: Maker) -> None:
    maker.begin("HILL\ntop")
    maker.add_shape("Star")
    maker.new_film("Film", GOLD)
    maker.type_into("Across", "70mm")
    maker.select("Keep inside", "“HILL top”")
    maker.go_to("Stack")
    maker.joint("Joint of all films", "Gap", "1.2mm")
    made = maker.built_when(lambda d: d["recipe"]["joint"]["mm"] == 1.2, "the gap was not set")
    low, high = made["built"]["joints"][0]["lower"], made["built"]["joints"][0]["upper"]
    assert (made["built"]["layers"][low]["film"], made["built"]["layers"][high]["film"]) == ("#1d2b53", GOLD)
    assert made["built"]["joints"][0]["kind"] == "gap"
    assert made["built"]["max_thickness"] == 1
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    assert maker.complaints() == []


def test_a_word_lies_over_another_with_a_clear_margin(maker: Maker) -> None:
    maker.begin("OPEN")
    maker.font("Bebas Neue Bold")
    maker.press("Lettering")
    maker.see('//ul[@aria-label="Art on the stack"]//button[contains(., "Words")]')
    maker.write("Evening")
    maker.font("Lobster Two Bold")
    maker.new_film("Film", RED)
    maker.go_to("Stack")
    maker.joint("Joint of all films", "Gap", "1.5mm")
    made = maker.built_when(lambda d: d["recipe"]["joint"]["kind"] == "gap", "no gap")
    assert [layer["film"] for layer in made["built"]["layers"]] == ["#1d2b53", RED]
    assert made["built"]["max_thickness"] == 1


def test_lettering_with_two_outline_shadows_and_a_drop_shadow(maker: Maker) -> None:
    maker.begin("Moonrise\nat nine")
    maker.go_to("Stack")
    maker.make("Navy", "Drop shadow")
    maker.type_into("Length", "4mm")
    maker.make("Drop shadow", "Outline shadow")
    maker.make("Outline shadow", "Outline shadow")
    maker.see('//button[@draggable][@aria-expanded="true"][starts-with(@aria-label, "Outline shadow 2,")]')
    maker.select("Holes", "filled if small")
    maker.type_into("Smaller than", "30")
    maker.type_into("Distance", "3mm")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 4 and d["recipe"]["makings"][2]["mm"] == 3, "no shadows")
    assert [m["kind"] for m in made["recipe"]["makings"]] == ["drop-shadow", "outline-shadow", "outline-shadow"]
    assert maker.names("Stack") == ["Navy", "Drop shadow", "Outline shadow", "Outline shadow 2"]
    assert made["built"]["max_thickness"] == 4
    areas = [layer["area_mm2"] for layer in made["built"]["layers"]]
    maker.go_to("Art")
    maker.choose_art("Moonrise")
    maker.write("Moonrise\nat ten")
    after = [layer["area_mm2"] for layer in maker.design()["built"]["layers"]]
    assert all(a != b for a, b in zip(areas, after, strict=True)), "a shadow did not follow its word"


def test_overlapping_letters_of_three_films_are_nowhere_double(maker: Maker) -> None:
    maker.begin("STARS")
    maker.flush()
    maker.font("Inter Black")
    maker.type_into("Letter spacing", "-4mm")
    for letter, colour in (("T", GOLD), ("A", TEAL)):
        maker.press(f"Letter {letter}")
        maker.new_film("Film of the letters", colour)
    maker.press("Letter T")
    maker.type_into("Turned", "-7")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["letters"], "the letter was not turned")
    assert len(made["built"]["layers"]) == 3
    assert made["built"]["max_thickness"] == 1
    assert {j["kind"] for j in made["built"]["joints"]} == {"butt"}


def test_lettering_is_set_flush_into_a_shape_and_a_hole_goes_through_all(maker: Maker) -> None:
    maker.begin("Dome night")
    maker.flush()
    maker.add_shape("Ribbon")
    maker.new_film("Film", TEAL)
    maker.go_to("Stack")
    maker.see('//button[@draggable][starts-with(@aria-label, "Navy,")]').send_keys(Keys.ALT, Keys.ARROW_UP)
    made = maker.built_when(lambda d: d["built"]["layers"][-1]["film"] == "#1d2b53", "the words did not come to lie on top")
    assert made["built"]["max_thickness"] == 1
    assert [j["kind"] for j in made["built"]["joints"]] == ["butt"]
    whole = sum(layer["area_mm2"] for layer in made["built"]["layers"])
    maker.go_to("Art")
    maker.add_shape("Circle or ellipse")
    maker.click('//button[starts-with(@aria-label, "Film:")]')
    maker.press("A hole")
    made = maker.built_when(lambda d: d["recipe"]["arts"][-1]["film"] is None, "no opening")
    assert sum(layer["area_mm2"] for layer in made["built"]["layers"]) < whole
    maker.undo()
    made = maker.built_when(lambda d: d["recipe"]["arts"][-1]["film"] is not None, "not undone")


def test_a_badge_is_stitched_and_shown_on_a_shirt(maker: Maker) -> None:
    maker.begin("HELPERS")
    maker.click('//label[normalize-space()="Arched up"]')
    maker.type_into("Radius", "30mm")
    maker.add_shape("Circle or ellipse")
    maker.new_film("Film", RED)
    maker.go_to("Stack")
    maker.make("Red", "Stitch line")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 3, "no stitches")
    seam = next(layer for layer in made["built"]["layers"] if layer["film"] == "stitch-line-1")
    assert seam["pieces"] > 5
    maker.press("Ground: Light table")
    maker.click('//div[@role="dialog"]//button[normalize-space()="Shirt"]')
    maker.built_when(lambda d: d["recipe"]["ground"]["kind"] == "shirt", "no shirt")
    moves(maker.browser).send_keys(Keys.ESCAPE).perform()
    cloth = maker.pixel(0.06, 0.5)
    assert cloth != (251, 250, 247)


def test_what_is_told_is_shown_where_it_is_and_mended_at_a_click(maker: Maker) -> None:
    maker.begin("AVOCADO")
    maker.font("Lobster Two Bold")
    spacing = maker.field("Letter spacing")
    spacing.send_keys(Keys.CONTROL, "a")
    spacing.send_keys("-4mm", Keys.ENTER)
    maker.click('//label[normalize-space()="Weld"]/input')
    maker.built_when(lambda d: {"unwelded"} == {f["code"] for f in d["built"]["findings"]}, "nothing was told")
    maker.click('//button[normalize-space()="Exploded"]')
    maker.go_to("Cut")
    maker.press("Cut these films")
    maker.see('//*[@role="alertdialog"][contains(., "overlap and are not welded")]')
    maker.press("Not yet")
    maker.go_to("Proof")
    maker.click('//section[@aria-label="In what was brought in"]//button[contains(., "not welded")]')
    overlay = maker.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]")
    drawn = (
        "const c = arguments[0], d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data; let n = 0;"
        "for (let k = 0; k < d.length; k += 4) n += d[k] === 168 && d[k + 1] === 50 && d[k + 2] === 26; return n;"
    )
    maker.until(lambda: maker.browser.execute_script(drawn, overlay) > 500, "it was not ringed")
    maker.press("Weld the lettering")
    made = maker.built_when(lambda d: not d["built"]["findings"], "it is still told")
    assert made["recipe"]["arts"][0]["weld"]
    maker.until(lambda: "not welded" not in maker.browser.find_element(By.TAG_NAME, "main").text, "it is still shown")


def test_art_is_dragged_along_guides_and_letters_show_while_they_are_typed(maker: Maker) -> None:
    maker.begin("Open late")
    maker.add_shape("Heart")
    box = next(a for a in maker.design()["built"]["arts"] if a["name"] == "heart")["box"]
    canvas = maker.browser.find_element(By.TAG_NAME, "canvas")
    before = maker.design()["revision"]
    hand = moves(maker.browser).move_to_element(canvas).click_and_hold()
    hand.move_by_offset(40, 25).move_by_offset(40, 25).release().perform()
    made = maker.built_when(lambda d: d["revision"] != before, "the drag was not kept")
    moved = next(a for a in made["built"]["arts"] if a["name"] == "heart")["box"]
    assert moved["left"] > box["left"] + 3
    assert moved["right"] - moved["left"] == pytest.approx(box["right"] - box["left"], abs=1e-6)
    assert made["history"][-1]["label"] == "Moved heart"
    maker.choose_art("Open late")
    shown = maker.see_text("to cut").text
    area = maker.see('//label[span[normalize-space()="Words"]]/textarea')
    steps = len(maker.design()["history"])
    area.send_keys(" and later")
    maker.until(lambda: maker.see_text("to cut").text != shown, "the words were not shown while typed")
    kept = maker.built_when(lambda d: d["recipe"]["arts"][0]["text"] == "Open late and later", "the words were not kept")
    assert len(kept["history"]) == steps + 1, "a stroke was kept before typing came to rest"


def test_a_font_of_the_makers_own_joins_the_shelf(maker: Maker, tmp_path: Path) -> None:
    maker.begin("Hill")
    path = tmp_path / "own.otf"
    path.write_bytes(shipped_font(SHIPPED[9].key))
    maker.click('//button[starts-with(@aria-label, "Font:")]')
    maker.browser.find_element(By.CSS_SELECTOR, 'input[aria-label="Font file"]').send_keys(str(path))
    made = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["font"]) == 64, "the font was not taken")
    assert made["built"]["findings"] == []
    bad = tmp_path / "bad.ttf"
    bad.write_bytes(b"this is no font")
    moves(maker.browser).send_keys(Keys.ESCAPE).perform()
    maker.click('//button[starts-with(@aria-label, "Font:")]')
    maker.browser.find_element(By.CSS_SELECTOR, 'input[aria-label="Font file"]').send_keys(str(bad))
    maker.see_text("This is not a font file that can be read.")


def test_scaling_the_whole_design_asks_about_its_millimetres(maker: Maker) -> None:
    maker.begin("Hill")
    maker.go_to("Stack")
    maker.make("Navy", "Outline shadow")
    maker.go_to("Art")
    whole = maker.design()["built"]["width_mm"]
    maker.type_into("Width of the whole design", f"{2 * whole:.3f}mm")
    maker.see_text("keep those?")
    keep = maker.see('//button[normalize-space()="Keep them"]')
    at = keep.rect["y"]
    maker.see_text("at that size.")
    # What is told of that size comes later, and moves nothing.
    assert keep.rect["y"] == at
    maker.press("Keep them")
    made = maker.built_when(lambda d: d["built"]["width_mm"] > 1.5 * whole, "not scaled")
    assert made["recipe"]["makings"][0]["mm"] == 2
    maker.choose_art("Hill")
    width = made["recipe"]["arts"][0]["fit_width_mm"]
    # At rest it is told in tenths; all its digits are there to be edited.
    maker.field("Exact width").click()
    assert float(maker.field("Exact width").get_attribute("value").removesuffix(" mm")) == pytest.approx(width, abs=0.01)
    assert made["built"]["width_mm"] - 4 == pytest.approx(width, abs=0.05)
    assert made["built"]["width_mm"] == pytest.approx(2 * whole, abs=0.05)


def test_a_scanned_page_is_claimed_region_by_region(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "page.jpg"
    path.write_bytes(scan(DRAWINGS["window"], 700, bad=True))
    maker.bring(path)
    made = maker.opens_as_line_art()
    waiting = len(made["built"]["arts"][0]["waiting"])
    assert waiting > 16
    maker.see_text(f"{waiting} regions wait for a film.")
    maker.press("Claim regions")
    maker.new_film("Claim for", RED, there=False)
    maker.draw((0.2, 0.2))
    maker.draw((0.2, 0.4), (0.2, 0.6))
    made = maker.design()
    assert len(made["built"]["arts"][0]["waiting"]) == waiting - 3
    assert RED in [layer["film"] for layer in made["built"]["layers"]]
    maker.press("Next")
    maker.press("Claim it")
    maker.built_when(lambda d: len(d["built"]["arts"][0]["waiting"]) == waiting - 4, "the region was not claimed")
    maker.press("Undo the last of 4")
    maker.type_into("Ink darker than", "170")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["threshold"] == 170, "the threshold was not set")
    assert made["built"]["findings"] == []
    assert len(made["built"]["arts"][0]["waiting"]) == waiting - 3


def test_the_colouring_page_is_made_by_hand(maker: Maker) -> None:
    maker.bring(EXAMPLES / "colouring-page.jpg")
    maker.opens_as_line_art()
    maker.press("Claim regions")
    maker.new_film("Claim for", "#1d2b53", there=False)
    maker.draw((0.1, 0.4))
    maker.new_film("Claim for", GOLD, there=False)
    for at in ((0.34, 0.28), (0.18, 0.2), (0.8, 0.18), (0.66, 0.34)):
        maker.draw(at)
    maker.new_film("Claim for", "#2f8f8b", there=False)
    maker.draw((0.2, 0.74), (0.2, 0.78))
    maker.new_film("Claim for", "#1f5d4a", there=False)
    maker.draw((0.5, 0.92))
    maker.new_film("Claim for", "#e7e1d3", there=False)
    maker.click('//label[normalize-space()="Lasso"]')
    maker.draw((0.34, 0.33), (0.68, 0.33), (0.68, 0.84), (0.34, 0.84))
    made = maker.design()["built"]
    assert len(made["layers"]) == 6
    maker.click('//label[normalize-space()="Click"]')
    maker.become("left open: what lies below shows")
    maker.draw((0.55, 0.44))
    maker.become("a hole through everything")
    maker.draw((0.5, 0.57))
    art = maker.design()["built"]["arts"][0]
    assert {"open", "hole"} <= {claim["becomes"] for claim in art["claims"]}
    maker.see_text("Every enclosed region has been decided on.")
    maker.press("Show Navy")
    assert maker.until_pixel(0.5, 0.2) == (251, 250, 247)
    maker.see_text("Navy is hidden")
    maker.press("Show all")


def test_broken_lines_are_bridged_and_filled_by_hand(maker: Maker) -> None:
    maker.bring(EXAMPLES / "broken-lines.png")
    made = maker.opens_as_line_art()
    open_ = len(made["built"]["arts"][0]["waiting"])
    maker.fold_out("Mending")
    maker.press("Bridge")
    maker.draw((0.452, 0.17), (0.578, 0.242))
    made = maker.design()
    assert len(made["built"]["arts"][0]["waiting"]) == open_ + 1
    assert made["built"]["findings"] == []
    maker.press("Claim regions")
    maker.new_film("Claim for", GOLD, there=False)
    maker.draw((0.2, 0.5))
    gold = lambda d: next((la for la in d["built"]["layers"] if la["film"] == GOLD), None)  # noqa: E731
    assert gold(maker.design())["area_mm2"] > 2500
    maker.fold_out("Mending")
    maker.click('//input[@aria-label="Bridge, step 1, switched on"]')
    maker.see_text("1 claim no longer meets a region.")
    maker.click('//input[@aria-label="Bridge, step 1, switched on"]')
    maker.built_when(lambda d: gold(d) is not None, "the claim did not come back")
    maker.press("Brush")
    maker.draw((0.3, 0.76), (0.35, 0.76))
    made = maker.design()["recipe"]["arts"][0]
    assert [m["kind"] for m in made["mends"]] == ["bridge", "brush"]
    maker.press("Delete step 2")
    made = maker.built_when(lambda d: len(d["recipe"]["arts"][0]["mends"]) == 1, "the step was not taken away")
    maker.undo()
    maker.built_when(lambda d: len(d["recipe"]["arts"][0]["mends"]) == 2, "the step did not come back")


def test_a_film_is_replaced_by_lettering_by_hand(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "fused.svg"
    path.write_bytes(FUSED)
    maker.bring(path)
    maker.press("Claim regions")
    maker.new_film("Claim for", TEAL, there=False)
    maker.draw((0.75, 0.33))
    maker.fold_out("Mending")
    maker.press("Replace a film")
    maker.see('//input[@placeholder="The words it shows"]').send_keys("Dome", Keys.ENTER)
    maker.click('//ul[@aria-label="Fonts that come near"]/li[1]/button')
    made = maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "the film was not replaced")
    teal = next(layer for layer in made["built"]["layers"] if layer["film"] == TEAL)
    assert made["recipe"]["arts"][0]["mends"][0]["kind"] == "let-go"
    assert made["built"]["arts"][1]["box"]["right"] - made["built"]["arts"][1]["box"]["left"] == pytest.approx(10, abs=0.1)
    assert teal["pieces"] >= 4


def test_ten_thousand_nodes_become_few_by_hand(maker: Maker) -> None:
    maker.bring(EXAMPLES / "ten-thousand-nodes.svg")
    maker.go_to("Art")
    before = maker.design()["built"]["layers"][0]
    assert before["nodes"] > 9900
    maker.fold_out("Nodes")
    maker.type_into("Edges may move by", "0.1mm")
    made = maker.built_when(lambda d: d["built"]["layers"][0]["nodes"] < 600, "no fewer nodes")
    saving = made["built"]["arts"][0]["saving"]
    assert saving["nodes_after"] == made["built"]["layers"][0]["nodes"]
    assert saving["deviation_mm"] <= 0.1
    maker.see_text(f"→ {saving['nodes_after']}")
    maker.press("Nodes")
    maker.select("Where the original is shown", "beside")
    maker.press("Loupe")
    assert maker.complaints() == []


def test_a_vector_file_keeps_its_size_and_its_outline_opens(maker: Maker, tmp_path: Path) -> None:
    path = tmp_path / "fused.svg"
    path.write_bytes(FUSED)
    maker.open("/")
    maker.see_text("Choose a file")
    maker.choose_picture(str(path))
    maker.go_to("Art")
    maker.see_text("60.0 mm × 40.0 mm")
    maker.flush()
    maker.go_to("Colours")
    maker.press("Claim regions")
    maker.new_film("Claim for", TEAL, there=False)
    maker.draw((0.2, 0.3))
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the region was not claimed")
    assert made["built"]["layers"][-1]["film"] == TEAL
    assert made["built"]["max_thickness"] == 1
