"""What a picture has and no film shows: told, shown and brought back; white kept by one click; a marker drawing."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PIL import Image

from bench.kinds import marker
from bench.outlined import saved
from bench.scenes import Stroke, cartoon, text_paths
from tests.browser.counted import Counted

BLUE = "#0077cc"


def cartoon_with_a_word() -> bytes:
    """A house with outlines and one short word in a colour of its own, as JPEG."""
    scene = cartoon(7)
    letters = tuple(Stroke(path, BLUE) for path, _ in text_paths("inter-black", "LED", 8, 20, 490))
    return saved(replace(scene, background="#ffffff", strokes=(*scene.strokes, *letters)), 75)


def lost(made: Any) -> list[Any]:
    return [f for f in made["built"]["findings"] if f["code"] == "lost"]


def test_a_lost_word_is_told_shown_and_brought_back(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    path = tmp_path / "house.jpg"
    path.write_bytes(cartoon_with_a_word())
    made = maker.file(path)
    (told,) = lost(made)
    assert told["severity"] == "mind"
    films = len(made["built"]["layers"])
    maker.go_to("Colours")
    maker.see_text("Words or lines here are not in any film")
    maker.press("Differences")
    maker.press("Show where")
    maker.press(told["fixes"][0]["label"])
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == films + 1, "no film came of it")
    assert lost(made) == []
    (word,) = [x for x in made["built"]["layers"] if x["film"] == told["fixes"][0]["edit"]["colour"]]
    assert word["area_mm2"] > 0.5
    maker.press("Finished")
    maker.undo()
    made = maker.built_when(lambda d: len(d["built"]["layers"]) == films, "it was not undone")
    assert len(lost(made)) == 1
    within(7)


def test_enclosed_white_is_kept_and_dropped_by_one_click(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "ring.png"
    picture = Image.new("RGB", (400, 400), "#ffffff")
    y_x = picture.load()
    assert y_x is not None
    for y in range(400):
        for x in range(400):
            if 90**2 <= (x - 200) ** 2 + (y - 200) ** 2 <= 160**2:
                y_x[x, y] = (29, 43, 83)
    picture.save(path)
    made = maker.file(path)
    assert len(made["built"]["layers"]) == 2
    maker.go_to("Colours")
    maker.see_text("are kept as a film")
    maker.press("Drop them too")
    maker.built_when(lambda d: len(d["built"]["layers"]) == 1, "the white was not dropped")
    maker.press("Keep them as a film")
    maker.built_when(lambda d: len(d["built"]["layers"]) == 2, "the white was not kept")


def test_a_marker_drawing_opens_as_lines_with_the_other_way_beside(maker: Counted, tmp_path: Path) -> None:
    path = tmp_path / "marker.png"
    Image.fromarray(marker(1)).save(path)
    made = maker.file(path)
    assert [a["kind"] for a in made["recipe"]["arts"]] == ["line-art"]
    assert len(made["built"]["layers"]) == 1
    maker.go_to("Colours")
    maker.press("Taken for: lines on paper")
    maker.see('//button[@aria-pressed="true"][contains(., "lines on paper")]//img')
    maker.click('//button[@aria-pressed="false"][contains(., "flat colours")]')
    maker.built_when(lambda d: d["recipe"]["arts"][0]["kind"] == "picture", "it is still taken for lines")
