"""Art that is moved, turned or mirrored as a whole: the same films, laid elsewhere, and nothing worked out anew."""

from __future__ import annotations

from typing import Any

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.geometry.curves import transform_points
from gladstack.core.geometry.shapes import placed
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.build.pieces import pieces_of
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import edited
from gladstack.recipe.edit.versions import as_version
from gladstack.recipe.model.arts import Place
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.examples import examples
from tests.recipe.mendings import FILMS, SPOT, WIDTH, picture, steps
from tests.recipe.stacks import JOINTS, check_invariants, words

MEMO = Memo()
ASSETS = Assets(picture=lambda digest: picture())
AREA = st.lists(SPOT, min_size=3, max_size=5)
LAYS = st.builds(
    lambda x, y, turn, mirrored: {"x_mm": x, "y_mm": y, "turn_deg": turn, "mirrored": mirrored},
    st.floats(-300, 300), st.floats(-300, 300), st.sampled_from([0.0, 90.0, 17.3, -120.0]), st.booleans(),
)  # fmt: skip
OUTLINE = {"kind": "outline-shadow", "id": "halo", "film": "halo", "mm": 1.5}


def recipe(place: dict[str, Any], joint: dict[str, Any], *others: dict[str, Any], **more: Any) -> Recipe:
    art = {"kind": "picture", "id": "picture", "picture": "a" * 64, "width_mm": WIDTH, "place": place, **more.pop("art", {})}
    return Recipe.model_validate({"name": "Laid", "arts": [art, *others], "joint": joint, **more})


def built(of: Recipe, memo: Memo = MEMO) -> Built:
    return build(of, ASSETS, memo)


def apart(a: Any, b: Any) -> float:
    """How much two shapes differ by, in mm2, but for rounding along their edges."""
    return float(shapely.symmetric_difference(a, b, grid_size=1e-7).area)


@given(LAYS, JOINTS, st.sampled_from([1.0, 0.7]), st.lists(steps(st.sampled_from(FILMS), SPOT, AREA), max_size=1))
@settings(max_examples=examples(25))
def test_laid_elsewhere_the_films_are_the_same(
    lay: dict[str, Any], joint: dict[str, Any], scale: float, mends: list[dict[str, Any]]
) -> None:
    more = {
        "art": {"mends": [{**m, "id": f"m{k}"} for k, m in enumerate(mends)]},
        "makings": [OUTLINE],
        "films": [{"film": "halo", "colour": "#14100c"}, {"film": FILMS[1], "thicken_mm": 0.3}],
    }
    size = {"scale_x": scale, "scale_y": scale}
    plain, laid = built(recipe(size, joint, **more)), built(recipe({**lay, **size}, joint, **more))
    by = Place(**lay).laid
    assert [layer.film for layer in laid.layers] == [layer.film for layer in plain.layers]
    for one, other in zip(plain.layers, laid.layers, strict=True):
        assert other.cut.is_valid
        assert apart(placed(one.cut, by), other.cut) <= 1e-4
        assert (other.outline.nodes, len(other.outline.parts)) == (one.outline.nodes, len(one.outline.parts))
        there = [transform_points(ring.pieces, by) for ring in one.outline.rings]
        for ring, known in zip(other.outline.rings, there, strict=True):
            assert ring.pieces == pytest.approx(known, abs=2e-4)
        before, now = pieces_of(one, Stages(MEMO)).small, pieces_of(other, Stages(MEMO)).small
        assert [bit.area_mm2 for bit in now] == [bit.area_mm2 for bit in before]
        assert all(shapely.dwithin(shapely.Point(bit.at), other.cut, 1e-6) for bit in now)
    assert [(j.lower, j.upper) for j in laid.joints] == [(j.lower, j.upper) for j in plain.joints]
    assert wrong_area_ratio(laid) == pytest.approx(wrong_area_ratio(plain), abs=1e-9)
    assert most_films(laid) == most_films(plain)


