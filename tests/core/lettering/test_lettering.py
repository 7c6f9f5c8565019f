"""Lettering: the font's own outlines, set by a real shaper, in place."""

from __future__ import annotations

import io
import math

import numpy as np
import pytest
import shapely
from fontTools.pens.areaPen import AreaPen
from fontTools.ttLib import TTFont
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.base.errors import FontError
from gladstack.core.geometry.curves import Chain, flatten_chain
from gladstack.core.lettering.faces import Face, open_face, shape_run
from gladstack.core.lettering.lettering import Bend, Lettering, Line, Tweak
from gladstack.core.lettering.setting import ink_box, lay_out, letter_curves, letter_shape, overlapping, unwelded, weld
from gladstack.recipe.model.fonts import SHIPPED, ShippedFont, shipped_font
from tests.examples import examples

HERE = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
FACES: dict[str, Face] = {}


def face(key: str) -> Face:
    return FACES.setdefault(key, open_face(shipped_font(key)))


def shapes_of(lettering: Lettering) -> list[shapely.MultiPolygon]:
    letters = lay_out(lettering).letters
    curves = letter_curves(letters, HERE)
    return [letter_shape(letter, own) for letter, own in zip(letters, curves, strict=True)]


def area_of(chain: Chain) -> float:
    """The signed area that a closed chain bounds, by Green's theorem on a very fine polygon."""
    x, y = flatten_chain(chain, 1e-4).T
    return float(0.5 * np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]))


def one_line(text: str, font: str = "inter-black", height: float = 20.0, **more: object) -> Lettering:
    return Lettering((Line(text, face(font), height),), **more)  # type: ignore[arg-type]


LETTERS = {"Hebrew": "אבגדהו", "Devanagari": "कखगघचट", "Thai": "กขคงจช", "Armenian": "ԱԲԳԴԵԶ", "Georgian": "აბგდევ"}


@pytest.mark.parametrize("shipped", SHIPPED, ids=lambda f: f.key)
def test_outlines_are_the_fonts_own(shipped: ShippedFont) -> None:
    """The area of each letter against what another reader of the same font finds, to 0.05 %."""
    font = shipped.key
    data = TTFont(io.BytesIO(shipped_font(font)))
    glyphs, names = data.getGlyphSet(), data.getGlyphOrder()
    scale = 40.0 / face(font).cap_height
    checked = 0
    for letter in LETTERS.get(shipped.manner, "OBSag8"):
        laid = lay_out(one_line(letter, font, 40.0)).letters
        if not laid or laid[0].glyph.nesting is None:
            continue
        (curves,) = letter_curves(laid, HERE)
        area = abs(sum(area_of(c.chain) for c in curves))
        pen = AreaPen(glyphs)
        glyphs[names[shape_run(face(font), letter, rtl=False)[0].glyph]].draw(pen)
        assert area == pytest.approx(abs(pen.value) * scale**2, rel=5e-4)
        checked += 1
    assert checked >= 3


@pytest.mark.parametrize("font", [f.key for f in SHIPPED if f.manner not in LETTERS])
def test_every_shipped_font_sets_accents_and_digits_whole(font: str) -> None:
    laid = lay_out(one_line("Ästhétique 0123", font))
    assert laid.missing == ()
    assert all(s.is_valid and s.area > 0 for s in shapes_of(one_line("Ästhétique 0123", font)))


def test_capitals_are_as_high_as_asked_and_a_fitted_line_as_wide() -> None:
    box = ink_box(lay_out(one_line("HEX", height=33.0)).letters)
    assert box is not None
    assert box[3] - box[1] == pytest.approx(33.0, abs=0.02)
    wide = Lettering(
        (Line("OBSERVATORY", face("roboto-slab"), 20), Line("hill", face("lobster-two"), 9, like=0)), width_mm=150
    )
    shapes = shapes_of(wide)
    lines = [shapely.union_all(shapes[:11]), shapely.union_all(shapes[11:])]
    assert [line.bounds[2] - line.bounds[0] for line in lines] == pytest.approx([150, 150], abs=0.01)


def test_kerning_and_ligatures_are_the_shapers() -> None:
    def advance(text: str) -> float:
        return sum(g.advance for g in shape_run(face("inter-black"), text, rtl=False))

    assert advance("AV") < advance("A") + advance("V")
    joined = shape_run(face("lobster-two"), "fi", rtl=False)
    apart = shape_run(face("lobster-two"), "fi", rtl=False, ligatures=False)
    assert (len(joined), len(apart)) == (1, 2)


