"""A lettering's direction reaches its letters, and spacing leaves scripts that join whole."""

from __future__ import annotations

from gladstack.core.lettering.directions import runs_of
from gladstack.core.lettering.faces import open_face
from gladstack.core.lettering.setting import _apart, lay_out
from gladstack.recipe.art.words import lettering_of
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.fonts import shipped_font


def placed(art: LetteringArt) -> str:
    """The letters of an art from left to right."""
    face = open_face(shipped_font(art.font))
    letters = lay_out(lettering_of(art, {(art.font, ()): face})).letters
    return "".join(letter.text for letter in sorted(letters, key=lambda one: one.matrix[4]))


def test_a_line_that_reads_to_the_left_begins_at_its_right() -> None:
    assert placed(LetteringArt(text="Ada 12!")) == "Ada12!"
    assert placed(LetteringArt(text="Ada 12!", direction="rtl")) == "!Ada12"


def test_spacing_parts_letters_but_not_those_of_joined_scripts() -> None:
    for text, spaced in (("Ada", True), ("عدد", False)):
        (run,) = runs_of(text)
        assert _apart(text, run, 0, 1) is spaced
    (run,) = runs_of("عدد عدد")
    assert _apart(run.text, run, 2, 3)
