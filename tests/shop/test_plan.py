"""The plan: what must hold of it over random jobs, and what a maker asks of it."""

from __future__ import annotations

import random
import re
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely
import svgelements
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon, affinity

from gladstack.core.base.errors import GladStackError
from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import changed
from gladstack.shop.files.formats import sheet_files
from gladstack.shop.files.job_files import assembly, plan_json
from gladstack.shop.jobs.edits import ChoosePiece, FreeSeams, PlaceSeam
from gladstack.shop.jobs.job import Job, LaidPart, SeamCounts
from gladstack.shop.plan import checks
from gladstack.shop.plan.by_hand import pin_part, put_part
from gladstack.shop.plan.drawn import drawn_on
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan, SheetPlan
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.stages.engine import constant
from tests.examples import examples
from tests.shop.jobs import GOLD, NAVY, RED, built, random_job, two_pens

SEEDS = st.integers(0, 10**6)


def svg_of(made: Plan, sheet: SheetPlan) -> str:
    return sheet_files(made, ["svg"])[sheet.file].decode()


def paths_of(svg: str, group: str) -> list[str]:
    """The paths of a group of a written sheet."""
    held = re.search(rf'<g id="{group}"[^>]*>(.*?)</g>', svg, re.S)
    return re.findall(r'<path d="([^"]*)"', held[1]) if held else []


def flattened(path: str) -> Polygon:
    """A path as another reader draws it (svgelements), each subpath in 0.01 mm steps; evenodd."""
    shape: Any = Polygon()
    for sub in svgelements.Path(path).as_subpaths():
        points: list[tuple[float, float]] = []
        for piece in svgelements.Path(sub):
            if isinstance(piece, svgelements.Move):
                continue
            count = 1 if isinstance(piece, svgelements.Line | svgelements.Close) else 24
            points += [(float(p.x), float(p.y)) for p in (piece.point(t) for t in np.linspace(0, 1, count + 1))]
        shape = shapely.symmetric_difference(shape, Polygon(points).buffer(0))
    return shape


@settings(max_examples=examples(14))
@given(SEEDS)
def test_what_must_hold_of_a_plan(seed: int) -> None:
    """Every part as often as wanted, apart, within the margins, in register, on stock that is there; tiles put together."""
    job, designs, shop = random_job(random.Random(seed))
    made = plan(job, designs, shop)
    told = checks.measured(made)
    assert told["missing_parts"] == []
    assert told["stock_overdrawn"] == []
    assert told["tiles_wrong_mm2"] <= 1e-6 * max(1.0, sum(f.layer.cut.area for f in made.films))
    assert told["spacing_short_mm"] <= 0.01
    assert told["outside_mm"] <= 1e-3
    assert told["origins_differ_mm"] == 0
    if told["weed_line_nearest_mm"] is not None:
        assert told["weed_line_nearest_mm"] >= job.weeding.clearance_mm - 1e-3
    for sheet in made.sheets:
        shapes = [p.shape for p in sheet.parts]
        assert shapely.union_all(shapes).area == pytest.approx(sum(s.area for s in shapes), rel=1e-9)
        boxes = [shapely.box(*b).exterior for b in sheet.furniture.boxes]
        assert all(not shapely.crosses(b, s) for b in boxes for s in shapes)
        taken = shapely.union_all([*shapes, *boxes])
        assert all(shapely.box(*kept).intersection(taken).area < 1e-9 for kept in sheet.furniture.kept)


@settings(max_examples=examples(6))
@given(SEEDS)
def test_a_written_sheet_read_by_another_gives_the_cut_shapes_back(seed: int) -> None:
    job, designs, shop = random_job(random.Random(seed))
    made = plan(job, designs, shop)
    for sheet in made.sheets:
        paths = paths_of(svg_of(made, sheet), "parts")
        assert len(paths) == len(sheet.parts)
        for path, part in zip(paths, sheet.parts, strict=True):
            back = checks.read_back(flattened(path), part.matrix)
            assert shapely.hausdorff_distance(back.boundary, part.bit.polygon.boundary) < 0.03


@settings(max_examples=examples(3))
@given(SEEDS)
def test_the_same_job_gives_the_same_plan(seed: int) -> None:
    job, designs, shop = random_job(random.Random(seed))
    first, second = (plan_json(plan(job, designs, shop), 0) for _ in range(2))
    assert first == second
    # Where things lie can be told to the job, and they lie there again.
    made = plan(job, designs, shop)
    again = plan(changed(job, laid=made.laid), designs, shop)
    assert sorted(p.model_dump_json() for p in again.laid) == sorted(p.model_dump_json() for p in made.laid)


