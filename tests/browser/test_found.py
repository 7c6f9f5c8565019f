"""Pictures as they are found, dropped by hand: what was put right is told in one line each, and each line undone."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PIL import Image, ImageDraw
from selenium.webdriver.common.keys import Keys

from bench.clip_art import clip_art
from bench.found import CASES
from tests.browser.counted import Counted
from tests.pictures import encode, render
from tests.recipe.vector_files import rainbow

BY_NAME = {d.name: d for d in clip_art()}


def kinds(made: Any) -> list[str]:
    return [d["kind"] for d in made["built"]["arts"][0]["done"]]


@pytest.mark.parametrize(
    ("case", "name", "kind", "line", "again"),
    [
        ("soft shadow", "badge-1", "shadow", "Soft shadow taken off.", "Take the shadow off"),
        ("dither web", "face-1", "dither", "Dither undone.", "Undo the dither"),
        ("graded ground", "bird-2", "grade", "Background with a grade dropped.", "Drop the background"),
        ("white rim", "badge-1", "rims", "Thin rims given to their neighbours.", "Give them to their neighbours"),
    ],
)
def test_what_was_put_right_is_told_and_undone(
    case: str, name: str, kind: str, line: str, again: str, maker: Counted, tmp_path: Path
) -> None:
    path = tmp_path / f"{name}.{'gif' if 'dither' in case else 'png'}"
    path.write_bytes(CASES[case](BY_NAME[name]))
    made = maker.file(path)
    assert kinds(made) == [kind]
    maker.go_to("Colours")
    maker.see_text(line)
    maker.press("Leave it as it came")
    left = maker.built_when(lambda d: kind not in kinds(d), "it was not left")
    assert left["recipe"]["arts"][0]["separation"]["as_is"] == [kind]
    maker.press(again)
    back = maker.built_when(lambda d: kinds(d) == [kind], "it was not put right again")
    assert back["built"]["colours"] == made["built"]["colours"]


def test_a_soft_shadow_becomes_one_of_film(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    path = tmp_path / "badge.png"
    path.write_bytes(CASES["soft shadow"](BY_NAME["badge-1"]))
    made = maker.file(path)
    films = len(made["built"]["layers"])
    maker.go_to("Colours")
    maker.press("Cut a shadow instead")
    made = maker.built_when(lambda d: d["recipe"]["makings"], "no shadow was made")
    assert len(made["built"]["layers"]) == films + 1
    shadow = made["recipe"]["makings"][0]
    # It falls where the soft one fell: down to the right.
    assert shadow["kind"] == "drop-shadow"
    assert 10 < shadow["angle_deg"] < 80
    assert 0.5 < shadow["length_mm"] < 4
    within(5)


def test_graded_fills_are_one_film_each_or_bands(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "sun.png"
    path.write_bytes(graded_fill())
    made = maker.file(path)
    assert kinds(made) == ["fills"]
    assert len(made["built"]["layers"]) == 2
    maker.go_to("Colours")
    maker.click('//label[normalize-space()="3 bands"]')
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 4, "no bands")
    assert made["recipe"]["arts"][0]["separation"]["bands"] == 3
    maker.see_text("1 graded fill made 3 bands.")


def test_the_colours_of_a_file_come_down_to_three_films(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "rainbow.svg"
    path.write_bytes(rainbow(30))
    made = maker.file(path)
    assert len(made["built"]["layers"]) == 30
    maker.go_to("Colours")
    maker.see_text("This file has 30 colours, each a film of its own.")
    maker.press("Make the nearest one, 24 in all")
    maker.built_when(lambda d: len(d["built"]["layers"]) == 24, "not 24 films")
    maker.see('//*[@role="slider"]').send_keys(Keys.HOME)
    maker.built_when(lambda d: len(d["built"]["layers"]) == 3, "not 3 films")
    maker.see('//select[starts-with(@aria-label, "What becomes of")]/option[@value="own"][.="one film with the nearest"]/..')
    maker.see('//*[@role="slider"]').send_keys(Keys.END)
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 30, "not as drawn")
    assert made["recipe"]["arts"][0]["count"] is None


def graded_fill() -> bytes:
    """A disc that goes from yellow to red beside a blue bar, on white."""
    return encode(
        render(
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><defs><linearGradient id="g" x2="0" y2="1">'
            '<stop stop-color="#ffd84a"/><stop offset="1" stop-color="#d8402a"/></linearGradient></defs>'
            '<rect width="100" height="100" fill="#ffffff"/><circle cx="45" cy="45" r="30" fill="url(#g)"/>'
            '<rect x="20" y="82" width="60" height="8" fill="#1d2b53"/></svg>',
            400,
        ).convert("RGB")
    )


def test_a_whole_thin_line_is_offered_to_its_neighbours(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "ringed.png"
    picture = Image.new("RGB", (800, 800), "#ffffff")
    draw = ImageDraw.Draw(picture)
    draw.ellipse((100, 100, 700, 700), fill="#e8b530")
    draw.ellipse((98, 98, 702, 702), outline="#5d4a86", width=3)
    draw.ellipse((240, 240, 560, 560), fill="#1d2b53")
    picture.save(path)
    made = maker.file(path)
    assert len(made["built"]["layers"]) == 3
    maker.go_to("Colours")
    maker.see_text("runs between other films")
    maker.press("Give it to its neighbours")
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the line did not go")
    maker.see_text("Thin rims given to their neighbours.")
    maker.press("Leave it as it came")
    maker.built_when(lambda d: len(d["built"]["layers"]) == 3, "the line did not come back")
