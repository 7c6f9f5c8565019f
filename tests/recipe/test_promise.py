"""The product's central promises: what is remembered never changes what is built, and nothing depends on where it lies."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from gladstack.core.base.errors import RecipeError
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.plan.given_sheets import GivenSheet, plan_on_sheets
from gladstack.stages.memo import Memo
from tests.examples import examples
from tests.pictures import picture_of

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
RED, NAVY, GOLD = "#c0392b", "#1d2b53", "#f2b632"


@lru_cache(maxsize=1)
def picture() -> bytes:
    return picture_of("targets", 120)


ASSETS = Assets(picture=lambda key: picture())
SHAPES = [
    {"kind": "shape", "id": "star", "film": GOLD, "form": {"form": "star", "across_mm": 30}},
    {"kind": "shape", "id": "ring", "film": RED, "form": {"form": "ring"}, "place": {"x_mm": 8, "turn_deg": 20}},
    {"kind": "lettering", "id": "words", "text": "8 to 11", "font": "inter-black", "height_mm": 9, "film": NAVY},
]
TURNED = [
    {"kind": "shape", "id": "star", "film": GOLD, "form": {"form": "star", "across_mm": 30}},
    {
        "kind": "lettering", "id": "words", "text": "Fi7", "font": "inter-black", "height_mm": 12, "film": NAVY,
        "place": {"x_mm": 4, "y_mm": -3, "turn_deg": 20},
    },
    {
        "kind": "lettering", "id": "hole", "text": "P", "font": "inter-black", "height_mm": 7, "film": None, "opens": [GOLD],
        "margin_mm": 0.5, "place": {"x_mm": -9, "y_mm": 6, "turn_deg": -35, "mirrored": True},
    },
]  # fmt: skip
"""Art that looks different when it is turned or mirrored, with an opening that has a margin."""
MADE = [
    {"kind": "outline-shadow", "id": "near", "film": RED, "of": [NAVY], "mm": 1.2, "holes": "fill-small", "small_mm2": 3.0},
    {"kind": "drop-shadow", "id": "fall", "film": "#2f8f8b", "of": [NAVY], "angle_deg": 30, "length_mm": 2.0},
    {"kind": "stitch-line", "id": "seam", "film": "#fff4d6", "of": [GOLD], "mm": -1.5, "dash_mm": 2.0, "gap_mm": 1.5},
]
START = Recipe.model_validate(
    {
        "name": "Promise",
        "arts": [{"kind": "picture", "id": "picture", "picture": "a" * 64, "width_mm": 40}, *SHAPES],
        "joint": {"kind": "lap", "mm": 0.4},
    }
)
LENGTH = st.sampled_from([0.2, 0.5, 1.0])
FILM = st.sampled_from([RED, NAVY, GOLD])
RULE = st.builds(lambda kind, mm: {"kind": kind, "mm": mm}, st.sampled_from(["butt", "lap", "gap", "full"]), LENGTH)
SHADOW = {"kind": "outline-shadow", "film": "new", "mm": 1.5}
EDITS = st.one_of(
    st.builds(lambda rule: {"kind": "set-joint", "rule": rule}, RULE),
    st.builds(lambda film, rule: {"kind": "set-film-joint", "film": film, "rule": rule}, FILM, RULE),
    st.builds(lambda a, b, rule: {"kind": "set-pair-joint", "a": a, "b": b, "rule": rule}, FILM, FILM, RULE),
    st.builds(lambda film, mm: {"kind": "thicken-film", "film": film, "mm": mm}, FILM, LENGTH),
    st.builds(lambda film, out: {"kind": "leave-out", "film": film, "left_out": out}, FILM, st.booleans()),
    st.builds(lambda order: {"kind": "order-films", "order": order}, st.permutations([RED, NAVY, GOLD])),
    st.builds(lambda of: {"kind": "add-making", "making": {**SHADOW, "of": [of]}, "colour": "#25231e"}, FILM),
    st.builds(lambda art: {"kind": "copy-art", "art": art}, st.sampled_from(["star", "words"])),
    st.builds(lambda art: {"kind": "remove-art", "art": art}, st.sampled_from(["star", "ring", "words"])),
    st.builds(lambda n: {"kind": "count-colours", "count": n}, st.sampled_from([None, 3, 5])),
    st.builds(lambda mm: {"kind": "resize", "width_mm": mm}, st.sampled_from([30, 40])),
    st.builds(lambda turn: {"kind": "turn-design", "turn_deg": turn}, st.sampled_from([15, 90])),
    st.builds(
        lambda x, film: {"kind": "claim-regions", "art": "picture", "pins": [{"x": x, "y": x, "film": film}]},
        st.sampled_from([0.2, 0.5]), FILM,
    ),
    st.builds(lambda unit: {"kind": "show-unit", "unit": unit}, st.sampled_from(["mm", "in"])),
)  # fmt: skip


def told(built: Built) -> Any:
    """All that is built, but how long it took."""
    layers = [
        (x.film, x.colour, x.name, x.cut.wkb, x.shape.wkb, [c.pieces.tobytes() for c in x.outline.rings])
        for x in built.layers
    ]
    laid = plan_on_sheets(built, GivenSheet()) if any(not x.cut.is_empty for x in built.layers) else None
    sheets = [(s.file, s.times, [p.matrix for p in s.parts]) for s in laid.sheets] if laid else []
    figures = (built.box, built.frame, built.proposed_order, wrong_area_ratio(built), most_films(built))
    return layers, figures, built.joints, proof_of(built), built.left_out, sheets


@settings(max_examples=examples(12))
@given(st.lists(EDITS, min_size=1, max_size=6))
def test_after_any_run_of_edits_a_shared_memo_gives_what_a_fresh_build_gives(run: list[dict[str, Any]]) -> None:
    memo, recipe = Memo(), START
    build(recipe, ASSETS, memo)
    for data in run:
        try:
            recipe = apply_edit(recipe, EDIT.validate_python(data))
        except RecipeError:
            continue
        build(recipe, ASSETS, memo)
    assert told(build(recipe, ASSETS, memo)) == told(build(recipe, ASSETS))


def areas(built: Built) -> dict[str, float]:
    return {layer.film: layer.cut.area for layer in built.layers}


def seen(built: Built) -> list[tuple[str, shapely.Geometry]]:
    """What is seen of each film."""
    cuts = [layer.cut for layer in built.layers]
    above = [shapely.union_all(cuts[k + 1 :], grid_size=1e-6) for k in range(len(cuts))]
    return [(x.film, shapely.difference(x.cut, over, grid_size=1e-6)) for x, over in zip(built.layers, above, strict=True)]


def joined(arts: list[dict[str, Any]], rule: dict[str, Any], **more: Any) -> Recipe:
    return Recipe.model_validate({"name": "Lies", "arts": arts, "joint": rule, **more})


@settings(max_examples=examples(25))
@given(RULE, st.floats(-180, 180), st.booleans())
def test_turning_and_mirroring_commute_with_the_build(rule: dict[str, Any], turn: float, mirror: bool) -> None:
    """What is seen of a turned design is what is seen of the design, turned, to what flattening allows."""
    plain = joined(TURNED, rule, makings=MADE[:2])
    moved = apply_edit(plain, EDIT.validate_python({"kind": "turn-design", "turn_deg": turn, "mirror": mirror}))
    before, after = build(plain, ASSETS), build(moved, ASSETS)
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    for (film, old), (same, new) in zip(seen(before), seen(after), strict=True):
        assert film == same
        flipped = shapely.transform(old, lambda p: p * ([-1, 1] if mirror else [1, 1]))
        wanted = shapely.transform(flipped, lambda p: p @ [[cos, sin], [-sin, cos]])
        wrong = shapely.symmetric_difference(wanted.buffer(0), new.buffer(0), grid_size=1e-6)
        assert wrong.area < 0.01 * old.length


@settings(max_examples=examples(25))
@given(RULE, st.floats(0.5, 3), st.sampled_from([3.0, 9.0]))
def test_scaling_commutes_with_the_build(rule: dict[str, Any], factor: float, below: float) -> None:
    # The dot of the letter, 5 mm2 or so, is a small piece: at any size, or at none.
    small = [{"film": NAVY, "small": {"below_mm2": below, "how": "drop"}}]
    plain = joined(TURNED, rule, makings=MADE, films=small)
    data = {"kind": "scale-design", "factor": factor, "lengths": "scale"}
    larger = build(apply_edit(plain, EDIT.validate_python(data)), ASSETS)
    for film, area in areas(build(plain, ASSETS)).items():
        assert areas(larger)[film] == pytest.approx(area * factor**2, rel=6e-3)
