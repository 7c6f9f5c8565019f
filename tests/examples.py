"""How many cases random tests draw: a share of what they are worth, all of it where time does not count."""

from __future__ import annotations

import os
from collections.abc import Sequence
from typing import TypeVar

T = TypeVar("T")

SHARE = float(os.environ.get("GLADSTACK_EXAMPLES", "0.35"))
"""1 in the bench. The cases are the same every time, so that what was drawn once keeps being tested."""
_LEAST = 3


def examples(count: int) -> int:
    """The share of `count` cases that is drawn."""
    return max(min(count, _LEAST), round(count * SHARE))


def some(cases: Sequence[T]) -> list[T]:
    """The share of the cases of a test that takes long for each, from all over them; at least two."""
    count = max(min(len(cases), 2), round(len(cases) * SHARE))
    return [cases[k * len(cases) // count] for k in range(count)]
