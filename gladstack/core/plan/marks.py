"""Registration marks, the same on all films in register; slug lines with numbers; and the small test cut."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np

from gladstack.core.base.plane import Box, Point
from gladstack.core.geometry.curves import Chain, line_chain
from gladstack.core.geometry.figures import ellipse

MarkKind = Literal["crosses", "corners", "squares", "circles"]

SIZE_MM = 5.0
DISTANCE_MM = 4.0
_ARM_MM = 1.0
_NEST_MM = 1.2


def mark_places(frame: Box, count: int, *, inside: bool) -> list[Point]:
    """The middles of marks at the corners of a frame, outside or inside it.

    Up to three: the corner without one tells a film that lies the wrong way round. The fourth is the lower right.
    """
    left, top, right, bottom = frame
    d = -(SIZE_MM / 2) if inside else DISTANCE_MM + SIZE_MM / 2
    places = [(left - d, top - d), (right + d, top - d), (left - d, bottom + d), (right + d, bottom + d)]
    return places[: max(0, min(4, count))]


def with_marks(frame: Box, count: int, *, inside: bool) -> Box:
    """A frame with the room that marks take outside it."""
    if inside or count < 1:
        return frame
    d = DISTANCE_MM + SIZE_MM
    # The fourth corner has its mark only where there are four, but the frame stays the same all round for one mark on.
    return frame[0] - d, frame[1] - d, frame[2] + d, frame[3] + d


def mark(kind: MarkKind, at: Point, nth: int = 0) -> tuple[Chain, ...]:
    """One mark round its middle. Circles and squares of the nth film lie within those of the film below."""
    if kind == "crosses":
        return (_moved(_CROSS, at),)
    if kind == "corners":
        return (_moved(_CORNER, at),)
    size = SIZE_MM - _NEST_MM * (nth % 3)
    if kind == "squares":
        h = size / 2
        return (_moved([(-h, -h), (h, -h), (h, h), (-h, h)], at),)
    (ring,) = ellipse(size, size)
    x, y = at
    middle = ring.pieces.reshape(-1, 2)
    shift = np.array([x, y]) - (middle.min(axis=0) + middle.max(axis=0)) / 2
    return (Chain(np.round(ring.pieces + shift, 4), ring.straight),)


def trial_cut(at: Point, size_mm: float) -> tuple[Chain, ...]:
    """A small shape that tells whether blade and force are right: sharp corners, a curve, and a hole with corners in it."""
    s = size_mm
    x, y = at
    arc = np.array(
        [(s - 0.3 * s * (1 - np.cos(t)), s - 0.3 * s + 0.3 * s * np.sin(t)) for t in np.linspace(0, np.pi / 2, 9)]
    )
    shell = [(0.0, 0.0), (s, 0.0), *map(tuple, arc), (0.0, s), (0.3 * s, 0.65 * s), (0.0, 0.5 * s)]
    hole = [(0.5 * s, 0.2 * s), (0.5 * s, 0.5 * s), (0.8 * s, 0.5 * s), (0.8 * s, 0.2 * s)]
    return _moved(shell, (x, y)), _moved(hole, (x, y))


def _moved(points: Sequence[Point], at: Point) -> Chain:
    ring = np.array([*points, points[0]], dtype=float) + np.array(at)
    return line_chain(np.round(ring, 4))


_a, _b = _ARM_MM / 2, SIZE_MM / 2
_CROSS = [
    (-_a, -_b),
    (_a, -_b),
    (_a, -_a),
    (_b, -_a),
    (_b, _a),
    (_a, _a),
    (_a, _b),
    (-_a, _b),
    (-_a, _a),
    (-_b, _a),
    (-_b, -_a),
    (-_a, -_a),
]
_CORNER = [(-_b, -_b), (_b, -_b), (_b, -_b + _ARM_MM), (-_b + _ARM_MM, -_b + _ARM_MM), (-_b + _ARM_MM, _b), (-_b, _b)]
