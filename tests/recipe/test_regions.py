"""Regions, claims and mends: whose each area is, and that no choice opens a seam or moves a piece."""

from __future__ import annotations

from typing import Any

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter
from shapely import MultiPolygon, box

from gladstack.core.films.regions import Claim, Paint, Painting, Regions, claim, regions_of
from gladstack.core.geometry.shapes import clean
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.mended import mended
from gladstack.recipe.build.build import build
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.edit.regions import ClaimRegions, ReplaceFilm
from gladstack.recipe.model.arts import LetteringArt, Place
from gladstack.recipe.model.makings import OutlineShadow
from gladstack.recipe.model.mends import LetGo, Mend, TakeOver
from gladstack.recipe.model.pins import ArtPoint, Pin
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo
from tests.core.jagged import jagged
from tests.examples import examples
from tests.recipe.inked import HALVES, INK, TEAL
from tests.recipe.stacks import check_invariants, no_picture
from tests.recipe.test_vectors import NAVY, RED
from tests.recipe.vector_files import FUSED, SVG, area, built

LEFT, RIGHT, ISLE = (10 / 60, 20 / 60), (34 / 60, 20 / 60), (45 / 60, 20 / 60)


def pin(at: tuple[float, float], film: str | None = None, becomes: str = "film", under: str = "as-film") -> dict[str, Any]:
    return {"x": at[0], "y": at[1], "film": film, "becomes": becomes if film is None else "film", "under": under}


def grid(rows: int = 3, columns: int = 4) -> Regions:
    """Windows of 8 x 8 mm in a frame of ink with bars of 2 mm."""
    whole = box(0, 0, 10 * columns + 2, 10 * rows + 2)
    holes = [box(10 * c + 2, 10 * r + 2, 10 * c + 10, 10 * r + 10) for r in range(rows) for c in range(columns)]
    ink = clean(whole.difference(shapely.union_all(holes)))
    return regions_of(Painting((10 * columns + 2, 10 * rows + 2), (Paint(INK, INK, ink),), waits=True))


GRID = grid()
BECOMES = ["open", "hole", "dropped", "merged", "outer", "inner", "middle", "own"]


@settings(max_examples=examples(60))
@given(
    st.lists(st.tuples(st.integers(0, 12), st.sampled_from([*BECOMES, RED, NAVY])), max_size=14),
    st.sampled_from(["as-film", "solid", "open"]),
)
def test_no_claim_opens_a_seam_or_gives_an_area_twice(choices: list[tuple[int, str]], under: str) -> None:
    pins = []
    for k, wish in choices:
        x, y = (v / GRID.width_mm for v in GRID.all[k].at)
        pin = Pin(x=x, y=y, film=wish, under=under) if wish[0] == "#" else Pin(x=x, y=y, becomes=wish)
        pins.append(pin.claim(GRID.width_mm))
    done = claim(GRID, pins)
    shapes = [*done.by_film.values(), done.holes]
    together = shapely.union_all(shapes).area
    assert together == pytest.approx(sum(s.area for s in shapes), abs=1e-6)
    assert together <= 42 * 32 + 1e-6
    assert done.lost == ()
    held = {k for k, _ in done.held}
    assert len(done.waiting) == sum(1 for k, r in enumerate(GRID.all) if r.waits and k not in held)


def test_regions_know_their_nesting() -> None:
    whole = regions_of(Painting((60, 40), (Paint(INK, INK, fused_shape()),), waits=True))
    depths = sorted((r.depth, round(r.shape.area)) for r in whole.all)
    assert depths == [(0, 60 * 40 - 2 * 26 * 36), (1, 26 * 36 - 120), (1, 26 * 36), (2, 120)]
    isle = next(r for r in whole.all if r.depth == 2)
    assert whole.all[isle.parent].depth == 1


def fused_shape() -> MultiPolygon:
    outer = box(0, 0, 60, 40).difference(shapely.union_all([box(2, 2, 28, 38), box(32, 2, 58, 38)]))
    return clean(shapely.union(outer, box(40, 14, 50, 26)))


