"""What is told of films for the material they are cut from: planted faults are found, clean shapes are not, fixes mend."""

from __future__ import annotations

import itertools
import math
import random
from typing import Any

import pytest
import shapely
import shapely.affinity
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Polygon

from gladstack.core.films.repairs import Repair, changed_by, repaired
from gladstack.core.geometry import overlay
from gladstack.core.geometry.holes import widest
from gladstack.core.geometry.runs import Run, narrow_runs
from gladstack.core.geometry.shapes import clean
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.shelf import demo_shop
from gladstack.proof.checks.thin_parts import tiny_parts
from gladstack.proof.checks.thin_waste import tiny_holes
from gladstack.proof.finding import Finding
from gladstack.proof.helping import no_worse, place_of, still_told
from gladstack.proof.narrow import too_narrow
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_on_film
from gladstack.proof.thinner import at_most
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.edit.pieces import RepairFilm
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.job import Job
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from gladstack.store.database import DESIGNS, Database
from gladstack.store.designs import DesignBook
from tests.examples import examples, some
from tests.recipe.stacks import check_invariants, stacks
from tests.shop.jobs import no_picture

LIMIT = 0.8


def runs(shape: Any, *, inside: bool = True) -> Any:
    return narrow_runs(clean(shape), LIMIT, inside=inside)


ANGLES = st.floats(0, 360)
SHARES = st.sampled_from([0.5, 0.7, 0.9, 1.1, 1.5, 2.0])


def turned(shape: Any, angle: float) -> Any:
    return shapely.affinity.rotate(shape, angle, origin=(0, 0))


@given(SHARES, ANGLES, st.floats(1.5, 12))
@settings(max_examples=examples(60))
def test_a_stem_is_as_wide_as_it_is_drawn(share: float, angle: float, length: float) -> None:
    wide = share * LIMIT
    dumbbell = overlay.union_all([shapely.box(-8, -3, -length / 2, 3), shapely.box(length / 2, -3, 8, 3),
                                  shapely.box(-length / 2 - 0.1, -wide / 2, length / 2 + 0.1, wide / 2)])  # fmt: skip
    found = runs(turned(dumbbell, angle))
    assert bool(found) == (share < 1)
    if found:
        assert found[0].mm == pytest.approx(wide, abs=0.01)
        assert found[0].length_mm == pytest.approx(length, abs=0.5)
        assert not found[0].tip


@given(SHARES, ANGLES, st.floats(0.5, 10))
@settings(max_examples=examples(60))
def test_a_slit_is_as_wide_as_it_is_drawn(share: float, angle: float, length: float) -> None:
    slit = shapely.box(-5 - length, -6, 5 + length, 6) - shapely.box(-length, -share * LIMIT / 2, length, share * LIMIT / 2)
    found = [run for run in runs(turned(slit, angle), inside=False) if run.mm < LIMIT]
    assert bool(found) == (share < 1)
    assert not found or found[0].mm == pytest.approx(share * LIMIT, abs=0.01)


@given(st.floats(2, 60), ANGLES)
@settings(max_examples=examples(60))
def test_an_end_that_runs_out_is_a_tip_of_its_angle(opens: float, angle: float) -> None:
    half = 12 * math.tan(math.radians(opens / 2))
    found = runs(turned(Polygon([(0, -half), (12, 0), (0, half)]), angle))
    assert bool(found) == (opens < 29.9 or (29.9 <= opens <= 30.1 and bool(found)))
    assert all(run.tip and run.opens_deg == pytest.approx(opens, abs=0.5) for run in found)


@given(st.lists(st.tuples(st.floats(-6, 6), st.floats(-6, 6)), min_size=4, max_size=12, unique=True), st.floats(0.1, 0.6))
@settings(max_examples=examples(60))
def test_widths_are_those_of_discs_that_fit(points: list[tuple[float, float]], half: float) -> None:
    shape = clean(shapely.LineString(points).buffer(half, quad_segs=24))
    for run in runs(shape):
        disc = shapely.Point(run.at).buffer(run.mm / 2 - 0.03)
        # The disc lies in the shape, and no larger one with the same middle does.
        assert run.mm < 0.07 or shape.buffer(1e-6).contains(disc)
        assert shape.boundary.distance(shapely.Point(run.at)) == pytest.approx(run.mm / 2, abs=0.03)