@pytest.fixture(scope="module")
def badge() -> Built:
    arts = [
        {"kind": "shape", "id": "ring", "film": NAVY, "form": {"form": "ring", "across_mm": 80, "band_mm": 8}},
        {"kind": "shape", "id": "star", "film": GOLD, "form": {"form": "star", "points": 5, "across_mm": 30}},
    ]
    words = {"kind": "lettering", "id": "w", "text": "OWL", "font": "inter-black", "height_mm": 12, "film": NAVY}
    return built({"arts": [*arts, {**words, "place": {"x_mm": 0, "y_mm": 70}}]})


def job_of(**more: Any) -> Job:
    plain = {"name": "Badges", "designs": [{"design": "badge", "name": "Badge", "copies": 6}], "together": "parts"}
    return Job.model_validate({**plain, **more})


def laid(job: Job, badge: Built, shop: Shop | None = None, seconds: int = 0) -> Plan:
    return plan(job, {"badge": badge}, shop or demo_shop(), seconds)


def test_small_parts_come_to_lie_in_the_holes_of_big_ones(badge: Built) -> None:
    made = laid(job_of(layout="nested", weeding={"box": "none"}), badge)
    navy = next(s for s in made.sheets if s.material.id == "night-navy")
    rings = [Polygon(r) for p in navy.parts for r in p.shape.interiors if Polygon(r).area > 1000]
    inside = [p for p in navy.parts if any(r.contains(p.shape) for r in rings)]
    assert len(rings) == 6
    assert inside
    assert navy.film_used > laid(job_of(), badge).sheets[0].film_used


def test_looking_longer_never_takes_more_film(badge: Built) -> None:
    job = job_of(layout="nested")
    quick, closer = (sum(s.length_used_mm for s in laid(job, badge, seconds=k).sheets) for k in (0, 2))
    assert closer <= quick + 0.1
    assert closer < laid(job, badge).naive_length_mm / 2


def test_offcuts_are_used_first_and_stock_is_never_overdrawn(badge: Built) -> None:
    made = laid(job_of(designs=[{"design": "badge", "name": "Badge"}], layout="nested"), badge)
    assert {s.piece.kind for s in made.sheets} == {"offcut"}
    shop = demo_shop()
    scarce = tuple(changed(p, left=150.0) if p.id == "night-navy-roll" else p for p in shop.pieces)
    short = laid(job_of(layout="nested"), badge, Shop(shop.materials, shop.cutters, scarce))
    assert checks.overdrawn(short) == []
    assert any(f.code == "short-of-film" for f in proof_of_plan(short, {"badge": badge}))


def test_film_cut_from_the_back_is_mirrored_and_shrink_is_made_up_for() -> None:
    arts = [{"kind": "lettering", "id": "w", "text": "R", "font": "inter-black", "height_mm": 40, "film": NAVY}]
    one = built({"arts": arts, "method": "heat-transfer"})
    made = plan(Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]}), {"d": one}, demo_shop())
    (sheet,) = made.sheets
    (part,) = sheet.parts
    assert sheet.mirrored
    assert part.matrix[0] * part.matrix[3] - part.matrix[1] * part.matrix[2] < 0
    lost = (1 - sheet.material.shrink_along) * (1 - sheet.material.shrink_across)
    assert part.shape.area * lost == pytest.approx(part.bit.polygon.area, rel=1e-9)