def test_a_hole_goes_through_everything() -> None:
    below = {"kind": "shape", "id": "plaque", "form": {"form": "rectangle", "width_mm": 80, "height_mm": 60}, "film": TEAL,
             "place": {"x_mm": 30, "y_mm": 20}}  # fmt: skip
    art = {"kind": "vector", "id": "file", "file": "a" * 64, "pins": [pin(ISLE, None, "hole"), pin(LEFT, RED)]}
    recipe = Recipe.model_validate({"name": "File", "arts": [below, art], "joint": {"kind": "full", "mm": 0.5}})
    made = build(recipe, Assets(picture=no_picture, file=lambda digest: FUSED), Memo())
    check_invariants(made)
    hole = box(40.01, 14.01, 49.99, 25.99)
    assert all(shapely.intersection(item.cut, hole).area == 0 for item in made.layers)
    assert shapely.contains(next(i.cut for i in made.layers if i.film == TEAL), box(3, 3, 27, 37))


def test_a_dropped_area_is_closed_over_and_a_merged_one_taken() -> None:
    dropped = built(FUSED, pins=[pin(ISLE, None, "dropped"), pin(RIGHT, RED)])
    assert area(dropped, RED) == pytest.approx(26 * 36)
    free = built(FUSED, pins=[pin((0.5 / 60, 0.5 / 60), None, "dropped")])
    assert area(free, INK) == pytest.approx(120)
    merged = built(FUSED, pins=[pin(LEFT, None, "merged")])
    assert area(merged, INK) == pytest.approx(area(built(FUSED), INK) + 26 * 36)


@pytest.mark.parametrize(("line", "inside"), [("outer", 20 * 20), ("inner", 16 * 16), ("middle", 18 * 18)])
def test_a_double_line_is_brought_to_one(line: str, inside: float) -> None:
    double = b"""<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40">
    <path fill-rule="evenodd" d="M0 0H40V40H0zM1 1V39H39V1zM10 10H30V30H10zM12 12V28H28V12z"/></svg>"""
    made = built(
        double, pins=[pin((11 / 40, 11 / 40), None, line), pin((20 / 40, 20 / 40), RED), pin((5 / 40, 5 / 40), NAVY)]
    )
    check_invariants(made)
    assert area(made, RED) == pytest.approx(inside, rel=0.01)
    assert area(made, NAVY) == pytest.approx(38 * 38 - inside, rel=0.01)


@pytest.mark.parametrize(
    ("joint", "under", "solid"), [("butt", "solid", True), ("full", "open", False), ("butt", "as-film", False)]
)
def test_a_region_says_whether_the_base_is_solid_under_it(joint: str, under: str, solid: bool) -> None:
    made = built(FUSED, pins=[pin(RIGHT, RED), pin(ISLE, NAVY, under=under)], joint=joint)
    assert wrong_area_ratio(made) < 1e-6
    assert joint == "full" or most_films(made) == (2 if solid else 1)
    base = next(item.cut for item in made.layers if item.film == RED)
    assert shapely.contains(base, box(41, 15, 49, 25)) == solid
    assert [item.film for item in made.layers].index(RED) < [item.film for item in made.layers].index(NAVY)


def test_claims_stay_when_the_size_changes_and_a_second_claim_takes_the_place_of_the_first() -> None:
    recipe = Recipe.model_validate({"name": "F", "arts": [{"kind": "vector", "id": "file", "file": "a" * 64}]})
    for film in (RED, NAVY):
        recipe = apply_edit(recipe, ClaimRegions(art="file", pins=(Pin.model_validate(pin(LEFT, film)),)))
    (art,) = recipe.arts
    assert len(getattr(art, "pins")) == 1  # noqa: B009
    doubled = art.model_copy(update={"place": art.place.model_copy(update={"scale_x": 2.0, "scale_y": 2.0})})
    made = build(
        recipe.model_copy(update={"arts": (doubled,)}), Assets(picture=no_picture, file=lambda digest: FUSED), Memo()
    )
    assert area(made, NAVY) == pytest.approx(4 * 26 * 36)


BROKEN = b"""<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">
<path d="M52.6 24A23.5 23.5 0 1 0 52.6 36" fill="none" stroke="#14100c" stroke-width="2"/></svg>"""
BRIDGE = {"kind": "bridge", "id": "bridge-1", "start": {"x": 52.6 / 60, "y": 24 / 60}, "end": {"x": 52.6 / 60, "y": 36 / 60}}