@pytest.mark.parametrize("seed", some(range(20)))
def test_what_is_thickened_holds_and_the_rest_stays(seed: int) -> None:
    rng = random.Random(seed)
    points, half = [(rng.uniform(-6, 6), rng.uniform(-6, 6)) for _ in range(rng.randint(2, 4))], rng.uniform(0.1, 0.35)
    shape = clean(overlay.union(shapely.box(-20, -20, -8, 20), shapely.LineString([(-9, 0), *points]).buffer(half)))
    thin = [run for run in runs(shape) if not run.tip]
    after = repaired(shape, Repair("thicken", LIMIT + 0.02))
    gained = changed_by(shape, after).gained
    assert not [run for run in too_narrow(runs(after), LIMIT) if not run.tip]
    lines = [shapely.LineString(line) if len(line) > 1 else shapely.Point(line[0]) for run in thin for line in run.lines]
    beyond = gained.difference(shapely.union_all(lines).buffer(1.5 * LIMIT)) if lines else gained
    assert beyond.area < 0.02


def _strokes(rng: random.Random) -> MultiPolygon:
    """Bent strokes across one another, wider and narrower along their way."""
    out = []
    for _ in range(rng.randint(1, 3)):
        knots = [(rng.uniform(0, 25), rng.uniform(0, 25), rng.uniform(0.08, 1.1)) for _ in range(rng.randint(4, 8))]
        discs = [shapely.Point(x, y).buffer(half) for x, y, half in knots]
        out += [overlay.union(a, b).convex_hull for a, b in itertools.pairwise(discs)]
    return clean(overlay.union_all(out))


def _left_thin(shape: MultiPolygon) -> list[Run]:
    tiny = tiny_parts(shape, LIMIT)
    return [run for run in too_narrow(runs(shape), LIMIT) if not run.tip and run.part not in tiny]


def _left_narrow(shape: MultiPolygon) -> list[Run]:
    holes = {ring for _, ring, _ in tiny_holes(shape, LIMIT)}
    return [run for run in too_narrow(runs(shape, inside=False), LIMIT) if not run.tip and not set(run.rings) <= holes]


@pytest.mark.parametrize("seed", some(range(60)))
def test_all_thin_places_of_a_kind_are_mended_at_once(seed: int) -> None:
    shape = _strokes(random.Random(seed))
    assert not _left_thin(repaired(shape, Repair("thicken", LIMIT + 0.02)))
    assert not _left_narrow(repaired(shape, Repair("fill", LIMIT + 0.02)))


def test_round_edges_that_nearly_touch_are_joined_by_a_bridge_that_blends_in() -> None:
    pair = clean(overlay.union(shapely.Point(-3.15, 0).buffer(3), shapely.Point(3.15, 0).buffer(3)))
    joined = repaired(pair, Repair("fill", LIMIT + 0.02, (0.0, 0.0)))
    assert len(joined.geoms) == 1
    assert not _left_thin(joined)
    # It ends where a disc as wide as is wanted lies against both.
    gained = changed_by(pair, joined).gained
    _, bottom, _, top = gained.bounds
    disc = (LIMIT + 0.02) / 2
    end = math.sqrt((3 + disc) ** 2 - 3.15**2) * 3 / (3 + disc)
    assert (bottom, top) == pytest.approx((-end, end), abs=0.02)
    waste = shapely.box(-9, -9, 9, 9).difference(joined)
    assert shapely.box(-2, -2, 2, 2).intersection(waste).difference(waste.buffer(-LIMIT / 2).buffer(LIMIT / 2)).area < 0.01


@given(st.floats(0.008, 0.05), st.floats(2, 20), ANGLES)
@settings(max_examples=examples(20))
def test_a_crack_is_filled_and_nothing_else_grows(wide: float, long: float, angle: float) -> None:
    crack = shapely.box(-wide / 2, 10 - long, wide / 2, 11)
    shape = clean(turned(overlay.difference(shapely.box(-15, -10, 15, 10), crack), angle))
    after = repaired(shape, Repair("fill", LIMIT + 0.02))
    gained = changed_by(shape, after).gained
    # All but its mouth, where its edges open.
    assert gained.area >= wide * (long - 1.0)
    assert gained.difference(turned(crack, angle).buffer(LIMIT / 2)).area < 1e-3


