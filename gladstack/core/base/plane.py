"""Points and boxes of the plane, in millimetres."""

from __future__ import annotations

from collections.abc import Sequence

Point = tuple[float, float]
Box = tuple[float, float, float, float]
"""Left, top, right and bottom."""


def box_around(boxes: Sequence[Box]) -> Box | None:
    """The smallest box around some; None around none."""
    if not boxes:
        return None
    left, top, right, bottom = zip(*boxes, strict=True)
    return min(left), min(top), max(right), max(bottom)


def within(a: Box, b: Box, mm: float) -> bool:
    """Whether two boxes are no farther apart than that, from left to right and from top to bottom."""
    return a[0] - mm <= b[2] and b[0] <= a[2] + mm and a[1] - mm <= b[3] and b[1] <= a[3] + mm