def test_a_bridged_outline_can_be_filled() -> None:
    middle = pin((0.5, 0.5), RED)
    assert proof_of(built(BROKEN, pins=[middle]))[-1].code == "lost-pins"
    made = built(BROKEN, pins=[middle], mends=[BRIDGE])
    check_invariants(made)
    assert area(made, RED) == pytest.approx(3.14159 * 22.5**2, rel=0.02)
    off = built(BROKEN, pins=[middle], mends=[{**BRIDGE, "on": False}])
    assert RED not in [item.film for item in off.layers]


def test_a_step_that_finds_nothing_is_told_and_changes_nothing() -> None:
    steps = [
        {
            "kind": "cut-away",
            "id": "cut-1",
            "film": RED,
            "around": [{"x": 0, "y": 0}, {"x": 0.1, "y": 0}, {"x": 0, "y": 0.1}],
        }
    ]
    made = built(FUSED, mends=steps)
    assert [n.code for n in proof_of(made)] == ["idle-mend"]
    assert area(made, INK) == pytest.approx(area(built(FUSED), INK))


def step(kind: str, **more: Any) -> Any:
    points = {k: tuple({"x": x / 100, "y": y / 100} for x, y in more.pop(k)) for k in ("around", "path") if k in more}
    ends = {k: {"x": more[k][0] / 100, "y": more.pop(k)[1] / 100} for k in ("start", "end") if k in more}
    return TypeAdapter(Mend).validate_python({"kind": kind, "id": "step", **more, **points, **ends})


@pytest.mark.parametrize(
    ("made", "areas"),
    [
        (step("cut-away", film=RED, around=[(0, 0), (20, 0), (20, 10), (0, 10)]), (2800, 60, 2940)),
        (step("cut-away", around=[(40, 0), (60, 0), (60, 10), (40, 10)]), (2900, 50, 2850)),
        (step("brush", film=RED, path=[(60, 10)], width_mm=4), (3000 + 12.566, 60, 2940 - 12.566)),
        (step("brush", film=NAVY, path=[(60, 10)], width_mm=4, mode="take"), (3000, 60, 2940 - 12.566)),
        (step("brush", film=TEAL, path=[(20, 10), (30, 10)], width_mm=2), (3000 - 23.14, 60, 2940)),
        (step("take-over", film=INK), (3030, 0, 2970)),
        (step("take-over", film=INK, into=RED), (3060, 0, 2940)),
        (step("take-over", film=INK, into=NAVY, around=[(40, 0), (60, 0), (60, 30), (40, 30)]), (3000, 30, 2970)),
        (step("take-over", film=INK, into=RED, thinner_mm=2), (3060, 0, 2940)),
        (step("take-over", around=[(-2, 0), (60, 0), (60, 30), (-2, 30)]), (3060, 60, 2940)),
        (step("take-over", around=[(-2, 0), (60, 0), (60, 30), (-2, 30)], film=NAVY, into=INK), (3000, 330, 2670)),
        (step("let-go", film=RED), (0, 3060, 2940)),
        (step("let-go", film=RED, close=False), (0, 60, 2940)),
        (step("straighten", film=RED, start=(50, 20), end=(50, 40)), (3000, 60, 2940)),
        (step("smooth", film=NAVY, start=(51, 10), end=(51, 50)), (3000, 60, 2940)),
    ],
    ids=lambda made: getattr(made, "kind", None),
)
def test_every_step_does_what_it_says_and_opens_no_seam(made: Any, areas: tuple[float, ...]) -> None:
    after = mended(HALVES, [made], 100)
    assert after.idle == ()
    assert [after.by_film.get(k, MultiPolygon()).area for k in (RED, INK, NAVY)] == pytest.approx(areas, rel=0.004)
    parts = list(after.by_film.values())
    assert shapely.union_all(parts).area == pytest.approx(sum(p.area for p in parts), rel=1e-9)