def test_what_is_put_by_hand_stays_and_never_lies_on_another(badge: Built) -> None:
    job = job_of(layout="nested")
    made = laid(job, badge)
    sheet = next(s for s in made.sheets if s.material.id == "lamp-gold")
    first, second = sheet.parts[0], sheet.parts[1]
    which = LaidPart(design="badge", film=GOLD, part=first.bit.part, copy_of=first.bit.copy)
    assert second.spot is not None
    put = put_part(made, which, second.spot)
    assert put.laid is None
    assert "another part" in put.why
    assert put.fits is not None
    there = put_part(made, which, put.fits)
    assert there.laid is not None
    again = laid(changed(job, laid=there.laid), badge)
    moved = next(p for s in again.sheets for p in s.parts if p.bit.name == first.bit.name)
    assert (moved.spot.x_mm, moved.spot.y_mm) == pytest.approx((put.fits.x_mm, put.fits.y_mm))  # type: ignore[union-attr]
    assert sum(p.pinned for p in again.laid) == 1
    rest = tuple(p for p in again.laid if p.pinned)
    anew = laid(changed(job, laid=rest), badge)
    still = next(p for s in anew.sheets for p in s.parts if p.bit.name == first.bit.name)
    assert still.matrix == moved.matrix
    assert not any(p.pinned for p in pin_part(again, which, pinned=False))
    # Nor does it matter what has worked its shape out: a newer app finds it where it was. Another shape has another mark.
    otherwise = replace(badge, layers=tuple(replace(layer, key="another way") for layer in badge.layers))
    (kept,) = [p for p in laid(changed(job, laid=rest), otherwise).laid if p.pinned]
    assert (kept.x_mm, kept.y_mm) == (moved.spot.x_mm, moved.spot.y_mm)  # type: ignore[union-attr]
    larger = replace(badge, layers=tuple(replace(x, laid=constant(affinity.scale(x.cut, 1.01, 1.01))) for x in badge.layers))
    assert not {film.mark for film in laid(job, larger).films} & {film.mark for film in made.films}


def banner(width: float, **more: Any) -> tuple[Job, dict[str, Built]]:
    words = {"kind": "lettering", "id": "w", "text": "OPEN", "font": "inter-black", "height_mm": 90, "film": RED}
    arts = [
        {"kind": "shape", "id": "bar", "film": NAVY, "form": {"form": "rectangle", "width_mm": width, "height_mm": 500}},
        {**words, "place": {"x_mm": 300, "y_mm": 200}},
    ]  # fmt: skip
    job = Job.model_validate({"name": "Banner", "designs": [{"design": "b", "name": "Banner"}], "tiles": more})
    return job, {"b": built({"arts": arts})}


def test_what_is_too_large_is_divided_or_told(badge: Built) -> None:
    job, designs = banner(900, each_film=True)
    made = plan(job, designs, demo_shop())
    seams = {film: register.seams[film] for (_, film), register in made.registers.items()}
    assert checks.tiles_wrong(made) <= 1e-6 * 900 * 500
    assert all(own.x or own.y for own in seams.values())
    # No seam of an upper film lies over one of a film below.
    low, high = (own.y or own.x for own in seams.values())
    assert min(abs(a - b) for a in low for b in high) >= 5
    job, designs = banner(900, divide=False)
    with pytest.raises(GladStackError, match="× 500 mm"):
        plan(job, designs, demo_shop())


@pytest.mark.parametrize("shrink", [0.0, 0.03])
def test_tiles_lie_on_sheets_of_film_that_is_cut_larger_for_the_press(shrink: float) -> None:
    """A bar of 700 mm on sheets of 400 mm: cut larger for what the press takes it, each tile still lies on its sheet."""
    form = {"form": "rectangle", "width_mm": 700, "height_mm": 250}
    design = built({"arts": [{"kind": "shape", "id": "a", "film": RED, "form": form}], "use": "heat-transfer"})
    film = Material.model_validate(
        {"id": "red", "name": "Red", "kind": "smooth", "colour": RED, "shrink_along": shrink, "shrink_across": shrink}
    )
    sheets = Piece(id="sheets", material="red", kind="sheet", width_mm=300, length_mm=400, left=9)
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    made = plan(job, {"d": design}, Shop(materials=(film,), pieces=(sheets,)))
    assert len(made.sheets) >= 2
    assert all(checks.outside(sheet) <= 1e-6 for sheet in made.sheets)
    assert checks.missing_parts(made) == []
    cut = sum(part.shape.area for sheet in made.sheets for part in sheet.parts)
    assert cut == pytest.approx(700 * 250 / (1 - shrink) ** 2, rel=0.005)