def test_a_repair_finds_what_those_before_it_have_left() -> None:
    pair = overlay.union(shapely.box(0, 0, 30, 0.3), shapely.box(0, 1.2, 30, 1.5))
    shape = clean(overlay.union(pair, shapely.box(-8, -5, 0, 6)))
    thicker = repaired(shape, Repair("thicken", LIMIT + 0.02))
    assert not any(run.mm < LIMIT - 0.01 for run in runs(thicker) if not run.tip)
    # The two strokes were far enough apart, and are no more.
    assert not runs(shape, inside=False)
    assert runs(thicker, inside=False)
    filled = repaired(thicker, Repair("fill", LIMIT + 0.02))
    assert changed_by(shape, filled).gained.area > changed_by(shape, thicker).gained.area + 5


def test_a_notch_that_no_cutter_resolves_is_no_thin_place() -> None:
    jog = [(0, 0), (10, 0), (10, 5), (5.006, 5), (5.003, 4.994), (5, 5), (0, 5)]
    found = narrow_runs(clean(Polygon(jog)), LIMIT, inside=False)
    assert not [run for run in too_narrow(found, LIMIT) if not run.tip]


def test_a_blade_is_told_where_it_cannot_turn_and_the_hole_is_filled() -> None:
    drawn = {"kind": "shape", "film": "#1d2b53"}
    hole = {"form": "ellipse", "width_mm": 1, "height_mm": 1}
    arts = [
        {**drawn, "id": "disc", "form": {"form": "ellipse", "width_mm": 20, "height_mm": 20}},
        {**drawn, "id": "hole", "form": hole, "film": None, "place": {"scale_x": 0.4, "scale_y": 0.4}},
    ]
    assets, memo = Assets(picture=no_picture), Memo()
    made = build(Recipe.model_validate({"name": "Disc", "arts": arts}), assets, memo)
    (told,) = [f for f in proof(made, memo) if f.code == "no-room-to-turn"]
    assert [fix.label for fix in told.fixes] == ["Fill it", "Widen it"]
    for fix in told.fixes:
        after = build(apply_edit(made.recipe, fix.edit), assets, memo)
        assert proof(after, memo) == ()
        assert len(after.layers[0].cut.geoms[0].interiors) == (fix.label == "Widen it")


@given(st.floats(0.15, 0.75), st.floats(0.3, 1.0), ANGLES, st.booleans())
@settings(max_examples=examples(30), deadline=None)
def test_a_hole_is_made_wide_enough_and_what_lies_in_it_grows_along(
    wide: float, share: float, angle: float, held: bool
) -> None:
    drawn = {"kind": "shape", "film": "#1d2b53"}
    small = {"form": "ellipse", "width_mm": 1, "height_mm": 1}
    place = {"x_mm": 4, "y_mm": -3, "scale_x": wide, "scale_y": max(0.12, wide * share), "turn_deg": angle}
    spot = {**drawn, "id": "spot", "form": small, "film": "#f2b632" if held else None, "place": place}
    far = {
        **drawn,
        "id": "far",
        "form": small,
        "film": None,
        "place": {"x_mm": -8, "y_mm": 0, "scale_x": 0.4, "scale_y": 0.4},
    }
    disc = {**drawn, "id": "disc", "form": {"form": "ellipse", "width_mm": 40, "height_mm": 40}}
    recipe = {"name": "Disc", "arts": [disc, spot, far], "joint": {"kind": "butt"}, "small_mm2": 0.0}
    made = build(Recipe.model_validate(recipe), Assets(picture=no_picture), Memo())
    whole = made.layers[0].cut
    at = (made.arts[1].box[0] + made.arts[1].box[2]) / 2, (made.arts[1].box[1] + made.arts[1].box[3]) / 2
    after = repaired(whole, Repair("widen", LIMIT + 0.02, at))
    lost, gained = overlay.both_differences(whole, after)
    assert gained.area < 1e-6
    assert lost.area > 0
    opened = min((Polygon(ring) for ring in after.geoms[0].interiors), key=lambda hole: hole.distance(shapely.Point(at)))
    assert widest(opened, LIMIT) >= LIMIT
    # The other small hole stays as it is.
    assert len(after.geoms[0].interiors) == 2
    edit = {"film": "#1d2b53", "repair": {"how": "widen", "mm": LIMIT + 0.02, "x_mm": at[0], "y_mm": at[1]}}
    mended = build(apply_edit(made.recipe, RepairFilm.model_validate(edit)), Assets(picture=no_picture), Memo())
    check_invariants(mended)
    if held:
        assert mended.layers[1].cut.area > made.layers[1].cut.area


