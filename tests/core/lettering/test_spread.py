"""Lines with a spacing of their own, and lines brought to a common width by setting their letters apart."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.lettering.faces import open_face
from gladstack.core.lettering.lettering import Layout, Lettering, Line
from gladstack.core.lettering.setting import ink_box, lay_out
from gladstack.recipe.model.fonts import shipped_font
from tests.examples import examples

FACE = open_face(shipped_font("inter-black"))
WORDS = st.text("ABDEGHMOfiltu ", min_size=2, max_size=12).filter(lambda text: len(text.replace(" ", "")) > 1)


def rows_of(layout: Layout, first: int) -> tuple[tuple[float, float, float, float], ...]:
    """The ink of the first line, of so many characters, and of the rest."""
    parts = [x for x in layout.letters if x.index < first], [x for x in layout.letters if x.index >= first]
    boxes = tuple(ink_box(part) for part in parts)
    assert all(box is not None for box in boxes)
    return boxes  # type: ignore[return-value]


@given(WORDS, st.floats(1.05, 4), st.floats(0, 2))
@settings(max_examples=examples(60))
def test_a_line_is_spread_to_a_width_and_its_letters_keep_their_size(text: str, wider: float, spacing: float) -> None:
    plain = ink_box(lay_out(Lettering((Line(text, FACE, 10.0),), spacing)).letters)
    assert plain is not None
    width = wider * (plain[2] - plain[0])
    layout = lay_out(Lettering((Line(text, FACE, 10.0, width_mm=width, spread=True),), spacing))
    box = ink_box(layout.letters)
    assert box is not None
    assert box[2] - box[0] == pytest.approx(width, abs=1e-3)
    assert box[3] - box[1] == pytest.approx(plain[3] - plain[1], rel=1e-6)
    assert layout.scales == (1.0,)


@given(WORDS, WORDS)
@settings(max_examples=examples(40))
def test_two_lines_end_flush_on_both_sides(first: str, second: str) -> None:
    lines = Line(first, FACE, 10.0, width_mm=300.0, spread=True), Line(second, FACE, 10.0, like=0, spread=True)
    one, other = rows_of(lay_out(Lettering(lines)), len(first) + 1)
    assert (one[0], one[2]) == (pytest.approx(other[0], abs=1e-3), pytest.approx(other[2], abs=1e-3))


def test_a_line_may_have_a_spacing_of_its_own() -> None:
    lines = Line("HOHO", FACE, 10.0), Line("HOHO", FACE, 10.0, spacing_mm=3.0)
    one, other = rows_of(lay_out(Lettering(lines)), 5)
    assert (other[2] - other[0]) - (one[2] - one[0]) == pytest.approx(9.0)


def test_a_single_letter_cannot_be_spread_and_is_scaled() -> None:
    (box,) = [ink_box(lay_out(Lettering((Line("O", FACE, 10.0, width_mm=40.0, spread=True),))).letters)]
    assert box is not None
    assert box[2] - box[0] == pytest.approx(40.0)


@given(st.text("AVO ", min_size=2, max_size=14).filter(lambda text: text.strip() == text), st.floats(-0.5, 3))
@settings(max_examples=examples(60))
def test_a_pair_is_set_apart_wherever_its_letters_meet_and_nothing_else(text: str, gap: float) -> None:
    plain, apart = (
        ink_box(lay_out(Lettering((Line(text, FACE, 10.0),), pairs=pairs)).letters) for pairs in (None, {("A", "V"): gap})
    )
    assert plain is not None
    assert apart is not None
    assert (apart[2] - apart[0]) - (plain[2] - plain[0]) == pytest.approx(text.count("AV") * gap, abs=1e-3)


def test_a_pair_of_what_reads_to_the_left_is_set_apart_too() -> None:
    face, text = open_face(shipped_font("noto-hebrew")), "אב"
    plain, apart = (
        ink_box(lay_out(Lettering((Line(text, face, 10.0),), pairs=pairs)).letters)
        for pairs in (None, {(text[0], text[1]): 2.0})
    )
    assert plain is not None
    assert apart is not None
    assert (apart[2] - apart[0]) - (plain[2] - plain[0]) == pytest.approx(2.0, abs=1e-3)