def test_another_piece_of_film_leaves_what_was_pinned_and_other_films_as_they_are() -> None:
    parts = [LaidPart(design="d", film=RED, part=k, pinned=k == 1) for k in range(3)]
    job = Job.model_validate(
        {
            "name": "J", "designs": [{"design": "d", "name": "D"}], "laid": parts,
            "pieces": [{"material": "red", "piece": "a"}, {"material": "blue", "piece": "b"}],
        }
    )  # fmt: skip
    chosen = ChoosePiece(material="red", piece="c").apply(job)
    assert {(c.material, c.piece) for c in chosen.pieces} == {("red", "c"), ("blue", "b")}
    assert [p.part for p in chosen.laid] == [1]
    left = ChoosePiece(material="red", piece=None).apply(chosen)
    assert [(c.material, c.piece) for c in left.pieces] == [("blue", "b")]


def test_lines_of_a_pen_that_would_run_off_the_film_are_not_drawn() -> None:
    (sheet,) = two_pens().sheets
    size = (sheet.length_mm, sheet.width_mm)
    drawn, beside = drawn_on(sheet.parts, size, 3.0)
    assert beside == 0
    assert sum(len(pen.lines) for pen in drawn) > 2
    # On film that ends in the middle of the star, lines that reach beyond are left out, and counted.
    right = max(float(part.shape.bounds[2]) for part in sheet.parts)
    less, left_out = drawn_on(sheet.parts, (right - 45.0, sheet.width_mm), 3.0)
    assert left_out > 0
    assert sum(len(pen.lines) for pen in less) + left_out == sum(len(pen.lines) for pen in drawn)
    for pen in less:
        assert all(line.pieces[..., 0].max() <= right - 45.0 - 2.0 for line in pen.lines)
    # None lie off the near edges either.
    assert drawn_on([], size, 3.0) == ((), 0)


def test_a_seam_put_by_hand_stays_there() -> None:
    job, designs = banner(900)
    own = next(iter(next(iter(plan(job, designs, demo_shop()).registers.values())).seams.values()))
    axis, at = ("x", own.x[0]) if own.x else ("y", own.y[0])
    placed = {"design": "b", "axis": axis, "index": 0, "at_mm": at - 3}
    moved = plan(changed(job, tiles=changed(job.tiles, placed=(placed,))), designs, demo_shop())
    for seams in (register.seams[film] for (_, film), register in moved.registers.items()):
        assert (seams.x if axis == "x" else seams.y)[0] == pytest.approx(at - 3)


@settings(max_examples=examples(12), deadline=None)
@given(at=st.floats(-600, 1500), each_film=st.booleans(), overlap=st.sampled_from([None, -3.0, 8.0]), seed=st.integers(0, 9))
def test_a_seam_moved_anywhere_leaves_as_many_tiles_or_it_is_said(
    at: float, each_film: bool, overlap: float | None, seed: int
) -> None:
    job, designs = banner(900, each_film=each_film)
    before = plan(job, designs, demo_shop())
    (_, film), register = list(before.registers.items())[seed % len(before.registers)]
    own = register.seams[film]
    axis = "x" if own.x and (seed % 2 or not own.y) else "y"
    row = own.x if axis == "x" else own.y
    seam = PlaceSeam(
        design="b", film=film if each_film else None, axis=axis, index=seed % len(row), at_mm=at,
        of=SeamCounts(x=len(own.x), y=len(own.y)), overlap_mm=overlap,
    )  # fmt: skip
    moved = plan(seam.apply(job), designs, demo_shop())
    now = moved.registers["b", film].seams[film]
    assert (len(now.x), len(now.y)) == (len(own.x), len(own.y))
    lies = (now.x if axis == "x" else now.y)[seam.index]
    told = [one for one in proof_of_plan(moved, designs) if one.code == "seam-held"]
    assert bool(told) == (abs(lies - at) > 0.01)
    assert checks.tiles_wrong(moved) <= 1e-6 * 900 * 500
    for fix in (fix for one in told for fix in one.fixes):
        mended = plan(fix.edit.apply(seam.apply(job)), designs, demo_shop())
        assert not [one for one in proof_of_plan(mended, designs) if one.code == "seam-held"]
    freed = plan(FreeSeams(design="b").apply(seam.apply(job)), designs, demo_shop())
    assert freed.registers["b", film].seams[film] == own


def test_seams_put_on_film_that_is_narrower_now_are_told() -> None:
    job, designs = banner(900)
    seam = PlaceSeam(design="b", axis="x", index=0, at_mm=300, of=SeamCounts(x=1))
    made = plan(seam.apply(job), designs, demo_shop())
    assert [one.code for one in proof_of_plan(made, designs) if one.code == "seam-held"]
    assert all(register.held[0].at_mm is None for register in made.registers.values())