@given(LAYS, JOINTS, st.floats(-20, 60), st.floats(-20, 60))
@settings(max_examples=examples(25))
def test_beside_and_under_other_art_it_is_cut_as_anywhere(
    lay: dict[str, Any], joint: dict[str, Any], x: float, y: float
) -> None:
    """Under art that lies otherwise: by the same rules, and as if all had been moved."""
    over = words("OPEN", FILMS[0], place={"x_mm": x, "y_mm": y})
    check_invariants(built(recipe(lay, joint, over)))
    moved = {"x_mm": lay["x_mm"], "y_mm": lay["y_mm"]}
    along = words("OPEN", FILMS[0], place={"x_mm": x + lay["x_mm"], "y_mm": y + lay["y_mm"]})
    here, there = built(recipe({}, joint, over)), built(recipe(moved, joint, along))
    for one, other in zip(here.layers, there.layers, strict=True):
        # Letters are drawn on a grid, wherever they lie.
        assert apart(placed(one.cut, (1, 0, 0, 1, lay["x_mm"], lay["y_mm"])), other.cut) <= 1e-4 * one.cut.length


@pytest.mark.parametrize("joint", ["butt", "lap", "gap", "full"])
@pytest.mark.parametrize("alone", [True, False])
def test_what_is_moved_turned_or_mirrored_is_not_worked_out_anew(joint: str, alone: bool) -> None:
    memo, rule = Memo(), {"kind": joint, "mm": 0.4}
    far = [] if alone else [words("OPEN", "#123456", place={"x_mm": 500})]

    def heard(place: dict[str, Any]) -> set[str]:
        groups: set[str] = set()
        stages = Stages(memo, groups.add)
        made = build(recipe(place, rule, *far), ASSETS, memo, groups.add)
        wrong_area_ratio(made, stages)
        most_films(made, stages)
        for layer in made.layers:
            pieces_of(layer, stages)
        return groups

    assert {"joints", "proof", "layers", "map"} <= heard({})
    for place in ({"x_mm": 7.3}, {"y_mm": -20, "turn_deg": 30}, {"mirrored": True, "x_mm": 90}):
        # How many films lie on one another is counted anew where some have moved against others.
        assert heard(place) <= {"art", "curves"} | (set() if alone else {"proof"})


def test_points_of_films_go_with_the_art_that_they_were_set_on() -> None:
    film = FILMS[1]
    point = {"x_mm": 20.0, "y_mm": 10.0}
    more = {
        "films": [
            {"film": film, "pieces": [{**point, "how": "drop"}], "repairs": [{"how": "thicken", "mm": 0.5, **point}]},
            {"film": "#123456", "pieces": [{**point, "how": "keep"}]},
            {"film": "halo", "colour": "#14100c"},
        ],
        "makings": [{**OUTLINE, "holes": "fill-chosen", "chosen": [point]}],
        "versions": [{"id": "v", "name": "Twice", "factor": 2.0}],
    }
    first = recipe({}, {"kind": "butt"}, words("OPEN", "#123456"), **more)
    art = first.arts[0]
    moved = ChangeArts(arts=(changed(art, place=Place(x_mm=5.0, y_mm=-3.0, turn_deg=90.0)),))
    after = edited(first, None, moved)
    (piece,), (repair,) = after.film(film).pieces, after.film(film).repairs
    assert (piece.x_mm, piece.y_mm) == (repair.x_mm, repair.y_mm) == pytest.approx((-5.0, 17.0))
    # Another art gives to these, too, and has stayed.
    assert after.film("#123456") == first.film("#123456")
    assert after.makings == first.makings
    both = edited(first, None, ChangeArts(arts=tuple(changed(a, place=Place(x_mm=5.0)) for a in first.arts)))
    assert both.film("#123456").pieces[0].x_mm == both.makings[0].chosen[0].x_mm == 25.0  # type: ignore[union-attr]
    # In a version twice as large the same move is half as far, and nothing becomes the version's own.
    twice = as_version(first, "v").arts[0]
    in_version = edited(first, "v", ChangeArts(arts=(changed(twice, place=changed(twice.place, x_mm=10.0)),)))
    assert in_version.film(film).pieces[0].x_mm == pytest.approx(25.0)
    assert in_version.arts[0].place.x_mm == pytest.approx(5.0)
    assert in_version.versions == first.versions