def proof(built: Built, memo: Memo) -> tuple[Finding[Edit], ...]:
    job = Job.model_validate({"name": "One", "designs": [{"design": "d", "name": "D"}]})
    return proof_on_film(on_film(built, job, demo_shop(), Stages(memo)))


def helpful(built: Built, assets: Assets, memo: Memo, most: int) -> tuple[int, list[Built]]:
    """How many fixes of different kinds there are of a design's findings, and the designs after those that help."""
    before, seen, out = proof(built, memo), set(), []
    for finding in before:
        for fix in finding.fixes:
            if (key := (finding.code, fix.label.split(" ")[0])) in seen or len(seen) >= most:
                continue
            seen.add(key)
            made = build(apply_edit(built.recipe, fix.edit), assets, memo)
            after = proof(made, memo)
            figure = finding.measure.figure if finding.measure else None
            gone = not still_told(finding.code, finding.about, place_of(finding), figure, after)
            if gone and no_worse(before, after):
                out.append(made)
    return len(seen), out


def test_fixes_on_demo_designs_help_and_keep_what_must_hold(tmp_path: Any) -> None:
    book, memo = DesignBook(Database(tmp_path / DESIGNS)), Memo()
    add_demo_designs(book)
    assets = Assets(picture=book.picture, file=book.file)
    count = helped = 0
    for id_ in ("demo-sticker", "demo-shirt", "example-helper-names", "example-mended"):
        many, after = helpful(build(book.get(id_).revision.recipe, assets, memo), assets, memo, 5)
        for made in after:
            check_invariants(made, flush=False)
        count, helped = count + many, helped + len(after)
    assert count > 10
    assert helped > 0.6 * count


@given(stacks())
@settings(max_examples=examples(8))
def test_fixes_on_random_stacks_keep_what_must_hold(data: dict[str, Any]) -> None:
    assets, memo = Assets(picture=no_picture), Memo()
    made = build(Recipe.model_validate({"name": "Stack", **data}), assets, memo)
    if not any(not layer.cut.is_empty for layer in made.layers):
        return
    seen: set[str] = set()
    for finding in proof(made, memo):
        if finding.code not in seen and finding.fixes:
            seen.add(finding.code)
            check_invariants(build(apply_edit(made.recipe, finding.fixes[0].edit), assets, memo), flush=False)


def test_joints_that_keep_to_so_many_films_do(tmp_path: Any) -> None:
    book, memo = DesignBook(Database(tmp_path / DESIGNS)), Memo()
    add_demo_designs(book)
    assets = Assets(picture=book.picture, file=book.file)
    made = build(book.get("example-too-thin").revision.recipe, assets, memo)
    job = Job.model_validate({"name": "One", "designs": [{"design": "d", "name": "D"}]})
    read = on_film(made, job, demo_shop(), Stages(memo))
    assert len(read.at_least) == most_films(made) == 4
    for films in (1, 2, 3):
        edit = at_most(read, films)
        assert edit is not None
        after = build(apply_edit(made.recipe, edit), assets, memo)
        assert most_films(after) <= films
        check_invariants(after)
    assert at_most(read, 4) is None


def test_clean_shapes_are_told_nothing_of() -> None:
    for shape in (
        shapely.box(0, 0, 40, 20),
        shapely.Point(0, 0).buffer(10),
        MultiPolygon([shapely.box(0, 0, 9, 9), shapely.box(11, 0, 20, 9)]),
    ):
        assert not runs(shape)
        assert not runs(shape, inside=False)


@settings(max_examples=examples(15))
@given(stacks(), st.lists(st.sampled_from(("butt", "lap", "gap", "full")), min_size=2, max_size=4))
def test_what_is_remembered_of_a_proof_is_what_a_fresh_one_finds(data: dict[str, Any], kinds: list[str]) -> None:
    """What an edit leaves as it is, is not measured anew: then no more may be remembered than stays true."""
    shared, assets = Memo(), Assets(picture=no_picture)
    for kind in kinds:
        rule = {"kind": kind, "mm": 0.0 if kind == "butt" else 0.6}
        now = Recipe.model_validate({"name": "Stack", **data, "joint": rule})
        made = build(now, assets, shared)
        if any(not layer.cut.is_empty for layer in made.layers):
            assert proof(made, shared) == proof(build(now, assets, Memo()), Memo())