def test_a_cutter_smaller_than_a_part_is_told_with_figures(badge: Built) -> None:
    shop = demo_shop()
    tiny = changed(shop.cutters[0], id="tiny", width_mm=40.0)
    job = job_of(layout="nested", cutter="tiny", tiles={"divide": False})
    with pytest.raises(GladStackError, match="room for"):
        laid(job, badge, Shop(shop.materials, (*shop.cutters, tiny), shop.pieces))


@given(
    st.floats(0, 360), st.booleans(), st.floats(0.9, 1.1), st.floats(0.9, 1.1), st.floats(-400, 400), st.floats(-400, 400)
)
@settings(max_examples=examples(40))
def test_what_lies_on_a_sheet_is_found_where_it_is_in_the_design(
    turn: float, mirror: bool, along: float, across: float, x: float, y: float
) -> None:
    part = Polygon([(3, 4), (30, 6), (28, 40), (5, 33)])
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    matrix = (along * c * (-1 if mirror else 1), along * s * (-1 if mirror else 1), -across * s, across * c, x, y)
    there = affinity.affine_transform(part, [matrix[0], matrix[2], matrix[1], matrix[3], x, y])
    back = checks.read_back(there, matrix)
    assert np.allclose(shapely.get_coordinates(back), shapely.get_coordinates(part), atol=1e-6)


def test_what_fits_on_nothing_is_told_with_its_size_wherever_it_lies() -> None:
    form = {"form": "ellipse", "width_mm": 900, "height_mm": 700}
    arts = [{"kind": "shape", "id": "a", "film": NAVY, "form": form, "place": {"x_mm": 3000, "y_mm": -2000}}]
    job = job_of(tiles={"divide": False})
    with pytest.raises(GladStackError, match="900 × 700 mm"):
        laid(job, built({"arts": arts}))


def test_an_empty_shelf_lays_on_any_film_of_the_colour(badge: Built) -> None:
    made = laid(job_of(), badge, Shop())
    assert all(s.bought for s in made.sheets)
    told = {(f.code, f.severity) for f in proof_of_plan(made, {"badge": badge})}
    assert told == {("to-get", "note"), ("lay-close", "note")}


def test_nearest_films_come_first_and_retired_ones_never() -> None:
    shop = demo_shop()
    near = shop.nearest("#f0b52f", Use.SURFACE)
    assert near[0].material.id == "lamp-gold"
    assert [n.delta_e for n in near] == sorted(n.delta_e for n in near)
    gone = Shop(tuple(changed(m, retired=m.id == "lamp-gold") for m in shop.materials))
    assert all(n.material.id != "lamp-gold" for n in gone.nearest("#f0b52f", Use.SURFACE))


def test_copies_are_each_boxed_apart() -> None:
    arts = [{"kind": "shape", "id": "s", "film": RED, "form": {"form": "star"}}]
    job = Job.model_validate(
        {"name": "J", "designs": [{"design": "d", "name": "D", "copies": 5}], "weeding": {"box": "copy", "distance_mm": 4}}
    )
    (sheet,) = plan(job, {"d": built({"arts": arts})}, demo_shop()).sheets
    boxes = [shapely.box(*b) for b in sheet.furniture.boxes]
    assert len(boxes) == 5
    assert shapely.union_all(boxes).area == pytest.approx(sum(b.area for b in boxes))
    assert all(sum(b.contains(p.shape) for b in boxes) == 1 for p in sheet.parts)


def test_a_weed_box_lies_between_the_parts_and_the_margin() -> None:
    arts = [{"kind": "shape", "id": "s", "film": RED, "form": {"form": "rectangle", "width_mm": 50, "height_mm": 30}}]
    for layout in ("register", "nested"):
        for distance in (2.0, 7.0):
            job = Job.model_validate(
                {
                    "name": "J", "designs": [{"design": "d", "name": "D"}], "layout": layout,
                    "weeding": {"box": "sheet", "distance_mm": distance},
                }
            )  # fmt: skip
            (sheet,) = plan(job, {"d": built({"arts": arts})}, demo_shop()).sheets
            (box,) = sheet.furniture.boxes
            (part,) = sheet.parts
            assert part.shape.bounds[:2] == pytest.approx((sheet.margin_mm + distance,) * 2, abs=0.01)
            assert box[:2] == pytest.approx((sheet.margin_mm,) * 2, abs=0.01)


