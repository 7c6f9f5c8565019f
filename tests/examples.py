"""How many cases random tests draw: a share of what they are worth, all of it where time does not count."""

from __future__ import annotations

import os

SHARE = float(os.environ.get("GLADSTACK_EXAMPLES", "0.35"))
"""1 in the bench. The cases are the same every time, so that what was drawn once keeps being tested."""
_LEAST = 3


def examples(count: int) -> int:
    """The share of `count` cases that is drawn."""
    return max(min(count, _LEAST), round(count * SHARE))
