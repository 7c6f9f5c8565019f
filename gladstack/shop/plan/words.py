"""Which parts are the letters of one word: they are kept together, boxed together and counted together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from shapely import Polygon

from gladstack.core.base.plane import Box
from gladstack.recipe.art.given import LetterFacts
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.fields import shown

_AROUND = 0.6
"""How far a part may reach beyond its letter, as a share of the letter's height, and still be of it."""


@dataclass(frozen=True)
class Letter:
    """A letter where it stands in the decal: what it is, of which art, line and word of it, counted from 0 through the
    design.
    """

    text: str
    art: str
    line: int
    word: int
    box: Box


def letters_of(built: Built) -> tuple[Letter, ...]:
    """All letters of a design; words are parted by spaces and lines."""
    out: list[Letter] = []
    word = 0
    for pieces in built.arts:
        art, facts = built.recipe.art(pieces.id), pieces.facts
        if not isinstance(art, LetteringArt) or not isinstance(facts, LetterFacts):
            continue
        number, line = {}, {}
        row = 0
        for k, char in enumerate(shown(art.text)):
            if char.isspace():
                word, row = word + 1, row + (char == "\n")
            number[k], line[k] = word, row
        word += 1
        out += [Letter(text, art.id, line.get(k, 0), number.get(k, word), box) for k, text, box in facts.letters]
    return tuple(out)


def letter_of(part: Polygon, letters: Sequence[Letter]) -> Letter | None:
    """The letter that a part is, or is a part of; None for what is none, or larger than one."""
    left, top, right, bottom = part.bounds
    x, y = (left + right) / 2, (top + bottom) / 2
    best: tuple[float, Letter] | None = None
    for letter in letters:
        x0, y0, x1, y1 = letter.box
        around = _AROUND * (y1 - y0)
        if left >= x0 - around and top >= y0 - around and right <= x1 + around and bottom <= y1 + around:
            off = (x - (x0 + x1) / 2) ** 2 + (y - (y0 + y1) / 2) ** 2
            if best is None or off < best[0]:
                best = off, letter
    return best[1] if best else None
