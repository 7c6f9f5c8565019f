"""Small stacks of boxes and discs, drawn at random."""

from __future__ import annotations

from typing import Any

import shapely
from hypothesis import strategies as st
from shapely import MultiPolygon

from gladstack.core.films.joints import Joint, JointKind, Upper, cut_shape
from gladstack.core.geometry.shapes import clean

JOINTS = st.sampled_from(
    [Joint(JointKind.BUTT), Joint(JointKind.LAP, 0.3), Joint(JointKind.LAP, 0.8), Joint(JointKind.FULL)]
)


@st.composite
def shapes(draw: Any) -> list[MultiPolygon]:
    """What is wanted of two to four films, from the ground up."""
    out = []
    for _ in range(draw(st.integers(2, 4))):
        x, y = draw(st.integers(0, 6)), draw(st.integers(0, 6))
        if draw(st.booleans()):
            shape = shapely.box(x, y, x + draw(st.integers(2, 6)), y + draw(st.integers(2, 5)))
        else:
            shape = shapely.Point(x, y).buffer(draw(st.integers(1, 4)), quad_segs=12)
        out.append(clean(shape))
    return out


def cuts_of(stack: list[MultiPolygon], joint: Joint) -> list[MultiPolygon]:
    """What is cut of each film, joined in one way to all above it."""
    return [cut_shape(shape, [Upper(above, joint) for above in stack[k + 1 :]]) for k, shape in enumerate(stack)]
