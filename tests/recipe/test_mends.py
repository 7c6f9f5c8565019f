"""Mends and claims in any mixture: whatever is chosen, the films stay a sound stack; steps switched off leave no trace."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter
from shapely import MultiPolygon, box

from gladstack.recipe.art.mended import mended
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.edit.pictures import Resize
from gladstack.recipe.edit.regions import AddMend, ChangeMend, OrderMends
from gladstack.recipe.edit.scale import scaled
from gladstack.recipe.model.arts import LineArt, PictureArt
from gladstack.recipe.model.mends import Mend
from gladstack.recipe.model.recipe import Recipe
from tests.examples import examples
from tests.recipe.inked import HALVES, INK, TEAL
from tests.recipe.mendings import FILMS, SPOT, WIDTH, built, steps
from tests.recipe.stacks import check_invariants
from tests.recipe.test_regions import NAVY, RED

MEND: TypeAdapter[Mend] = TypeAdapter(Mend)
AREA = st.lists(SPOT, min_size=3, max_size=5)
FILM = st.sampled_from([RED, INK, NAVY])


@settings(max_examples=examples(80))
@given(st.lists(steps(FILM, SPOT, AREA), max_size=5))
def test_any_run_of_steps_leaves_films_that_do_not_overlap(run: list[dict[str, Any]]) -> None:
    made = [MEND.validate_python({**data, "id": f"step-{k}"}) for k, data in enumerate(run)]
    after = mended(HALVES, made, 100)
    parts = list(after.by_film.values())
    assert all(p.is_valid for p in parts)
    assert shapely.union_all(parts).area == pytest.approx(sum(p.area for p in parts), rel=1e-6, abs=1e-6)
    assert {idle.step for idle in after.idle} <= {m.id for m in made}
    off = [m.model_copy(update={"on": False}) for m in made]
    assert mended(HALVES, off, 100).by_film == HALVES


def test_what_no_neighbour_can_take_over_stays_and_is_told() -> None:
    alone, side, beside = box(0, 0, 10, 10), box(20, 0, 30, 10), box(30, 0, 40, 10)
    films = {RED: MultiPolygon([alone, side]), INK: MultiPolygon([beside])}
    step = MEND.validate_python({"kind": "take-over", "film": RED, "id": "step"})
    after = mended(films, [step], 40)
    assert {film: shape.area for film, shape in after.by_film.items()} == pytest.approx({RED: 100, INK: 200})
    nobody = mended({RED: MultiPolygon([alone]), INK: MultiPolygon([beside])}, [step], 40)
    assert nobody.by_film[RED].area == pytest.approx(100)
    assert "No other film" in nobody.idle[0].why


@settings(max_examples=examples(60))
@given(st.floats(12, 38), st.floats(-4, 4), st.floats(2, 8), st.booleans())
def test_an_edge_that_is_moved_stays_shared_and_nothing_beyond_it_moves(
    y: float, by: float, reach: float, drawn: bool
) -> None:
    left, right, below = box(0, 0, 50, 50), box(50, 0, 100, 50), box(0, 50, 100, 70)
    films = {RED: MultiPolygon([left]), INK: MultiPolygon([right]), NAVY: MultiPolygon([below])}
    way = (
        {"kind": "draw-edge", "path": [{"x": 0.5, "y": (y - reach) / 100}, {"x": (50 + by) / 100, "y": y / 100},
                                       {"x": 0.5, "y": (y + reach) / 100}]}
        if drawn
        else {"kind": "move-edge", "start": {"x": 0.5, "y": y / 100}, "end": {"x": (50 + by) / 100, "y": y / 100},
              "mm": reach}
    )  # fmt: skip
    after = mended(films, [MEND.validate_python({**way, "film": RED, "id": "step"})], 100)
    assert not after.idle
    parts = list(after.by_film.values())
    assert shapely.union_all(parts).area == pytest.approx(7000, abs=1e-6)
    assert sum(p.area for p in parts) == pytest.approx(7000, abs=1e-6)
    # Both films have the very same edge there.
    near = box(40, 1, 60, 49)
    edge, other = (shapely.intersection(after.by_film[f].boundary, near) for f in (RED, INK))
    assert shapely.hausdorff_distance(edge, other) <= 1e-9
    assert edge.distance(shapely.Point(50 + by, y)) < (0.5 if drawn else 1e-3)
    beyond = shapely.difference(edge, box(40, y - reach - 0.01, 60, y + reach + 0.01))
    assert beyond.is_empty or max(abs(x - 50) for x in shapely.get_coordinates(beyond)[:, 0]) <= 0.02
    assert after.by_film[NAVY].equals(films[NAVY])


@given(st.integers(0, 3), st.booleans())
def test_a_node_is_taken_out_whichever_way_round_is_shorter(corner: int, turned: bool) -> None:
    """Of a square the two ways between the corners beside one are equally long: the one through it is meant."""
    corners = [(0, 0), (20, 0), (20, 20), (0, 20)]
    before, at, after = (corners[(corner + k) % 4] for k in (-1, 0, 1))
    ends = (after, before) if turned else (before, after)
    start, end, through = ({"x": x / 100, "y": y / 100} for x, y in (*ends, at))
    step = {"kind": "straighten", "film": RED, "id": "step", "start": start, "end": end, "through": through}
    films = {RED: MultiPolygon([box(0, 0, 20, 20)]), INK: MultiPolygon([box(-20, -20, 40, 40) - box(0, 0, 20, 20)])}
    made = mended(films, [MEND.validate_python(step)], 100)
    assert made.by_film[RED].area == pytest.approx(200)
    assert not made.by_film[RED].intersects(shapely.Point(at))
    # What the film loses is its neighbour's.
    assert made.by_film[INK].area == pytest.approx(60 * 60 - 200)


@settings(max_examples=examples(60))
@given(
    st.floats(15, 35),
    st.one_of(st.just(0.0), st.floats(0.01, 4), st.floats(-4, -0.01)),
    st.floats(-3, 3),
    st.floats(3, 9),
    st.sampled_from(["as-drawn", "smooth", "corner"]),
)
def test_a_node_that_is_put_elsewhere_leaves_the_edge_shared_and_nothing_beyond_its_neighbours_moves(
    y: float, by: float, along: float, reach: float, form: str
) -> None:
    films = {RED: MultiPolygon([box(0, 0, 50, 50)]), INK: MultiPolygon([box(50, 0, 100, 50)])}
    spots = {"before": (50, y - reach), "at": (50, y), "after": (50, y + reach), "to": (50 + by, y + along * reach / 4)}
    step = {"kind": "put-node", "film": RED, "id": "step", "form": form} | {
        name: {"x": px / 100, "y": py / 100} for name, (px, py) in spots.items()
    }
    after = mended(films, [MEND.validate_python(step)], 100)
    assert not after.idle
    assert sum(p.area for p in after.by_film.values()) == pytest.approx(5000, abs=1e-6)
    near = box(40, 1, 60, 49)
    edge, other = (shapely.intersection(after.by_film[f].boundary, near) for f in (RED, INK))
    assert shapely.hausdorff_distance(edge, other) <= 1e-9
    assert edge.distance(shapely.Point(spots["to"])) < 1e-6
    beyond = shapely.difference(edge, box(0, y - reach - 0.01, 100, y + reach + 0.01))
    assert beyond.is_empty or max(abs(x - 50) for x in shapely.get_coordinates(beyond)[:, 0]) <= 1e-6
    if form != "smooth":
        # Straight sides stay straight.
        x, turn = spots["to"]
        assert after.by_film[RED].area == pytest.approx(2500 + (x - 50) * reach, abs=1e-6), turn


def test_a_node_put_into_one_curve_has_no_corner_and_a_corner_is_one() -> None:
    film = MultiPolygon([box(0, 0, 100, 50)])
    spots = {"before": (20, 0), "at": (50, 0), "after": (80, 0), "to": (50, 10)}
    own = {name: {"x": px / 100, "y": py / 100} for name, (px, py) in spots.items()}

    def turns(form: str) -> float:
        step = MEND.validate_python({"kind": "put-node", "film": RED, "id": "step", "form": form, **own})
        (part,) = mended({RED: film}, [step], 100).by_film[RED].geoms
        inside = shapely.intersection(part.exterior, box(40, 5, 60, 15))
        xy = shapely.get_coordinates(shapely.line_merge(inside))
        ways = np.diff(xy, axis=0)
        headings = np.unwrap(np.arctan2(ways[:, 1], ways[:, 0]))
        return float(np.degrees(np.abs(np.diff(headings)).max()))

    assert turns("smooth") < 5
    assert turns("corner") == pytest.approx(2 * np.degrees(np.arctan(10 / 30)), abs=0.5)


def test_a_circle_drawn_with_the_pen_is_a_film_of_its_own_or_an_opening() -> None:
    films = {RED: MultiPolygon([box(0, 0, 50, 50)]), INK: MultiPolygon([box(50, 0, 100, 50)])}
    # Four anchors with handles of this length draw a circle to 0.03 % of its radius (Goldapp 1991).
    k = 0.5522847498
    anchors = [(60, 25), (50, 35), (40, 25), (50, 15)]
    handles = [(60, 25 + 10 * k), (50 - 10 * k, 35), (40, 25 - 10 * k), (50 + 10 * k, 15)]
    step = {
        "kind": "draw-area", "id": "step",
        "path": [{"x": x / 100, "y": y / 100} for x, y in anchors],
        "handles": [{"x": x / 100, "y": y / 100} for x, y in handles],
    }  # fmt: skip
    area = np.pi * 100
    drawn = mended(films, [MEND.validate_python({**step, "film": NAVY})], 100).by_film
    assert drawn[NAVY].area == pytest.approx(area, rel=1e-3)
    assert drawn[RED].area == pytest.approx(2500 - area / 2, rel=1e-3)
    assert sum(shape.area for shape in drawn.values()) == pytest.approx(5000, abs=1e-6)
    opened = mended(films, [MEND.validate_python({**step, "film": None})], 100).by_film
    assert sum(shape.area for shape in opened.values()) == pytest.approx(5000 - area, rel=1e-3)
    line = mended(films, [MEND.validate_python({**step, "film": NAVY, "closed": False, "width_mm": 2})], 100).by_film
    assert line[NAVY].area == pytest.approx(2 * 0.75 * 2 * np.pi * 10 + np.pi, rel=5e-3)
    apart = [MEND.validate_python({**step, "film": None, "path": [{"x": 2, "y": 2}, {"x": 2.1, "y": 2}],
                                   "handles": [{"x": 2, "y": 2.1}, {"x": 2.1, "y": 2}]})]  # fmt: skip
    assert "nothing of it" in mended(films, apart, 100).idle[0].why


WITHOUT = st.sampled_from(["open", "hole", "dropped", "merged", "outer", "own"])
PINS = st.one_of(
    st.builds(lambda s, f: {**s, "film": f}, SPOT, st.sampled_from([*FILMS, TEAL])),
    st.builds(
        lambda s, b: {**s, "becomes": b}, SPOT, st.sampled_from(["open", "hole", "dropped", "merged", "outer", "own"])
    ),
)


@settings(max_examples=examples(25))
@given(
    st.lists(PINS, max_size=5),
    st.lists(steps(st.sampled_from(FILMS), SPOT, AREA), max_size=3),
    st.sampled_from(["butt", "lap", "gap", "full"]),
    st.sampled_from([0.0, 0.1]),
)
def test_a_picture_claimed_and_mended_at_will_is_a_sound_stack(
    pins: list[dict[str, Any]], run: list[dict[str, Any]], joint: str, simplify_mm: float
) -> None:
    mends = [{**data, "id": f"step-{k}"} for k, data in enumerate(run)]
    check_invariants(built(joint, pins=pins, mends=mends, simplify_mm=simplify_mm))


def test_a_picture_nothing_is_said_of_is_its_planar_map() -> None:
    plain, claimed = built(), built(pins=[{"x": 0.001, "y": 0.001, "becomes": "own"}])
    assert [item.film for item in plain.layers] == [item.film for item in claimed.layers]
    for a, b in zip(plain.layers, claimed.layers, strict=True):
        assert shapely.symmetric_difference(a.cut, b.cut).area == pytest.approx(0, abs=1e-6)
        assert b.outline.nodes == a.outline.nodes


BRUSH = MEND.validate_python(
    {"kind": "brush", "film": FILMS[0], "path": [{"x": 0.1, "y": 0.1}, {"x": 0.9, "y": 0.1}], "width_mm": 2}
)


def test_mends_keep_their_place_at_any_size() -> None:
    recipe = Recipe(name="P", arts=(PictureArt(id="picture", picture="a" * 64, width_mm=WIDTH, simplify_mm=0.1),))
    recipe = apply_edit(recipe, AddMend(art="picture", mend=BRUSH))
    for larger in (apply_edit(recipe, Resize(width_mm=2 * WIDTH)), scaled(recipe, 2.0, lengths=False)):
        (art,) = larger.pictures()
        assert (art.mends[0].width_mm, art.simplify_mm) == (4.0, 0.2)  # type: ignore[union-attr]
        assert art.mends[0].path == BRUSH.path  # type: ignore[union-attr]
    small, large = (built(mends=[m], width_mm=w) for m, w in ((BRUSH, WIDTH), (art.mends[0], 2 * WIDTH)))
    areas = [sum(item.cut.area for item in made.layers if item.film == FILMS[0]) for made in (small, large)]
    assert areas[1] == pytest.approx(4 * areas[0], rel=0.02)


def test_steps_are_switched_and_put_in_order() -> None:
    recipe = Recipe(name="P", arts=(LineArt(id="page", picture="a" * 64, width_mm=WIDTH),))
    around = tuple({"x": x, "y": y} for x, y in ((0, 0), (0.5, 0), (0.5, 0.5), (0, 0.5)))
    cut = MEND.validate_python({"kind": "cut-away", "around": around})
    for step in (BRUSH, cut):
        recipe = apply_edit(recipe, AddMend(art="page", mend=step))
    (art,) = recipe.arts
    brush, first = art.mends  # type: ignore[union-attr]
    assert (brush.id, first.id) == ("brush-1", "cut-away-1")
    turned = apply_edit(recipe, OrderMends(art="page", order=(first.id, brush.id)))
    assert [m.id for m in turned.arts[0].mends] == [first.id, brush.id]  # type: ignore[union-attr]
    off = apply_edit(recipe, ChangeMend(art="page", mend=brush.model_copy(update={"on": False})))
    assert not off.arts[0].mends[0].on  # type: ignore[union-attr]
    # The order tells: what is brushed after the cut stays.
    shapes = {FILMS[0]: MultiPolygon(), RED: HALVES[RED]}
    covered = [mended(shapes, steps_, WIDTH).by_film[FILMS[0]].area for steps_ in ((brush, first), (first, brush))]
    assert covered[0] < 0.6 * covered[1]
