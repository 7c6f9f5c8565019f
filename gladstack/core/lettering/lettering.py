"""Lettering as it is asked for, and as it is laid out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from gladstack.core.geometry.curves import Matrix
from gladstack.core.lettering.directions import Direction
from gladstack.core.lettering.faces import Face, Glyph

Align = Literal["left", "centre", "right"]


MAX_LETTERS = 2000


@dataclass(frozen=True)
class Line:
    """One line: its text, font and the height of its capitals in mm.

    `width_mm` scales it to that width of ink; `like` to the width of the line with that index; with `spread` its letters
    keep their size and are set farther apart instead, where that is wider. `spacing_mm` is its own between letters.
    `direction` is which way it reads; letters that its font has not come from the first of `others` that has them. `forms`
    are features of the font that all its letters are set with (tag, which form).
    """

    text: str
    face: Face
    height_mm: float
    width_mm: float | None = None
    like: int | None = None
    direction: Direction = "auto"
    others: tuple[Face, ...] = ()
    forms: tuple[tuple[str, int], ...] = ()
    spacing_mm: float | None = None
    spread: bool = False


@dataclass(frozen=True)
class Bend:
    """A baseline on a circle: `radius_mm` to the first line's, which runs over the top or along the bottom."""

    radius_mm: float
    sense: Literal["over", "under"] = "over"


@dataclass(frozen=True)
class Tweak:
    """One letter moved (mm), turned about the middle of its foot (degrees clockwise), scaled, and set in other forms."""

    dx_mm: float = 0.0
    dy_mm: float = 0.0
    turn_deg: float = 0.0
    scale: float = 1.0
    forms: tuple[tuple[str, int], ...] = ()


@dataclass(frozen=True)
class Lettering:
    """Lines with their spacing: `spacing_mm` between letters, `leading` from baseline to baseline in letter heights.

    `width_mm` or `height_mm` scale the whole to that extent of ink. `tweaks` are by the index of a character in the
    whole text, line ends counted as one character each; `pairs` is how many mm farther apart two letters are set wherever
    the second follows the first.
    """

    lines: tuple[Line, ...]
    spacing_mm: float = 0.0
    leading: float = 1.6
    align: Align = "centre"
    width_mm: float | None = None
    height_mm: float | None = None
    bend: Bend | None = None
    tweaks: Mapping[int, Tweak] | None = None
    pairs: Mapping[tuple[str, str], float] | None = None


@dataclass(frozen=True)
class Letter:
    """One glyph as set: the index of its character, that text, and its place (font units to lettering millimetres)."""

    index: int
    text: str
    glyph: Glyph
    matrix: Matrix


@dataclass(frozen=True)
class Layout:
    """All letters that have ink, the characters that no font has (character, font family), those that came from another
    font (character, the line's font, the other), and how many times as large as it was told each line is set.
    """

    letters: tuple[Letter, ...]
    missing: tuple[tuple[str, str], ...]
    lent: tuple[tuple[str, str, str], ...] = ()
    scales: tuple[float, ...] = ()