def test_a_film_is_replaced_by_lettering_or_a_shadow() -> None:
    art = {"kind": "vector", "id": "file", "file": "a" * 64, "pins": [pin(RIGHT, RED), pin(ISLE, NAVY)]}
    recipe = Recipe.model_validate({"name": "File", "arts": [art], "joint": {"kind": "full", "mm": 0}})
    lettering = LetteringArt(text="8", film=NAVY, height_mm=10, place=Place(x_mm=45, y_mm=25))
    assets = Assets(picture=no_picture, file=lambda digest: FUSED)
    made = build(apply_edit(recipe, ReplaceFilm(art="file", film=NAVY, lettering=lettering)), assets, Memo())
    # The island's area went to what surrounds it, and the letter lies on that.
    assert area(made, RED) == pytest.approx(26 * 36)
    assert 20 < area(made, NAVY) < 100
    shadow = OutlineShadow(film=NAVY, of=(RED,), mm=1)
    made = build(apply_edit(recipe, ReplaceFilm(art="file", film=NAVY, shadow=shadow)), assets, Memo())
    assert area(made, NAVY) == pytest.approx(28 * 38, rel=0.02)


def test_an_edge_is_pushed_under_what_lies_on_it() -> None:
    push = {
        "kind": "push",
        "id": "push-1",
        "film": RED,
        "mm": 1.5,
        "start": {"x": 28 / 60, "y": 10 / 60},
        "end": {"x": 28 / 60, "y": 30 / 60},
    }
    plain, pushed = (built(FUSED, order=(RED, INK), pins=[pin(LEFT, RED)], mends=m) for m in ([], [push]))
    assert (wrong_area_ratio(pushed), most_films(pushed)) == (pytest.approx(0, abs=1e-6), 2)
    assert area(pushed, RED) - area(plain, RED) == pytest.approx(30, rel=0.01)
    assert area(pushed, INK) == area(plain, INK)


def test_a_pushed_edge_never_shows_in_a_gap_above_it() -> None:
    ends = {"start": {"x": 28 / 60, "y": 10 / 60}, "end": {"x": 28 / 60, "y": 30 / 60}}
    push = {"kind": "push", "id": "push-1", "film": RED, "mm": 3, **ends}
    art = {"kind": "vector", "id": "file", "file": "a" * 64, "pins": [pin(LEFT, RED)], "mends": [push]}
    bar = {"kind": "shape", "id": "bar", "form": {"form": "rectangle", "width_mm": 1, "height_mm": 60}, "film": TEAL,
           "place": {"x_mm": 30, "y_mm": 20}}  # fmt: skip
    gap = {"a": INK, "b": TEAL, "rule": {"kind": "gap", "mm": 0.5}}
    recipe = Recipe.model_validate({"name": "F", "arts": [art, bar], "order": [RED, INK, TEAL], "pairs": [gap]})
    made = build(recipe, Assets(picture=no_picture, file=lambda digest: FUSED), Memo())
    check_invariants(made)
    low, *upper = (item.cut for item in made.layers)
    assert low.bounds[2] == pytest.approx(29)
    assert shapely.difference(low, shapely.union_all([made.layers[0].shape, *upper])).area < 1e-6


def test_simplifying_tells_what_it_saves() -> None:
    points = "L".join(f"{x:.3f} {y:.3f}" for x, y in jagged(3000, 0.04)[:-1] + 90)
    made = built(
        SVG % (b'width="180mm" height="180mm" viewBox="0 0 180 180"', f'<path d="M{points}z"/>'.encode()), simplify_mm=0.1
    )
    regions = made.arts[0].regions
    assert regions is not None
    saving = regions.saving
    assert saving is not None
    assert saving.nodes_after == sum(item.outline.nodes for item in made.layers) < 400 < 2900 < saving.nodes_before
    assert saving.seconds_after < saving.seconds_before
    assert 0 < saving.deviation_mm <= 0.1


FILMS = ("#112233", "#c0392b", "#f2b632")


