"""The jobs of the trade, each made by hand by what the screen says, its actions counted and bounded."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser import jobs_files
from tests.browser.counted import Counted, area


def test_a_cartoon_on_a_solid_dark_base(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    made = maker.file(jobs_files.cartoon(tmp_path))
    assert made["built"]["width_mm"] == pytest.approx(120, abs=0.05)
    maker.go_to("Stack")
    maker.open_film(maker.names("Stack")[-1])
    maker.press("Keep it solid under them")
    made = maker.built_when(lambda d: d["recipe"]["films"], "the base is not solid")
    base = made["built"]["layers"][0]
    assert base["pieces"] == 1
    assert base["area_mm2"] == pytest.approx(max(layer["area_mm2"] for layer in made["built"]["layers"]))
    within(6)


def test_four_picked_colours_and_a_shadow(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.six_colours(tmp_path))
    maker.see('//button[@role="tab"][@aria-selected="true"][normalize-space()="Colours"]')
    maker.press("Pick only some colours")
    for at in ((0.3, 0.235), (0.5, 0.33), (0.68, 0.26), (0.79, 0.33)):
        maker.drag_mm([maker.at(at[0], at[1])])
    maker.see_text("4 colours picked")
    maker.press("Done picking")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 4, "not just four films")
    picked = made["recipe"]["arts"][0]["separation"]["picked"]
    assert {layer["film"] for layer in made["built"]["layers"]} == set(picked)
    maker.go_to("Stack")
    maker.press("Make a shadow of the whole decal")
    maker.click('//div[@role="dialog"]//button[starts-with(normalize-space(), "Drop shadow")]')
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 5, "no shadow")
    assert made["recipe"]["films"][-1]["colour"] not in picked
    within(10)


def test_a_thin_script_welded_in_one_piece(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("Moonrise")
    maker.font("Kristi")
    made = maker.built_when(lambda d: any(f["code"] == "loose-word" for f in d["built"]["findings"]), "nothing told")
    dots = made["built"]["layers"][0]["pieces"]
    maker.press("Weld “Moonrise” in one piece")
    made = maker.built_when(lambda d: not d["built"]["findings"], "it is not welded")
    # The dot of the i is no loose letter.
    assert made["built"]["layers"][0]["pieces"] == 2 < dots
    within(10)


def test_a_motif_cut_into_two_lines(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("HILL\ntop")
    maker.shape("Star")
    maker.type_into("Across", "70mm")
    maker.relate("Cut in, a gap")
    made = maker.built_when(lambda d: any(j["kind"] == "gap" for j in d["built"]["joints"]), "no gap")
    assert made["built"]["max_thickness"] == 1
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    within(10)


def test_a_vector_motif_only_within_two_lines(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.press("Begin with lettering")
    made = maker.words("HILL\ntop")
    letters = area(made, "#1d2b53")
    maker.actions += 1
    maker.browser.find_element(By.CSS_SELECTOR, 'input[aria-label="Picture for the stack"]').send_keys(
        str(jobs_files.leaf(tmp_path))
    )
    maker.see('//section[@aria-label="How it lies on other art"]')
    whole = maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "no leaf")
    assert {layer["film"] for layer in whole["built"]["layers"][1:]} == {"#2f8f8b", "#fff4d6"}, "it does not lie on top"
    maker.relate("Only within: leaf.svg")
    made = maker.built_when(lambda d: d["recipe"]["arts"][1]["inside"], "it is not kept within")
    assert 0 < area(made, "#2f8f8b") < area(whole, "#2f8f8b")
    # Besides the letters there are only the laps under the motif.
    assert letters * 0.9999 <= sum(layer["area_mm2"] for layer in made["built"]["layers"]) < 1.05 * letters
    assert made["built"]["max_thickness"] == 2
    within(10)


def test_overlaid_words_without_a_crumb(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("Open evening")
    maker.press("Lettering")
    maker.see('//label[span[normalize-space()="Words"]]/textarea[normalize-space()="Words"]')
    made = maker.words("of the hill-top dome")
    assert len(made["built"]["layers"]) == 2
    maker.flush(stay=True)
    made = maker.design()
    low, high = made["built"]["layers"]
    assert high["film"] == made["recipe"]["arts"][1]["film"], "what is new does not lie on top"
    small = sum(bit["area_mm2"] < made["recipe"]["small_mm2"] for bit in low["small"])
    assert small > 0
    maker.press("Merge them")
    made = maker.built_when(
        lambda d: all(bit["area_mm2"] >= 0.5 for layer in d["built"]["layers"] for bit in layer["small"]),
        "crumbs are left",
    )
    assert "small-pieces" not in {finding["code"] for finding in made["built"]["findings"]}
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    within(8)


def test_a_colouring_page_in_five_films(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.colouring_page(tmp_path))
    maker.opens_as_line_art()
    maker.press("Claim regions")
    for row, column in [(r, c) for r in range(4) for c in range(5)]:
        if column == 0:
            maker.key(str(row + 2))
        at = maker.at((28 + 36 * column) / 200, (28 + 36 * row) / 200)
        before = maker.design()["revision"]
        maker.drag_mm([at])
        maker.built_when(lambda d, b=before: d["revision"] != b, "it was not claimed")  # type: ignore[misc]
    made = maker.design()
    assert made["built"]["arts"][0]["waiting"] == []
    assert len(made["built"]["layers"]) == 5
    within(30)


def test_line_art_is_one_click_from_flat_colours(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.colouring_page(tmp_path))
    maker.opens_as_line_art()
    maker.press("Treat as flat colours")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["kind"] == "picture", "not taken for flat colours")
    assert made["built"]["colours"]
    within(2)


def test_a_fused_outline_in_four_films(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.fused(tmp_path))
    maker.press("Claim regions")
    for key, at in (("2", (0.25, 0.235)), ("3", (0.7, 0.25)), ("4", (0.7, 0.4))):
        maker.key(key)
        before = maker.design()["revision"]
        maker.drag_mm([maker.at(*at)])
        maker.built_when(lambda d, b=before: d["revision"] != b, "it was not claimed")  # type: ignore[misc]
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 4, "not four films")
    assert made["built"]["wrong_area_ratio"] <= 1e-6
    within(15)


def test_an_odd_vector_file_at_its_true_width(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.odd_file(tmp_path))
    maker.go_to("Art")
    maker.type_into("Width", "190mm")
    made = maker.built_when(lambda d: abs(d["built"]["width_mm"] - 190) < 0.01, "it is not as wide as was asked for")
    box = made["built"]["arts"][0]["page"]
    assert box["right"] - box["left"] == pytest.approx(190 * 500 / 360, abs=0.01)
    maker.see_text("margins included")
    within(6)


def test_three_letters_nowhere_double(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("SKY")
    maker.flush()
    maker.type_into("Letter spacing", "-6mm")
    for letter, colour in (("K", "#f2b632"), ("Y", "#2f8f8b")):
        maker.press(f"Letter {letter}")
        maker.new_film("Film of the letters", colour)
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 3, "not three films")
    assert made["built"]["max_thickness"] == 1
    width = made["built"]["arts"][0]["letters"][0]["box"]
    maker.key(Keys.ARROW_RIGHT)
    moved = maker.built_when(lambda d: d["recipe"]["arts"][0]["letters"], "the letter did not move")
    assert moved["built"]["arts"][0]["letters"][0]["box"] == width, "the word was moved or scaled"
    assert moved["built"]["max_thickness"] == 1
    within(14)


def test_shadows_with_chosen_holes(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("BOOK")
    maker.font("Inter Black")
    maker.go_to("Stack")
    maker.make("Navy", "Outline shadow")
    maker.select("Holes", "filled where clicked")
    made = maker.built_when(lambda d: len(d["built"]["holes"]) >= 3, "no holes to choose")
    maker.click('//button[starts-with(normalize-space(), "Click holes")]')
    first, second = made["built"]["holes"][:2]
    maker.drag_mm([(first["x_mm"], first["y_mm"])])
    maker.built_when(lambda d: d["built"]["holes"][0]["filled"], "the hole was not filled")
    maker.drag_mm([(second["x_mm"], second["y_mm"])])
    made = maker.built_when(lambda d: d["built"]["holes"][1]["filled"], "the hole was not filled")
    box = made["built"]["box"]
    actions = maker.actions
    # Beside a hole nothing happens, and a filled one opens again.
    maker.drag_mm([((box["left"] + box["right"]) / 2, box["top"] - 2)])
    maker.drag_mm([(second["x_mm"], second["y_mm"])])
    made = maker.built_when(lambda d: not d["built"]["holes"][1]["filled"], "the hole did not open again")
    assert len(made["recipe"]["makings"][0]["chosen"]) == 1
    maker.actions = actions
    within(12)


def test_a_screenshot_with_its_word_redone_and_stitches(
    maker: Counted, within: Callable[[int], None], tmp_path: Path
) -> None:
    made = maker.file(jobs_files.poster(tmp_path))
    word = next(layer for layer in made["built"]["layers"] if layer["film"] == "#fff4d6")
    maker.fold_out("Mending")
    maker.press("Replace a film")
    maker.click('//button[starts-with(@aria-label, "Replace:")]')
    maker.click(f'(//div[@role="dialog"])[last()]//button[normalize-space()="{word["name"]}"]')
    maker.actions += 1
    maker.see('//input[@placeholder="The words it shows"]').send_keys("ORBIT", Keys.ENTER)
    near = maker.see('//ul[@aria-label="Fonts that come near"]/li[1]')
    assert "Roboto Slab" in near.text
    maker.click('//ul[@aria-label="Fonts that come near"]/li[1]/button')
    made = maker.built_when(lambda d: len(d["recipe"]["arts"]) == 2, "the word was not redone")
    # It stands on the old baseline, as large as it was.
    assert made["recipe"]["arts"][1]["place"]["y_mm"] == pytest.approx(
        made["built"]["arts"][0]["page"]["top"]
        + 0.56 * (made["built"]["arts"][0]["page"]["right"] - made["built"]["arts"][0]["page"]["left"]),
        abs=0.4,
    )
    nodes = {layer["film"]: layer["nodes"] for layer in made["built"]["layers"]}
    maker.go_to("Stack")
    maker.open_film("Navy")
    maker.press("Make a shadow or line of it")
    maker.click('//div[@role="dialog"]//button[starts-with(normalize-space(), "Stitch line")]')
    made = maker.built_when(lambda d: d["recipe"]["makings"], "no stitches")
    assert {layer["film"]: layer["nodes"] for layer in made["built"]["layers"] if layer["film"] in nodes} == nodes
    within(15)


def test_a_stencil_whose_inner_part_is_held(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    maker.file(jobs_files.ring(tmp_path))
    maker.click('//label[.//span[normalize-space()="Keep it as a film"]]')
    maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the white is no film")
    maker.press("Change Navy")
    maker.press("Drop this colour")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 1, "the dark was not dropped")
    assert made["built"]["layers"][0]["pieces"] == 2, "the inner part is not loose"
    maker.fold_out("Mending")
    maker.press("Bridge")
    maker.drag_mm([maker.at(0.35, 0.5), maker.at(0.15, 0.5)])
    maker.built_when(lambda d: d["built"]["layers"][0]["pieces"] == 1, "the inner part is not held")
    within(8)


def test_a_stencil_of_words_whose_inner_parts_are_held(maker: Counted, within: Callable[[int], None]) -> None:
    maker.press("Begin with lettering")
    maker.words("Bead")
    maker.press("Shape")
    maker.click('//div[@role="dialog"]//button[normalize-space()="Rectangle"]')
    maker.type_into("Drawn width", "160mm")
    maker.type_into("Drawn height", "70mm")
    maker.relate("A hole: “Bead” on rectangle")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 1, "the words are no hole")
    assert made["built"]["layers"][0]["pieces"] > 2, "no inner part is loose"
    maker.press("Hold them with bridges")
    maker.built_when(lambda d: d["built"]["layers"][0]["pieces"] == 1, "the inner parts are not held")
    within(10)


def test_files_of_a_design(maker: Counted, within: Callable[[int], None]) -> None:
    downloads: Path = maker.browser.downloads  # type: ignore[attr-defined]
    for old in downloads.glob("night-owl*.zip"):
        old.unlink()
    maker.open("/design/demo-sticker")
    maker.go_to("Cut")
    maker.fold_out("Download files")
    maker.click('//label[normalize-space()="PDF at true size"]/input')
    maker.press("Download as ZIP")
    maker.until(lambda: list(downloads.glob("night-owl*.zip")), "nothing was downloaded")
    with zipfile.ZipFile(next(downloads.glob("night-owl*.zip"))) as files:
        names = files.namelist()
        assembly = files.read("assembly.txt").decode()
        stack = files.read("stack.svg").decode()
    assert {name.rsplit(".", 1)[-1] for name in names if name.startswith("sheets/")} == {"svg", "dxf", "pdf"}
    built = maker.design()["built"]
    assert f"{built['width_mm']:.1f} mm × {built['height_mm']:.1f} mm" in assembly
    assert f'width="{built["width_mm"]:.4f}'[:12] in stack
    within(8)
