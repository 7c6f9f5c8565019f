"""A design on sheets of a given size: where each film lies, what does not fit, and the files."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
import shapely
from pydantic import ValidationError
from shapely import affinity

from gladstack.core.base.errors import RecipeError
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.files.design_files import design_files
from gladstack.shop.plan.given_sheets import GivenSheet, plan_on_sheets
from gladstack.stages.engine import GROUPS
from tests.readers import svg_lines

SHEET = GivenSheet()
LETTERS = {"kind": "lettering", "id": "words", "text": "Fog", "font": "inter-black", "height_mm": 20, "film": "#1d2b53"}
BAR = {
    "kind": "shape", "id": "bar", "film": "#f2b632", "form": {"form": "rectangle", "width_mm": 90, "height_mm": 40},
}  # fmt: skip


def made(*arts: dict[str, Any], **more: Any) -> Built:
    recipe = {"name": "Fog & dome", "arts": arts or (BAR, LETTERS), "joint": {"kind": "full", "mm": 0.4}, **more}
    return build(Recipe.model_validate(recipe), Assets(picture=lambda key: b""))


def svg_shape(data: bytes) -> tuple[Any, tuple[float, float]]:
    """What is cut on a sheet, marks aside, by the even-odd rule; and the sheet's size."""
    text = data.decode()
    parts = text.partition('<g id="parts"')[2].partition("</g>")[0]
    shape: Any = shapely.MultiPolygon()
    for ring in svg_lines(parts.encode()):
        shape = shape.symmetric_difference(shapely.Polygon(ring))
    size = re.search(r'width="([\d.]+)mm" height="([\d.]+)mm"', text)
    assert size is not None
    return shape, (float(size[1]), float(size[2]))


def files(built: Built, sheet: GivenSheet = SHEET, *, marks: bool = False) -> dict[str, bytes]:
    return design_files(built, plan_on_sheets(built, sheet, marks=marks), ())


@pytest.mark.parametrize("marks", [False, True])
@pytest.mark.parametrize("method", ["adhesive", "heat-transfer"])
def test_each_sheet_holds_its_film_as_it_is_cut(method: str, marks: bool) -> None:
    built = made(method=method)
    found = files(built, marks=marks)
    shifts = set()
    for layer in built.layers:
        shape, size = svg_shape(found[f"sheets/{layer.slug}.svg"])
        assert size == pytest.approx((305, 305), abs=1e-3)
        if method == "heat-transfer":
            shape = affinity.scale(shape, -1, 1, origin=(0, 0))
        left, top, _, _ = shape.bounds
        own = layer.cut.bounds
        shifts.add((round(left - own[0], 3), round(top - own[1], 3)))
        back = affinity.translate(shape, own[0] - left, own[1] - top)
        assert back.symmetric_difference(layer.cut).area < 1e-3 * layer.cut.area
    # With marks all films lie at the same place; without, each lies in its corner.
    assert len(shifts) == (1 if marks else len(built.layers))


def test_without_marks_each_film_lies_in_the_corner_of_its_sheet() -> None:
    built = made()
    for layer in built.layers:
        shape, _ = svg_shape(files(built)[f"sheets/{layer.slug}.svg"])
        assert shape.bounds[:2] == pytest.approx((6, 6), abs=0.01)


def test_marks_are_the_same_on_every_sheet() -> None:
    found = files(made(), marks=True)
    marks = {
        tuple(re.findall(r'<path d="([^"]+)"', data.decode().partition('<g id="marks"')[2].partition("</g>")[0]))
        for path, data in found.items()
        if path.startswith("sheets/")
    }
    assert [len(m) for m in marks] == [3]
    assert "Registration marks" in found["assembly.txt"].decode()


def test_what_does_not_fit_is_laid_whole_and_says_by_how_much() -> None:
    built = made()
    planned = plan_on_sheets(built, GivenSheet(width_mm=60, height_mm=300, margin_mm=5))
    (told,) = [f for f in proof_of_plan(planned, {"own": built}) if f.code == "off-sheet"]
    assert "40.0 mm too wide" in told.text
    assert "other way round" in told.helps
    assert told.about == "#f2b632"
    rows = json.loads(design_files(built, planned, ())["stack.json"])["layers"]
    assert [row["fits"] for row in rows] == [False, True]
    shape, size = svg_shape(design_files(built, planned, ())[rows[0]["sheet"]])
    assert shape.bounds == pytest.approx((5, 5, 95, 45), abs=0.01)
    assert size == pytest.approx((100, 300), abs=1e-3)


def test_margins_that_leave_nothing_are_refused() -> None:
    with pytest.raises(ValidationError, match="leave nothing"):
        GivenSheet(width_mm=50, height_mm=50, margin_mm=25)


def test_the_figures_for_other_programs_agree_with_the_geometry() -> None:
    built = made()
    told = json.loads(files(built)["stack.json"])
    for layer, row in zip(built.layers, told["layers"], strict=True):
        assert row["area_mm2"] == pytest.approx(layer.cut.area, abs=1e-3)
        assert row["cut_length_mm"] == pytest.approx(layer.cut.length, abs=1e-2)
    assert told["max_thickness"] == most_films(built) == 2
    assert told["wrong_area_ratio"] <= 1e-6
    assert set(told["seconds"]) == set(GROUPS)


def test_only_sheets_that_there_are_are_named_and_the_same_design_gives_the_same_files() -> None:
    under = {**BAR, "id": "under", "film": "#14100c"}
    built = made(under, BAR, LETTERS, joint={"kind": "butt"})
    found = files(built)
    assert found == files(built)
    named = [row["sheet"] for row in json.loads(found["stack.json"])["layers"]]
    assert None in named
    assert {n for n in named if n} == {p for p in found if p.startswith("sheets/")}


def test_what_is_pressed_is_told_as_that() -> None:
    text = files(made(method="heat-transfer"))["assembly.txt"].decode()
    assert text.startswith("Fog & dome\n")
    assert "Press, bottom film first" in text


def test_nothing_left_to_cut_is_refused() -> None:
    built = made(BAR, films=[{"film": "#f2b632", "left_out": True}])
    with pytest.raises(RecipeError, match="Nothing is left"):
        plan_on_sheets(built, SHEET)


def test_a_film_of_its_own_extent_is_never_turned_against_its_grain() -> None:
    tall = {**BAR, "form": {"form": "rectangle", "width_mm": 250, "height_mm": 40}}
    planned = plan_on_sheets(made(tall), GivenSheet(width_mm=100, height_mm=290))
    (part,) = planned.sheets[0].parts
    assert part.matrix[:4] == (1.0, 0.0, 0.0, 1.0)
    assert shapely.box(0, 0, 262, 290).contains(part.shape)
