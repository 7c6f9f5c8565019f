"""What the maker means: sizes are those of the films, pieces those of the files, picks stay, art lies as was said."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter
from shapely import MultiPolygon, Polygon

from gladstack.core.films.bits import closed, gaps_within
from gladstack.core.geometry.rings import fill
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.alike import baseline_of, words_like
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.build.fitted import fitted
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.files.job_files import stack_file
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.examples import examples
from tests.pictures import picture_of
from tests.readers import svg_lines
from tests.recipe.mendings import FILMS, SPOT, steps
from tests.recipe.mendings import built as mended_picture
from tests.recipe.stacks import GOLD, NAVY, RED, built, check_invariants, form, stacks, words

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
MEMO = Memo()
ASSETS = Assets(picture=lambda digest: picture_of("moon-owl", 300))
FONTS = ("inter-black", "roboto-slab", "lobster-two", "bebas-neue", "averia-serif", "cherry-bomb", "comic-neue")


def after(recipe: Recipe, **edit: Any) -> Recipe:
    return apply_edit(recipe, EDIT.validate_python(edit))


def made(recipe: Recipe) -> Built:
    return build(recipe, ASSETS, MEMO)


def layer_of(design: Built, film: str) -> BuiltLayer:
    return next(layer for layer in design.layers if layer.film == film)


def written_rings(design: Built) -> list[list[Polygon]]:
    """The contours of a written decal, layer by layer, as an independent reader finds them."""
    groups = re.findall(r"<g id=.*?</g>", stack_file(design), re.S)
    return [[Polygon(line) for line in svg_lines(group.encode())] for group in groups]


def pieces_in(rings: list[Polygon]) -> int:
    """How many pieces fall apart when contours are cut: those within an even number of larger ones begin a piece."""
    whole = [shapely.make_valid(ring) for ring in rings]
    at = [shapely.point_on_surface(ring) for ring in whole]
    depth = [
        sum(other.area > ring.area and shapely.contains(other, spot) for other in whole)
        for ring, spot in zip(whole, at, strict=True)
    ]
    return sum(d % 2 == 0 for d in depth)


@given(stacks())
@settings(max_examples=examples(25))
def test_told_sizes_are_the_films_extent_and_told_pieces_those_of_the_file(data: dict[str, Any]) -> None:
    design = built(data)
    cut = [layer for layer in design.layers if not layer.cut.is_empty]
    if not cut:
        return
    written = written_rings(design)
    ends = np.array([ring.bounds for rings in written for ring in rings])
    drawn = ends[:, 2:].max(axis=0) - ends[:, :2].min(axis=0)
    assert tuple(drawn) == pytest.approx((design.width_mm, design.height_mm), abs=0.01)
    assert [pieces_in(rings) for rings in written] == [len(layer.outline.parts) for layer in cut]
    # What comes to nothing on the grid that is written on is told as a piece, and is in no file.
    for layer in cut:
        assert len(layer.outline.parts) <= len(layer.cut.geoms)
        assert len(layer.outline.parts) >= sum(p.area > 1e-3 for p in layer.cut.geoms)


def test_a_picture_brought_in_is_as_wide_as_what_is_cut_of_it() -> None:
    art = {"kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 100.0}
    recipe = Recipe.model_validate({"name": "Owl", "arts": [art]})
    narrow = made(recipe)
    assert narrow.width_mm < 99
    wide = made(fitted(recipe, 100.0, ASSETS, MEMO))
    assert wide.width_mm == pytest.approx(100.0, abs=0.05)
    assert wide.box[2] - wide.box[0] > 101


def test_shadows_and_thickening_are_told_apart_from_the_art() -> None:
    shadow = {"id": "s", "film": "s", "of": ["words"], "kind": "outline-shadow", "mm": 3}
    films = [{"film": "s", "colour": "#101010"}]
    art = words("HILL", NAVY, fit_width_mm=60)
    design = built({"arts": [art], "makings": [shadow], "films": films})
    assert design.plain[2] - design.plain[0] == pytest.approx(60, abs=0.01)
    assert design.width_mm == pytest.approx(66, abs=0.02)
    thick = built({"arts": [art], "films": [{"film": NAVY, "thicken_mm": 0.3}]})
    assert thick.width_mm == pytest.approx(60.6, abs=0.02)
    kept = built({"arts": [art], "films": [{"film": NAVY, "thicken_mm": 0.3, "keep_size": True}]})
    assert kept.width_mm == pytest.approx(60, abs=0.02)
    assert kept.layers[0].cut.area > thick.layers[0].before.area  # type: ignore[union-attr]


@given(st.floats(-5, 5), st.floats(-5, 5), st.integers(0, 3))
@settings(max_examples=examples(20))
def test_a_nudged_letter_leaves_all_others_where_they_are(dx: float, dy: float, index: int) -> None:
    plain = built({"arts": [words("HILL", NAVY, fit_width_mm=60)]})
    tweak = {"index": index, "dx_mm": dx, "dy_mm": dy}
    nudged = built({"arts": [words("HILL", NAVY, fit_width_mm=60, letters=[tweak])]})
    before, now = ({i: box for i, _, box in d.arts[0].facts.letters} for d in (plain, nudged))  # type: ignore[union-attr]
    for k in before:
        move = (dx, dy, dx, dy) if k == index else (0, 0, 0, 0)
        assert now[k] == pytest.approx(tuple(a + b for a, b in zip(before[k], move, strict=True)), abs=2e-3)


BARE = {"background": "drop"}
OWL = Recipe.model_validate(
    {"name": "Owl", "arts": [{"kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 100.0, "separation": BARE}]}
)


@pytest.mark.parametrize("rest", ["nearest", "out"])
def test_picked_colours_are_the_whole_palette_and_never_background(rest: str) -> None:
    found = made(OWL)
    behind = next(c.colour for c in found.colours if c.role == "background")
    picks = [behind, *[layer.film for layer in found.layers[:2]]]
    picked = made(after(OWL, kind="pick-only", colours=picks, rest=rest))
    assert {layer.film for layer in picked.layers} == set(picks)
    areas = {layer.film: layer.shape.area for layer in found.layers}
    for film in picks[1:]:
        assert layer_of(picked, film).shape.area >= areas[film] * (0.99 if rest == "nearest" else 0.9)
    whole = sum(layer.shape.area for layer in picked.layers)
    page = (picked.box[2] - picked.box[0]) * (picked.box[3] - picked.box[1])
    assert (whole == pytest.approx(page, rel=1e-6)) == (rest == "nearest")


def test_counting_down_removes_the_colour_it_said_and_none_that_was_named() -> None:
    recipe = OWL
    design = made(recipe)
    named = design.arts[0].facts.least  # type: ignore[union-attr]
    assert named is not None
    recipe = after(recipe, kind="rename-film", film=named, name="Beak")
    count = len(design.colours)
    while count > 2:
        told = made(recipe).arts[0].facts.least  # type: ignore[union-attr]
        before = {c.colour for c in made(recipe).colours}
        if told is None:
            break
        count -= 1
        recipe = after(recipe, kind="count-colours", count=count)
        now = made(recipe)
        gone = before - {c.colour for c in now.colours}
        assert gone == {told} or told == named
        assert named in {c.colour for c in now.colours}
        assert any(c.role == "background" for c in now.colours)


def test_a_film_left_out_keeps_its_name_and_its_joints() -> None:
    arts = [words("HILL", RED), form("star", "#b03024", id_="star"), form("heart", GOLD, id_="heart")]
    pair = {"a": "#b03024", "b": GOLD, "rule": {"kind": "gap", "mm": 1}}
    data = {"arts": arts, "pairs": [pair]}
    names = {layer.film: layer.name for layer in built(data).layers}
    left = built({**data, "films": [{"film": "#b03024", "left_out": True}]})
    assert {layer.film: layer.name for layer in left.layers} == {k: v for k, v in names.items() if k != "#b03024"}
    assert [f.name for f in left.left_out] == [names["#b03024"]]
    assert {j.joint.kind.value for j in left.joints} == {"butt"}


HOWS = ("one-film", "on-top", "butt", "gap", "lap", "within", "hole")


@pytest.mark.parametrize("how", HOWS)
@pytest.mark.parametrize("swapped", [False, True])
@pytest.mark.parametrize("kinds", ["words-star", "words-picture", "same-film"])
def test_art_lies_on_art_as_was_said(how: str, swapped: bool, kinds: str) -> None:
    lower = words("HILL", "#7a1fa2" if kinds == "words-picture" else NAVY, height_mm=40)
    upper: dict[str, Any] = form("star", NAVY if kinds == "same-film" else GOLD, x=10, y=-20)
    if kinds == "words-picture":
        upper = {"kind": "picture", "id": "star", "picture": "a" * 64, "width_mm": 50.0, "place": {"x_mm": -20, "y_mm": -40}}
    recipe = Recipe.model_validate({"name": "Two", "arts": [lower, {**upper, "id": "star"}]})
    before = made(recipe)
    up, low = ("words", "star") if swapped else ("star", "words")
    if how == "one-film" and kinds == "words-picture" and swapped:
        low_films = before.art_films["star"]
    else:
        low_films = before.art_films[low]
    edit = {
        "kind": "relate-arts", "upper": up, "lower": low, "how": how, "mm": 1.0, "films": list(before.art_films[up]),
        "under": list(low_films), "order": [layer.film for layer in before.layers],
    }  # fmt: skip
    design = made(after(recipe, **edit))
    check_invariants(design)
    films = {layer.film for layer in design.layers}
    own, other = set(design.art_films[up]) & films, set(design.art_films[low]) & films
    if how == "one-film":
        assert own <= other
        return
    height = [layer.film for layer in design.layers]
    if how == "hole":
        assert not own
        assert sum(layer.cut.area for layer in design.layers) < sum(layer.shape.area for layer in before.layers)
        return
    if not own & other:
        assert min(map(height.index, own)) > max(map(height.index, other))
    kinds_met = {
        j.joint.kind.value for j in design.joints if height[j.upper] in own - other and height[j.lower] in other - own
    }
    if how in ("butt", "gap", "lap"):
        assert kinds_met <= {how}
        assert kinds_met
    if how == "on-top":
        assert kinds_met <= {"full"}
    if how == "within":
        shape = shapely.union_all([layer_of(design, f).shape for f in own])
        keeper = shapely.union_all([p.value for a in design.arts if a.id == low for p in a.outer])
        assert shapely.difference(shape, shapely.buffer(keeper, 1e-3)).area < 1e-3


def test_dropping_the_colour_that_art_is_kept_inside_leaves_it_whole() -> None:
    picture = {"kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 60.0}
    kept = form("star", "#123456", x=30, y=30, inside="p")
    recipe = Recipe.model_validate({"name": "In", "arts": [picture, kept]})
    before = layer_of(made(recipe), "#123456").shape.area
    for film in [layer.film for layer in made(recipe).layers if layer.film != "#123456"]:
        recipe = after(recipe, kind="drop-colour", colour=film)
        assert layer_of(made(recipe), "#123456").shape.area == pytest.approx(before, rel=1e-6)
    lost = {**form("star", GOLD), "inside": "#abcdef"}
    told = built({"arts": [words("HILL", NAVY), lost]})
    assert "inside-lost" in {f.code for f in proof_of(told)}
    assert layer_of(told, GOLD).shape.area > 0


def test_new_art_lies_on_what_was_there() -> None:
    picture = {"kind": "picture", "id": "p", "picture": "a" * 64, "width_mm": 60.0}
    recipe = Recipe.model_validate({"name": "On", "arts": [words("HILL", "#123456"), picture]})
    assert made(recipe).layers[0].film == "#123456"


def test_stitches_lie_on_a_whole_film() -> None:
    plain = built({"arts": [form("ellipse", RED, id_="ellipse")]})
    stitch = {"id": "s", "film": "s", "of": ["ellipse"], "kind": "stitch-line"}
    films = [{"film": "s", "colour": "#fff4d6"}]
    sewn = built({"arts": [form("ellipse", RED, id_="ellipse")], "makings": [stitch], "films": films})
    assert layer_of(sewn, RED).outline.nodes == plain.layers[0].outline.nodes
    assert [j.source for j in sewn.joints] == ["made"]
    check_invariants(sewn)


@given(stacks(), st.floats(0.5, 30), st.sampled_from(["drop", "merge"]))
@settings(max_examples=examples(30))
def test_small_pieces_go_and_the_stack_stays_sound(data: dict[str, Any], below: float, how: str) -> None:
    films = [f for f in data["films"] if f["film"] != RED]
    choice = {"film": RED, "small": {"below_mm2": below, "how": how}}
    check_invariants(built({**data, "films": [*films, choice]}))


@given(stacks(), st.floats(0.2, 4))
@settings(max_examples=examples(30))
def test_gaps_close_and_the_stack_stays_sound(data: dict[str, Any], gap: float) -> None:
    films = [f for f in data["films"] if f["film"] != RED]
    design = built({**data, "films": [*films, {"film": RED, "close_mm": gap}]})
    check_invariants(design)
    # What is cut through everything may part what was joined.
    if all(art["film"] for art in data["arts"]):
        assert all(not gaps_within(layer.shape, gap, 10) for layer in design.layers if layer.film == RED)


def test_a_gap_is_closed_by_a_bridge_as_wide_as_the_stroke() -> None:
    bars = MultiPolygon([shapely.box(0, 0, 10, 2), shapely.box(11, 0, 20, 2)])
    (one,) = closed(bars, 1.5, ()).geoms
    assert one.area == pytest.approx(40, abs=0.8)
    assert len(closed(bars, 0.5, ()).geoms) == 2
    assert len(closed(bars, 0.0, [((10.0, 1.0), (11.0, 1.0))]).geoms) == 1


@settings(max_examples=examples(25))
@given(st.lists(steps(st.sampled_from(FILMS), SPOT, st.lists(SPOT, min_size=3, max_size=5)), min_size=1, max_size=3))
def test_after_any_mends_films_meet_in_the_very_curves_that_are_written(run: list[dict[str, Any]]) -> None:
    plain = mended_picture()
    design = mended_picture(mends=[{**data, "id": f"step-{k}"} for k, data in enumerate(run)])

    def doubled(stack: Built) -> float:
        drawn = [shapely.make_valid(MultiPolygon(fill(_curves(layer)))) for layer in stack.layers]
        return sum(shapely.intersection(p, q).area for k, p in enumerate(drawn) for q in drawn[k + 1 :])

    assert doubled(design) <= doubled(plain) + 0.02


def _curves(layer: BuiltLayer) -> list[Any]:
    from gladstack.core.geometry.curves import curves_of

    return curves_of(list(layer.outline.rings), 0.001)


def test_lettering_and_shapes_are_mended_like_any_art() -> None:
    brush = {"kind": "brush", "id": "b", "film": NAVY, "path": [{"x": 0.0, "y": -0.2}, {"x": 0.5, "y": -0.2}], "width_mm": 2}
    plain = built({"arts": [words("HILL", NAVY, place={"turn_deg": 30})]})
    art = words("HILL", NAVY, place={"turn_deg": 30}, mends=[brush])
    mended = built({"arts": [art]})
    assert mended.layers[0].cut.area > plain.layers[0].cut.area + 5
    assert len(mended.layers[0].cut.geoms) < len(plain.layers[0].cut.geoms)
    check_invariants(mended)
    recipe = Recipe.model_validate({"name": "Star", "arts": [form("star", RED, id_="star")]})
    cut = {
        "kind": "cut-away",
        "film": RED,
        "around": [{"x": 0, "y": -1}, {"x": 1, "y": -1}, {"x": 1, "y": 1}, {"x": 0, "y": 1}],
    }
    half = made(after(recipe, kind="add-mend", art="star", mend=cut))
    assert half.layers[0].cut.area == pytest.approx(made(recipe).layers[0].cut.area / 2, rel=1e-3)


@pytest.mark.parametrize("font", FONTS)
def test_words_are_found_in_the_font_they_were_set_in_on_their_old_baseline(font: str) -> None:
    art = words("Dome night", NAVY, font=font, fit_width_mm=70, place={"x_mm": 12, "y_mm": 34})
    shape = built({"arts": [art]}).layers[0].shape
    rough = shapely.make_valid(shapely.simplify(shapely.buffer(shape, 0.12), 0.08))
    found = words_like(MultiPolygon(rough.geoms), "Dome night", FONTS, 0.0, ASSETS, Stages(MEMO, lambda group: None))
    assert found[0].lettering.font == font
    assert found[0].lettering.place.y_mm == pytest.approx(34, abs=0.6)
    assert baseline_of(shape) == pytest.approx(34, abs=0.8)
