"""Fonts that can be varied, other forms of letters, and letters lent by another font."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.lettering.faces import Face, open_face
from gladstack.core.lettering.forms import font_choices, shapes_of_form
from gladstack.core.lettering.lettering import Lettering, Line, Tweak
from gladstack.core.lettering.setting import lay_out
from gladstack.recipe.model.fonts import FALLBACKS, shipped_font
from tests.fonts import bars_font

BARS = bars_font()


def test_a_font_that_can_be_varied_is_named_without_the_style_it_begins_at() -> None:
    face = open_face(BARS)
    assert (face.family, face.style) == ("Bars", "")


def width_of(face: Face) -> float:
    (letter,) = lay_out(Lettering((Line("I", face, 700.0),))).letters
    assert letter.glyph.box is not None
    return letter.glyph.box[2] - letter.glyph.box[0]


def test_a_font_that_can_be_varied_is_regular_unless_told() -> None:
    assert width_of(open_face(BARS)) == pytest.approx(400, abs=1)


@given(st.floats(0, 1500))
def test_a_weight_gives_what_the_font_says_within_its_ends(weight: float) -> None:
    assert width_of(open_face(BARS, (("wght", weight),))) == pytest.approx(min(max(weight, 100), 900), abs=1)


def test_a_font_tells_its_axes_and_styles() -> None:
    choices = font_choices(BARS, "I")
    (axis,) = choices.axes
    assert (axis.tag, axis.name, axis.least, axis.usual, axis.most) == ("wght", "Weight", 100, 400, 900)
    assert [(s.name, s.at) for s in choices.styles] == [("Regular", (("wght", 400.0),)), ("Black", (("wght", 900.0),))]
    assert font_choices(shipped_font("inter-black"), "I").axes == ()


def test_forms_are_told_for_the_letters_that_have_them() -> None:
    data = shipped_font("lobster-two")
    forms = {form.tag: form for form in font_choices(data, "A").forms}
    plain = {form.tag for form in font_choices(data, "·").forms}
    assert forms
    assert not plain
    assert all(form.count >= 1 and form.name for form in forms.values())
    assert "liga" not in forms


def test_a_form_on_one_letter_leaves_the_others() -> None:
    data = shipped_font("inter-black")
    face = open_face(data)
    tag = next(form.tag for form in font_choices(data, "1").forms)
    line = Line("111", face, 20.0)
    plain = lay_out(Lettering((line,))).letters
    one = lay_out(Lettering((line,), tweaks={1: Tweak(forms=((tag, 1),))})).letters
    assert one[1].glyph is not plain[1].glyph
    assert all(one[k].glyph is plain[k].glyph for k in (0, 2))
    all_of_them = lay_out(Lettering((Line("111", face, 20.0, forms=((tag, 1),)),))).letters
    assert all(letter.glyph is one[1].glyph for letter in all_of_them)


def test_every_form_that_is_offered_changes_the_letters() -> None:
    for key in ("lobster-two", "kaushan-script", "dancing-script", "inter-black", "roboto-slab"):
        data = shipped_font(key)
        face = open_face(data)
        for form in font_choices(data, "Rae1").forms:
            for value in range(1, form.count + 1):
                assert shapes_of_form(face, "Rae1", ((form.tag, value),)) != shapes_of_form(face, "Rae1", ()), (key, form)


@pytest.mark.parametrize(
    ("text", "lender"), [("Ada שלום", "Noto Sans Hebrew"), ("Ada क्षत्रिय", "Noto Sans Devanagari"), ("Ada سلام", "Amiri")]
)
def test_letters_a_font_has_not_are_lent_and_told(text: str, lender: str) -> None:
    others = tuple(open_face(shipped_font(key)) for key in FALLBACKS)
    laid = lay_out(Lettering((Line(text, open_face(shipped_font("lobster-two")), 20.0, others=others),)))
    assert not laid.missing
    assert {other for _, _, other in laid.lent} == {lender}
    assert {c for c, _, _ in laid.lent} == set(text.split()[1])
    # A word that is lent is shaped as that font shapes it by itself.
    word = text.split()[1]
    own = lay_out(Lettering((Line(word, next(f for f in others if f.family == lender), 20.0),))).letters
    assert all(a.glyph is b.glyph for a, b in zip([a for a in laid.letters if a.text in word], own, strict=True))


def test_what_no_font_has_is_left_out_and_told() -> None:
    others = tuple(open_face(shipped_font(key)) for key in FALLBACKS)
    laid = lay_out(Lettering((Line("A\u4e00", open_face(shipped_font("lobster-two")), 20.0, others=others),)))
    assert [c for c, _ in laid.missing] == ["\u4e00"]
    assert len(laid.letters) == 1