@st.composite
def mosaics(draw: st.DrawFn) -> tuple[Painting, list[Claim]]:
    """A board of fields in three films, some of them rings with a core, and what becomes of any of them."""
    films = FILMS
    fields: dict[str, list[Any]] = {film: [] for film in films}
    for x in range(4):
        for y in range(3):
            field = box(10 * x, 10 * y, 10 * x + 10, 10 * y + 10)
            if draw(st.booleans()):
                r = draw(st.sampled_from([1, 2, 4]))
                core = box(10 * x + 5 - r, 10 * y + 5 - r, 10 * x + 5 + r, 10 * y + 5 + r)
                fields[draw(st.sampled_from(films))].append(core)
                field = field.difference(core)
            fields[draw(st.sampled_from(films))].append(field)
    painted = tuple(
        Paint(film, film, MultiPolygon(list(shapely.get_parts(shapely.coverage_union_all(own)))))
        for film, own in fields.items()
        if own
    )
    becomes = st.sampled_from(["merged", "outer", "inner", "open", "hole", "own"])
    spots = st.tuples(st.integers(0, 39), st.integers(0, 29))
    pins = [Claim(x + 0.37, y + 0.61, becomes=how) for (x, y), how in draw(st.lists(st.tuples(spots, becomes)))]
    return Painting((40.0, 30.0), painted, waits=True), pins


@given(mosaics())
@settings(max_examples=examples(80))
def test_no_area_is_lost_whatever_is_claimed(board: tuple[Painting, list[Claim]]) -> None:
    painting, pins = board
    regions = regions_of(painting)
    claimed = claim(regions, pins)
    left_open = {k for k, p in claimed.held if p.becomes == "open"}
    open_area = sum(regions.all[k].shape.area for k in left_open)
    held = sum(s.area for s in claimed.by_film.values()) + claimed.holes.area
    taken_over = sum(1 for _, p in claimed.held if p.becomes in ("merged", "outer", "inner"))
    # What is open or a hole keeps what was merged into it, so the whole is never less than the board.
    assert held + open_area <= 1200 + 1e-6
    if not left_open or not taken_over:
        assert held + open_area == pytest.approx(1200, abs=1e-6)
    shapes = list(claimed.by_film.values())
    assert shapely.union_all(shapes).area == pytest.approx(sum(s.area for s in shapes), abs=1e-6)


def test_a_ring_and_its_core_both_merged_go_to_what_surrounds_them() -> None:
    around = box(0, 0, 40, 40).difference(box(18, 18, 22, 22))
    ring = box(18, 18, 22, 22).difference(box(19, 19, 21, 21))
    painted = tuple(
        Paint(film, film, MultiPolygon([shape]))
        for film, shape in (("#112233", around), ("#c0392b", ring), ("#f2b632", box(19, 19, 21, 21)))
    )
    regions = regions_of(Painting((40.0, 40.0), painted, waits=True))
    pins = [Claim(18.5, 20, becomes="merged"), Claim(20, 20, becomes="merged")]
    for order in (pins, pins[::-1]):
        made = claim(regions, order).by_film
        assert {film: shape.area for film, shape in made.items()} == {"#112233": pytest.approx(1600)}


HANDED_ON = st.one_of(
    st.builds(lambda film: TakeOver(film=film), st.sampled_from(FILMS)),
    st.builds(lambda film, mm: TakeOver(film=film, thinner_mm=mm), st.sampled_from(FILMS), st.floats(1, 9)),
    st.builds(lambda film, into: TakeOver(film=film, into=into), st.sampled_from(FILMS), st.sampled_from(FILMS)),
    st.builds(
        lambda film, x, y: TakeOver(
            film=film, around=tuple(ArtPoint(x=x + dx, y=y + dy) for dx, dy in ((0, 0), (0.4, 0), (0.2, 0.3)))
        ),
        st.sampled_from(FILMS), st.floats(0, 0.6), st.floats(0, 0.4),
    ),
    st.builds(lambda film: LetGo(film=film), st.sampled_from(FILMS)),
)  # fmt: skip


@given(mosaics(), st.lists(HANDED_ON, max_size=4))
@settings(max_examples=examples(80))
def test_no_area_is_lost_whatever_is_handed_on(board: tuple[Painting, list[Claim]], steps: list[Mend]) -> None:
    """On a board without gaps all that one film gives up goes to the others."""
    by_film = claim(regions_of(board[0]), []).by_film
    made = mended(by_film, [step.model_copy(update={"id": f"step-{k}"}) for k, step in enumerate(steps)], 40)
    shapes = list(made.by_film.values())
    let_go_of_all = not any(not shape.is_empty for shape in shapes)
    assert sum(s.area for s in shapes) == pytest.approx(0 if let_go_of_all else 1200, abs=1e-4)
    assert shapely.union_all(shapes).area == pytest.approx(sum(s.area for s in shapes), abs=1e-4)
