"""Vector files as art: films by colour, regions by pins, sizes by reading."""

from __future__ import annotations

import io
from typing import Any

import ezdxf
import pytest
import shapely

from gladstack.core.base.errors import VectorError
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets, FileFacts
from gladstack.recipe.art.vectors import HowRead, is_vector, picture_within, read_vector
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo
from tests.recipe.stacks import check_invariants, no_picture
from tests.recipe.vector_files import FUSED, SVG, area, built, rainbow

RED, NAVY = "#c0392b", "#1d2b53"
BARE = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 96 48"><rect width="96" height="48" fill="#c0392b"/></svg>'


def test_a_fused_outline_opens_as_regions_that_films_can_claim() -> None:
    plain = built(FUSED)
    assert [item.film for item in plain.layers] == ["#14100c"]
    pins = [{"x": 10 / 60, "y": 20 / 60, "film": RED}, {"x": 34 / 60, "y": 20 / 60, "film": NAVY}]
    claimed = built(FUSED, pins=pins)
    check_invariants(claimed)
    assert area(claimed, RED) == pytest.approx(26 * 36)
    assert area(claimed, NAVY) == pytest.approx(26 * 36 - 120)
    assert area(claimed, "#14100c") == pytest.approx(area(plain, "#14100c"))
    assert shapely.union_all([item.cut for item in claimed.layers]).area == pytest.approx(60 * 40)


def test_a_region_can_be_left_open_and_a_lost_claim_is_told() -> None:
    open_ = built(FUSED, pins=[{"x": 45 / 60, "y": 20 / 60, "film": None}])
    assert area(open_, "#14100c") == pytest.approx(area(built(FUSED), "#14100c") - 120)
    lost = built(FUSED, pins=[{"x": 500 / 60, "y": 20 / 60, "film": RED}])
    assert [n.code for n in proof_of(lost)] == ["lost-pins"]


@pytest.mark.parametrize(("reading", "width"), [("as-told", 25.4), ("96-dpi", 25.4), ("72-dpi", 96 * 25.4 / 72), ("mm", 96)])
def test_bare_units_are_read_as_chosen(reading: str, width: float) -> None:
    made = built(BARE, reading=reading)
    assert made.width_mm == pytest.approx(width)
    told = [n for n in proof_of(made) if n.code == "size-guess"]
    assert bool(told) == (reading == "as-told")
    for fix in (fix for finding in told for fix in finding.fixes):
        art = apply_edit(made.recipe, fix.edit).arts[0]
        settled = built(BARE, reading=art.reading)  # type: ignore[union-attr]
        assert f"{settled.width_mm:.1f} mm wide" in told[0].text
        assert "size-guess" not in {n.code for n in proof_of(settled)}


def test_a_drawing_of_lines_is_asked_for_its_units_and_not_for_pixels() -> None:
    told = next(n for n in proof_of(built(dxf(0))) if n.code == "size-guess")
    assert "dpi" not in told.text
    assert "inches" in told.text
    assert [fix.label for fix in told.fixes] == ["Read as mm", "Read as cm", "Read as inches"]
    wide = [built(dxf(0), reading=reading).width_mm for reading in ("mm", "cm", "in")]
    assert wide == pytest.approx([wide[0], 10 * wide[0], 25.4 * wide[0]])


def test_colours_merge_and_drop() -> None:
    data = BARE.replace(
        b"</svg>", b'<circle cx="20" cy="20" r="9" fill="#c0392d"/><circle cx="70" cy="20" r="9" fill="#1d2b53"/></svg>'
    )
    merged = built(data, merges=[{"colour": "#c0392d", "into": RED}], dropped=[NAVY])
    assert [item.film for item in merged.layers] == [RED]
    assert len(merged.layers[0].cut.geoms[0].interiors) == 1


def test_art_keeps_its_curves_when_it_is_placed() -> None:
    data = SVG % (b'width="40mm" height="40mm" viewBox="0 0 40 40"', b'<circle cx="20" cy="20" r="15"/>')
    made = built(data, place={"x_mm": 30, "y_mm": 5, "turn_deg": 30, "scale_x": 2, "scale_y": 2})
    (layer,) = made.layers
    assert layer.outline.nodes <= 16
    assert layer.cut.area == pytest.approx(3.14159 * 900, rel=1e-3)


def dxf(unit: int) -> bytes:
    document = ezdxf.new("R2010")  # type: ignore[attr-defined]
    document.units = unit
    space = document.modelspace()
    for a, b in (((0, 0), (4, 0)), ((4, 3), (4, 0)), ((4, 3), (0, 3)), ((0, 0), (0, 3))):
        space.add_line(a, b, dxfattribs={"color": 1})
    space.add_circle((2, 1.5), 1, dxfattribs={"color": 1})
    space.add_line((9, 9), (10, 10), dxfattribs={"color": 5})
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