def test_what_reads_to_the_left_is_set_to_the_left_and_joined() -> None:
    letters = lay_out(one_line("مرصد", "amiri")).letters
    assert [letter.index for letter in letters] == [3, 2, 1, 0]
    alone = sum(s.area for c in "مرصد" for s in shapes_of(one_line(c, "amiri")))
    assert sum(s.area for s in shapes_of(one_line("مرصد", "amiri"))) != pytest.approx(alone, rel=0.01)
    mixed = lay_out(one_line("مرصد 12 Hill", "amiri")).letters
    assert "".join(letter.text for letter in mixed if letter.text.isascii()) == "Hill12"


def test_a_missing_glyph_is_named() -> None:
    laid = lay_out(one_line("Aعz", "inter-black"))
    assert [c for c, _ in laid.missing] == ["ع"]
    assert [letter.text for letter in laid.letters] == ["A", "z"]


def test_a_bent_line_stands_on_its_circle() -> None:
    for sense, side in (("over", 1), ("under", -1)):
        letters = lay_out(one_line("HHHHH", height=8, bend=Bend(40, sense))).letters  # type: ignore[arg-type]
        middle = (0.0, side * 40.0)
        for letter, shape in zip(letters, shapes_of(one_line("HHHHH", height=8, bend=Bend(40, sense))), strict=True):  # type: ignore[arg-type]
            near, far = shape.distance(shapely.Point(middle)), shape.hausdorff_distance(shapely.Point(middle))
            low, high = (near, far) if sense == "over" else (far, near)
            assert low == pytest.approx(40, abs=0.35)
            assert abs(high - low) == pytest.approx(8, abs=0.5)
            assert math.hypot(letter.matrix[0], letter.matrix[1]) > 0
    with pytest.raises(FontError, match="larger radius"):
        lay_out(Lettering((Line("A", face("kristi"), 9), Line("B", face("kristi"), 9)), bend=Bend(10)))


def test_a_nudged_letter_moves_alone() -> None:
    plain = shapes_of(one_line("STAR"))
    nudged = shapes_of(one_line("STAR", tweaks={1: Tweak(dx_mm=3, dy_mm=-2)}))
    assert [a.equals(b) for a, b in zip(plain, nudged, strict=True)] == [True, False, True, True]
    assert nudged[1].centroid.x - plain[1].centroid.x == pytest.approx(3, abs=1e-3)
    turned = shapes_of(one_line("STAR", tweaks={1: Tweak(turn_deg=90, scale=2)}))
    assert turned[1].area == pytest.approx(4 * plain[1].area, rel=1e-3)


def test_script_is_welded_into_one_piece_and_unwelded_letters_are_told() -> None:
    shapes = shapes_of(one_line("moon", "lobster-two"))
    assert overlapping(shapes)
    welded = weld(shapes)
    assert len(welded.geoms) == 1
    assert welded.is_valid
    lost = sum(shapely.intersection(shapes[i], shapes[j]).area for i, j in overlapping(shapes))
    assert unwelded(shapes).area == pytest.approx(sum(s.area for s in shapes) - 2 * lost, rel=1e-6)


@given(
    st.text(alphabet="Night of stars & moons 09é", min_size=1, max_size=14),
    st.sampled_from(["lobster-two", "cherry-bomb", "bebas-neue"]),
)
@settings(max_examples=examples(40))
def test_any_words_come_out_valid_and_welded(text: str, font: str) -> None:
    shape = weld(shapes_of(one_line(text, font)))
    assert shape.is_valid
    assert all(p.area > 0 for p in shape.geoms)


def test_what_is_no_font_is_refused_with_a_reason() -> None:
    data = shipped_font("kristi")
    for bad in (b"", b"not a font at all", data[:5000], b"ttcf" + data[4:], b"wOF2" + data[4:200]):
        with pytest.raises(FontError):
            open_face(bad)


def test_woff2_reads_like_the_font_it_packs() -> None:
    font = TTFont(io.BytesIO(shipped_font("comic-neue")))
    font.flavor = "woff2"
    packed = io.BytesIO()
    font.save(packed)
    own = open_face(packed.getvalue())
    assert own.family == face("comic-neue").family
    glyph, same = own.glyph(30), face("comic-neue").glyph(30)
    assert glyph.box == same.box