def test_films_by_themselves_bear_no_marks_and_it_is_said(badge: Built) -> None:
    marked = {"kind": "crosses", "count": 3}
    register, whole = (laid(job_of(layout=layout, marks=marked), badge) for layout in ("register", "whole"))
    assert all(s.furniture.marks for s in register.sheets)
    assert not any(s.furniture.marks for s in whole.sheets)
    told = [proof_of_plan(made, {"badge": badge}) for made in (register, whole)]
    assert [any("bear no registration marks" in f.text for f in own) for own in told] == [False, True]
    texts = [assembly(made, {"badge": badge}, ()) for made in (register, whole)]
    assert ["the same on every sheet" in " ".join(text.split()) for text in texts] == [True, False]


def test_the_smallest_offcut_that_holds_all_is_taken() -> None:
    arts = [{"kind": "shape", "id": "s", "film": RED, "form": {"form": "rectangle", "width_mm": 60, "height_mm": 60}}]
    shop = demo_shop()
    sizes = {"tiny": 50.0, "best": 90.0, "worst": 200.0}
    offcuts = tuple(
        Piece(id=id_, material="barn-red", kind="offcut", width_mm=size, length_mm=size, left=1)
        for id_, size in sizes.items()
    )
    for layout in ("register", "nested", "whole"):
        job = Job.model_validate(
            {"name": "J", "designs": [{"design": "d", "name": "D"}], "layout": layout, "weeding": {"box": "none"}}
        )
        held = Shop(shop.materials, shop.cutters, (*offcuts[::-1], *(p for p in shop.pieces if p.kind == "roll")))
        (sheet,) = plan(job, {"d": built({"arts": arts})}, held).sheets
        assert sheet.piece.id == "best"


def test_what_a_pen_draws_takes_film_as_well() -> None:
    card = {"kind": "shape", "id": "s", "film": RED, "form": {"form": "rectangle", "width_mm": 40, "height_mm": 60}}
    line = {**card, "id": "p", "film": NAVY, "form": {"form": "star", "across_mm": 20}, "place": {"x_mm": 16, "y_mm": 0}}
    films = [{"film": NAVY, "drawn": "outlines", "drawn_on": RED}]
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "weeding": {"box": "none"}})
    shop = demo_shop()
    rolls = Shop(shop.materials, shop.cutters, tuple(p for p in shop.pieces if p.kind == "roll"))
    plain, drawn = (plan(job, {"d": built({"arts": [card, line], "films": f})}, rolls) for f in ([], films))
    (sheet,) = drawn.sheets
    right = max(float(c.pieces[..., 0].max()) for c in sheet.drawn)
    assert right > max(p.shape.bounds[2] for p in sheet.parts)
    assert sheet.use.amount >= right
    assert len(plain.sheets) == 2


def test_a_roll_shows_what_stays_beside_the_work() -> None:
    arts = [{"kind": "shape", "id": "s", "film": RED, "form": {"form": "rectangle", "width_mm": 200, "height_mm": 60}}]
    shop = demo_shop()
    roll = Shop(shop.materials, shop.cutters, tuple(p for p in shop.pieces if p.kind == "roll"))
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    (sheet,) = plan(job, {"d": built({"arts": arts})}, roll).sheets
    assert sheet.gains
    assert all(min(g.width_mm, g.length_mm) >= job.keep_offcuts_mm for g in sheet.gains)
    assert sheet.use.amount == pytest.approx(sheet.length_used_mm, abs=0.1)


def test_pieces_chosen_by_hand_are_taken_first() -> None:
    shop = demo_shop()
    extra = Piece(id="own", material="barn-red", kind="sheet", width_mm=300, length_mm=300, left=2)
    arts = [{"kind": "shape", "id": "s", "film": RED, "form": {"form": "star"}}]
    job = Job.model_validate(
        {"name": "J", "designs": [{"design": "d", "name": "D"}], "pieces": [{"material": "barn-red", "piece": "own"}]}
    )
    (sheet,) = plan(job, {"d": built({"arts": arts})}, Shop(shop.materials, shop.cutters, (*shop.pieces, extra))).sheets
    assert sheet.piece.id == "own"