@pytest.mark.parametrize(("unit", "mm"), [(1, 25.4), (4, 1.0), (5, 10.0)])
def test_dxf_outlines_are_joined_end_to_end_at_their_size(unit: int, mm: float) -> None:
    data = dxf(unit)
    assert is_vector(data)
    drawing = read_vector(data)
    assert (drawing.width_mm, drawing.height_mm) == pytest.approx((4 * mm, 3 * mm))
    (item,) = drawing.items
    assert item.colour == "#ff0000"
    assert item.shape.area == pytest.approx((12 - 3.14159) * mm * mm, rel=5e-3)
    assert [f.code for f in drawing.remarks] == ["open"]


def test_open_dxf_outlines_are_closed_or_expanded() -> None:
    document = ezdxf.new("R2010")  # type: ignore[attr-defined]
    document.units = 4
    document.modelspace().add_lwpolyline([(0, 0), (30, 0), (30, 20)], dxfattribs={"color": 1})
    out = io.StringIO()
    document.write(out)
    data = out.getvalue().encode()
    with pytest.raises(VectorError, match="no closed outlines"):
        read_vector(data)
    assert read_vector(data, HowRead(open_paths="close")).items[0].shape.area == pytest.approx(300)
    lines_ = read_vector(data, HowRead(open_paths="expand", line_mm=2))
    assert lines_.items[0].shape.area == pytest.approx(100 + 3.14159, rel=0.02)
    assert lines_.open_paths == 1


def alike(made: Built) -> tuple[tuple[str, str], ...]:
    facts = made.arts[0].facts
    assert isinstance(facts, FileFacts)
    return facts.alike


def test_near_equal_shades_are_offered_to_be_merged() -> None:
    data = BARE.replace(b"</svg>", b'<rect width="9" height="9" fill="#c13a2c"/><rect x="40" width="9" height="9"/></svg>')
    assert alike(built(data)) == (("#c13a2c", RED),)
    assert alike(built(data, merges=[{"colour": "#c13a2c", "into": RED}])) == ()


@pytest.mark.parametrize("data", [b"  0\nSECTION\n  2\nnonsense", dxf(4)[:300]])
def test_broken_dxf_is_refused_with_a_reason(data: bytes) -> None:
    with pytest.raises(VectorError):
        read_vector(data)


def test_a_reference_to_a_picture_outside_is_no_picture() -> None:
    wrapper = SVG % (b'width="9mm" height="9mm"', b'<image href="http://a.example/b.png" width="9" height="9"/>')
    with pytest.raises(VectorError, match="outside it"):
        picture_within(wrapper)
    assert picture_within(BARE) is None


def lines(**more: Any) -> Built:
    from bench.line_drawings import DRAWINGS, scan

    data = scan(DRAWINGS["window"], 500, bad=True)
    art = {"kind": "line-art", "id": "page", "picture": "b" * 64, "width_mm": 100, "speck_mm": 1, **more}
    recipe = Recipe.model_validate({"name": "Page", "arts": [art]})
    return build(recipe, Assets(picture=lambda digest: data), Memo())


CELL = {"x": 0.2, "y": 0.2, "film": RED}


def test_line_art_has_its_ink_and_what_is_claimed() -> None:
    plain = lines()
    assert [item.film for item in plain.layers] == ["#14100c"]
    assert plain.arts[0].regions is not None
    waiting = len(plain.arts[0].regions.waiting)
    assert waiting > 16
    claimed = lines(pins=[CELL, {"x": 0.4, "y": 0.4, "film": RED}])
    check_invariants(claimed)
    assert claimed.arts[0].regions is not None
    assert len(claimed.arts[0].regions.waiting) == waiting - 2
    assert area(claimed, RED) == pytest.approx(18.9**2 + 3.14159 * 5.45**2, rel=0.05)
    assert area(lines(ink="solid"), "#14100c") > 0.9 * 80 * 80
    assert [item.film for item in lines(ink="none", pins=[CELL]).layers] == [RED]


def test_claims_stay_with_another_threshold_smoothing_and_size() -> None:
    for more in ({"threshold": 170}, {"smoothing_mm": 0.8}, {"width_mm": 37.0, "speck_mm": 0.4}):
        made = lines(pins=[CELL], **more)
        assert proof_of(made) == ()
        scale = more.get("width_mm", 100) / 100
        assert area(made, RED) == pytest.approx((18.9 * scale) ** 2, rel=0.08)


def outline(*entities: tuple[str, dict[int, object]], blocks: str = "") -> bytes:
    rows = []
    for kind, codes in entities:
        rows += ["  0", kind, "  8", "0", *(f"{row}" for code, value in codes.items() for row in (code, value))]
    text = "\n".join(["  0", "SECTION", "  2", "ENTITIES", *rows, "  0", "ENDSEC", "  0", "EOF", ""])
    return (blocks + text).encode()


def line_of(a: tuple[float, float], b: tuple[float, float]) -> tuple[str, dict[int, object]]:
    return "LINE", {10: a[0], 20: a[1], 11: b[0], 21: b[1]}


