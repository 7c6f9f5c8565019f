"""Which way the letters of a line run, and which script they belong to: the Unicode bidirectional algorithm (UAX #9), worked
out by a library, and scripts after UAX #24.

The library gives a line in the order it is seen, not which letter stands where. Two marks that have no effect on the order
are put behind each letter in turn: where they stand tells its place, and which comes first tells its direction.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from bidi import get_base_level, get_display
from fontTools.unicodedata import script

Direction = Literal["auto", "ltr", "rtl"]

_MARKS = "\u200b\u00ad"
"""Two boundary neutrals: they take part in nothing (UAX #9, X9)."""
_GUARDS = {"L": "a", "R": "\u05d0"}
"""A letter of the line's own direction behind it changes nothing before it, and keeps its end from being an end."""
_RIGHT_TO_LEFT = ("R", "AL", "AN", "RLE", "RLO", "RLI")
_OF_NO_SCRIPT = ("Zyyy", "Zinh", "Zzzz")
JOINED = ("Arab", "Syrc", "Nkoo", "Mand", "Mong", "Phag", "Adlm", "Rohg", "Deva", "Beng", "Guru")
"""Scripts whose letters join in a word."""


@dataclass(frozen=True)
class Run:
    """Letters of one direction and one script, as they stand beside each other: the index of the first in reading order, the
    text in that order, whether it runs to the left, and its script (ISO 15924; None: of none).
    """

    first: int
    text: str
    leftward: bool
    script: str | None


@lru_cache(256)
def runs_of(text: str, direction: Direction = "auto") -> tuple[Run, ...]:
    """The runs of a line from left to right as they are seen; `direction` is the line's own (auto: of its first letter)."""
    if not text:
        return ()
    scripts = _scripts(text)
    out: list[Run] = []
    for first, last, leftward in _stretches(text, direction):
        parts = list(_by_script(text, scripts, first, last, leftward))
        out.extend(reversed(parts) if leftward else parts)
    return tuple(out)


def _stretches(text: str, direction: Direction) -> Iterator[tuple[int, int, bool]]:
    """Stretches of one direction from left to right: first and last index, and whether they run to the left."""
    if direction != "rtl" and not any(unicodedata.bidirectional(c) in _RIGHT_TO_LEFT for c in text):
        yield 0, len(text) - 1, False
        return
    order, leftward = _order(text, direction)
    begin = 0
    for k in range(1, len(order) + 1):
        step = -1 if leftward[order[begin]] else 1
        if k < len(order) and leftward[order[k]] == leftward[order[begin]] and order[k] == order[k - 1] + step:
            continue
        a, b = order[begin], order[k - 1]
        yield min(a, b), max(a, b), leftward[a]
        begin = k


def _order(text: str, direction: Direction) -> tuple[list[int], list[bool]]:
    """Which letter stands at each place from left to right, and of each letter whether it runs to the left."""
    base = "R" if direction == "rtl" or (direction == "auto" and get_base_level(text) % 2) else "L"
    guarded = text + _GUARDS[base]
    order, leftward = [-1] * len(text), [False] * len(text)
    for k in range(len(text)):
        shown = get_display(guarded[: k + 1] + _MARKS + guarded[k + 1 :], base_dir=base)
        first, second = shown.index(_MARKS[0]), shown.index(_MARKS[1])
        leftward[k] = first > second
        # A letter that runs to the left stands right of its marks; the guard of such a line stands before all.
        place = second if leftward[k] else first - 1
        order[place - (base == "R")] = k
    return order, leftward


def _scripts(text: str) -> list[str | None]:
    """The script of each letter; signs that have none go with what stands before them, or else after."""
    known = [None if (s := script(c)) in _OF_NO_SCRIPT else s for c in text]
    before = next((s for s in known if s is not None), None)
    out = []
    for own in known:
        before = own or before
        out.append(before)
    return out


def _by_script(text: str, scripts: list[str | None], first: int, last: int, leftward: bool) -> Iterator[Run]:
    begin = first
    for k in range(first + 1, last + 2):
        if k <= last and scripts[k] == scripts[begin]:
            continue
        yield Run(begin, text[begin:k], leftward, scripts[begin])
        begin = k