def test_a_film_that_is_not_meant_to_lie_over_another_is_told(badge: Built) -> None:
    shop = demo_shop()
    fussy = tuple(changed(m, lies_over=("card",)) if m.id == "lamp-gold" else m for m in shop.materials)
    arts = [
        {"kind": "shape", "id": "a", "film": NAVY, "form": {"form": "rectangle", "width_mm": 60, "height_mm": 40}},
        {"kind": "shape", "id": "b", "film": GOLD, "form": {"form": "star"}},
    ]
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    designs = {"d": built({"arts": arts, "joint": {"kind": "full", "mm": 0.4}})}
    made = plan(job, designs, Shop(fussy, shop.cutters, shop.pieces))
    assert "lies-over" in {f.code for f in proof_of_plan(made, designs)}
    assert "lies-over" not in {f.code for f in proof_of_plan(laid(job_of(), badge), {"badge": badge})}


def test_parts_chosen_by_hand_keep_together_in_every_copy(badge: Built) -> None:
    plain = laid(job_of(layout="nested"), badge)
    kept = {"design": "badge", "film": NAVY, "parts": [1, 2]}
    made = laid(job_of(layout="nested", kept=[kept]), badge)
    assert checks.missing_parts(made) == []
    for copy in range(6):
        own = {p.bit.part: p for s in made.sheets for p in s.parts if p.bit.film.film == NAVY and p.bit.copy == copy}
        assert own[1].matrix == own[2].matrix
        assert own[1].cluster == own[2].cluster != ""
    loose = {p.bit.part: p for s in plain.sheets for p in s.parts if p.bit.film.film == NAVY and p.bit.copy == 0}
    assert loose[1].matrix != loose[2].matrix


def test_films_of_one_material_share_a_sheet_if_wanted() -> None:
    arts = [
        {"kind": "shape", "id": "a", "film": NAVY, "form": {"form": "star"}},
        {"kind": "shape", "id": "b", "film": RED, "form": {"form": "star"}, "place": {"x_mm": 60, "y_mm": 0}},
    ]
    films = [{"design": "d", "film": f, "material": "slate"} for f in (NAVY, RED)]
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "films": films, "share": True})
    designs = {"d": built({"arts": arts})}
    (sheet,) = plan(job, designs, demo_shop()).sheets
    assert {p.bit.film.film for p in sheet.parts} == {NAVY, RED}
    assert len(plan(changed(job, share=False), designs, demo_shop()).sheets) == 2
    told = checks.measured(plan(job, designs, demo_shop()))
    assert (told["spacing_short_mm"], told["outside_mm"]) == (0, 0)
    for spacing in (1.0, 6.0):
        (sheet,) = plan(changed(job, spacing_mm=spacing), designs, demo_shop()).sheets
        one, other = (shapely.union_all([p.shape for p in sheet.parts if p.bit.film.film == film]) for film in (NAVY, RED))
        # Films in register share their frame; the second begins where the first one's box ends.
        assert min(abs(other.bounds[0] - one.bounds[2]), abs(one.bounds[0] - other.bounds[2])) >= spacing - 1e-6


def test_a_job_of_too_many_parts_is_told_with_figures() -> None:
    words = {"kind": "lettering", "id": "w", "text": "ABCDEFGHIJKLMNOP", "font": "inter-black", "height_mm": 8, "film": NAVY}
    designs = [{"design": "d", "name": "D", "copies": 500}]
    job = Job.model_validate({"name": "J", "designs": designs, "layout": "nested", "together": "parts"})
    with pytest.raises(GladStackError, match="8000 parts"):
        plan(job, {"d": built({"arts": [words]})}, demo_shop())


def test_a_part_put_by_hand_keeps_its_weed_box_clear(badge: Built) -> None:
    made = laid(job_of(layout="nested", weeding={"box": "part", "distance_mm": 4}), badge)
    sheet = next(s for s in made.sheets if s.material.id == "lamp-gold")
    first, second = sheet.parts[0], sheet.parts[1]
    which = LaidPart(design="badge", film=GOLD, part=first.bit.part, copy_of=first.bit.copy)
    assert second.spot is not None
    put = put_part(made, which, second.spot)
    assert put.laid is None
    assert put.fits is not None
    again = laid(changed(made.job, laid=put_part(made, which, put.fits).laid), badge)
    for one in again.sheets:
        boxes = [shapely.box(*b) for b in one.furniture.boxes]
        assert checks.least_between(np.array(boxes, dtype=object), np.arange(len(boxes))) > 0