def test_lines_are_joined_whatever_their_order_and_direction() -> None:
    corners = [(0, 0), (30, 0), (30, 20), (15, 9), (0, 20)]
    sides = [line_of(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    turned = [line_of(b, a) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    mixed = [sides[2], turned[0], sides[4], turned[3], sides[1]]
    for given in (sides, mixed, mixed[::-1]):
        (item,) = read_vector(outline(*given)).items
        assert item.shape.area == pytest.approx(600 - 165)


def test_blocks_are_followed_and_arcs_and_splines_stay_curves() -> None:
    document = ezdxf.new("R2010")  # type: ignore[attr-defined]
    document.units = 4
    block = document.blocks.new("MOON")
    block.add_circle((0, 0), 5)
    space = document.modelspace()
    for x in (0, 30):
        space.add_blockref("MOON", (x, 0), dxfattribs={"xscale": 2, "yscale": 2})
    space.add_arc((60, 0), 10, 0, 180)
    space.add_line((50, 0), (70, 0))
    out = io.StringIO()
    document.write(out)
    drawing = read_vector(out.getvalue().encode())
    (item,) = drawing.items
    assert item.shape.area == pytest.approx(2 * 3.14159 * 100 + 3.14159 * 50, rel=1e-3)
    assert sum(not straight for c in item.curves for straight in c.chain.straight.tolist()) >= 8
    assert sum(len(c.chain) for c in item.curves) < 24


@pytest.mark.parametrize("radius", ["1e308", "nan", "-1e400"])
def test_outlines_that_are_no_figures_are_left_out_and_told(radius: str) -> None:
    square = [(0, 0), (9, 0), (9, 9), (0, 9)]
    sides = [line_of(a, b) for a, b in zip(square, square[1:] + square[:1], strict=True)]
    drawing = read_vector(outline(*sides, ("CIRCLE", {10: 0, 20: 0, 40: radius})))
    assert drawing.items[0].shape.area == pytest.approx(81)
    assert "circle" in {f.code: f.text for f in drawing.remarks}["numbers"]


def test_a_file_that_tells_no_unit_is_taken_for_millimetres_and_says_so() -> None:
    drawing = read_vector(outline(("CIRCLE", {10: 0, 20: 0, 40: 5})))
    assert (drawing.told, drawing.width_mm) == (False, pytest.approx(10))


OVERHANGING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30">'
    b'<rect x="-10" y="5" width="40" height="10" fill="#1d2b53"/>'
    b'<path d="M5 20h20v5h-20z M30 20h0.05v0.05h-0.05z" fill="#c0392b"/></svg>'
)


def test_what_lies_beyond_the_page_is_cut_off_unless_it_is_kept() -> None:
    made = built(OVERHANGING)
    assert made.width_mm == pytest.approx(30, abs=0.01)
    told = {f.code: f for f in proof_of(made)}
    assert "by up to 10.0 mm" in told["overhang"].text
    assert {"overhang", "slivers"} <= set(told)
    (fix,) = told["overhang"].fixes
    kept = apply_edit(made.recipe, fix.edit)
    whole = build(kept, Assets(picture=no_picture, file=lambda digest: OVERHANGING))
    assert whole.width_mm == pytest.approx(40, abs=0.01)


@pytest.mark.parametrize("count", [3, 7, 24, 40])
def test_the_nearest_colours_of_a_file_become_one_film(count: int) -> None:
    made = built(rainbow(40), count=count)
    assert len(made.layers) == count
    assert sum(item.cut.area for item in made.layers) == pytest.approx(400, rel=1e-3)
    assert {item.film for item in made.layers} <= {item.film for item in built(rainbow(40)).layers}


def test_a_file_of_many_colours_offers_to_make_the_nearest_one() -> None:
    made = built(rainbow(40))
    told = next(f for f in proof_of(made) if f.code == "many-colours")
    fewer = apply_edit(made.recipe, told.fixes[0].edit)
    assert fewer.arts[0].count == 24  # type: ignore[union-attr]
    assert "many-colours" not in {f.code for f in proof_of(built(rainbow(24)))}


def test_see_through_paint_can_be_mixed_and_taken_for_solid_again() -> None:
    tint = b'<rect x="12" y="12" width="6" height="6" fill="#000000" opacity="0.5"/></svg>'
    solid = built(BARE.replace(b"</svg>", tint))
    assert "#000000" in {layer.film for layer in solid.layers}
    (fix,) = next(f for f in proof_of(solid) if f.code == "see-through").fixes
    mixed = built(BARE.replace(b"</svg>", tint), tints=fix.edit.arts[0].tints)
    assert "#000000" not in {layer.film for layer in mixed.layers}
    assert len(mixed.layers) == len(solid.layers)
    (back,) = next(f for f in proof_of(mixed) if f.code == "see-through").fixes
    assert back.edit.arts[0].tints == "solid"
