"""Plain shapes as closed curves about their own middle, in millimetres, y down."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from gladstack.core.geometry.curves import Chain, join_chains, line_chain

_QUARTER = 4.0 / 3.0 * math.tan(math.pi / 8)
"""Handle of the cubic that comes closest to a quarter of a circle (Stone and DeRose 1989)."""

Point = tuple[float, float]


def rectangle(width: float, height: float, radius: float = 0.0) -> tuple[Chain, ...]:
    """A rectangle; `radius` rounds its corners, at most to half its shorter side."""
    r = max(0.0, min(radius, width / 2, height / 2))
    x, y = width / 2, height / 2
    if r == 0:
        return (_polyline([(-x, -y), (x, -y), (x, y), (-x, y)]),)
    parts: list[Chain] = []
    corners = [(x - r, -y + r, -90.0), (x - r, y - r, 0.0), (-x + r, y - r, 90.0), (-x + r, -y + r, 180.0)]
    for cx, cy, start in corners:
        parts.append(_arc(cx, cy, r, r, math.radians(start)))
    return (_joined(parts),)


def ellipse(width: float, height: float) -> tuple[Chain, ...]:
    """An ellipse by its two diameters."""
    return (_joined([_arc(0.0, 0.0, width / 2, height / 2, k * math.pi / 2) for k in range(4)]),)


def polygon(sides: int, across: float) -> tuple[Chain, ...]:
    """A regular polygon with its corners on a circle `across` wide, one of them at the top."""
    return (_polyline([_on_circle(across / 2, k / sides) for k in range(sides)]),)


def star(points: int, across: float, inner: float) -> tuple[Chain, ...]:
    """A star with its tips on a circle `across` wide; `inner` is the share of that where its notches lie."""
    tips = [_on_circle(across / 2 * (1.0 if k % 2 == 0 else inner), k / (2 * points)) for k in range(2 * points)]
    return (_polyline(tips),)


def ring(across: float, band: float) -> tuple[Chain, ...]:
    """A circular band `across` wide over all and `band` from edge to edge; the hole runs the other way round."""
    outer, inner = ellipse(across, across)[0], ellipse(across - 2 * band, across - 2 * band)[0]
    return outer, Chain(inner.pieces[::-1, ::-1], inner.straight[::-1])


def heart(width: float, height: float) -> tuple[Chain, ...]:
    """A heart that fills its box, its tip at the bottom."""
    # Half of it in a box of 1 x 1 about the middle; the other half is its mirror image.
    half = [
        [(0.0, -0.27), (0.045, -0.42), (0.15, -0.5), (0.26, -0.5)],
        [(0.26, -0.5), (0.40, -0.5), (0.5, -0.39), (0.5, -0.235)],
        [(0.5, -0.235), (0.5, 0.05), (0.22, 0.22), (0.0, 0.5)],
    ]
    right = np.array(half)
    left = right[::-1, ::-1] * np.array([-1.0, 1.0])
    pieces = np.concatenate([right, left]) * np.array([width, height])
    return (Chain(pieces, np.zeros(6, np.bool_)),)


def ribbon(width: float, height: float, fold: float) -> tuple[Chain, ...]:
    """A banner ribbon: a bowed panel whose notched ends hang `fold` lower, in one outline."""
    x, panel = width / 2, 0.32 * width
    bow = 0.12 * height
    top, bottom = -height / 2, height / 2 - fold
    rows = [
        _cubic((-panel, top + bow), (-panel / 3, top - bow / 3), (panel / 3, top - bow / 3), (panel, top + bow)),
        _line((panel, top + bow), (panel, top + fold)),
        _line((panel, top + fold), (x, top + fold)),
        _line((x, top + fold), (x - 0.45 * (x - panel), (top + fold + height / 2) / 2)),
        _line((x - 0.45 * (x - panel), (top + fold + height / 2) / 2), (x, height / 2)),
        _line((x, height / 2), (0.72 * panel, height / 2)),
        _line((0.72 * panel, height / 2), (0.72 * panel, bottom + 0.45 * bow)),
        _cubic((0.72 * panel, bottom + 0.45 * bow), (panel / 4, bottom - bow / 3), (-panel / 4, bottom - bow / 3),
               (-0.72 * panel, bottom + 0.45 * bow)),
        _line((-0.72 * panel, bottom + 0.45 * bow), (-0.72 * panel, height / 2)),
        _line((-0.72 * panel, height / 2), (-x, height / 2)),
        _line((-x, height / 2), (-x + 0.45 * (x - panel), (top + fold + height / 2) / 2)),
        _line((-x + 0.45 * (x - panel), (top + fold + height / 2) / 2), (-x, top + fold)),
        _line((-x, top + fold), (-panel, top + fold)),
        _line((-panel, top + fold), (-panel, top + bow)),
    ]  # fmt: skip
    return (_joined(rows),)


def _on_circle(radius: float, share: float) -> Point:
    angle = 2 * math.pi * share - math.pi / 2
    return radius * math.cos(angle), radius * math.sin(angle)


def _polyline(points: Sequence[Point]) -> Chain:
    return line_chain(np.array([*points, points[0]], dtype=np.float64))


def _line(a: Point, b: Point) -> Chain:
    return line_chain(np.array([a, b], dtype=np.float64))


def _cubic(a: Point, b: Point, c: Point, d: Point) -> Chain:
    return Chain(np.array([[a, b, c, d]], dtype=np.float64), np.zeros(1, np.bool_))


def _arc(cx: float, cy: float, rx: float, ry: float, start: float) -> Chain:
    """A quarter of an ellipse, clockwise on screen from angle `start`."""

    def at(angle: float) -> Point:
        return cx + rx * math.cos(angle), cy + ry * math.sin(angle)

    def along(angle: float) -> Point:
        return -rx * math.sin(angle) * _QUARTER, ry * math.cos(angle) * _QUARTER

    a, d = at(start), at(start + math.pi / 2)
    u, v = along(start), along(start + math.pi / 2)
    return _cubic(a, (a[0] + u[0], a[1] + u[1]), (d[0] - v[0], d[1] - v[1]), d)


def _joined(parts: Sequence[Chain]) -> Chain:
    """Parts end to end as a closed ring, with lines where an end does not meet the next beginning."""
    chains: list[Chain] = []
    for k, part in enumerate(parts):
        chains.append(part)
        following = parts[(k + 1) % len(parts)]
        if float(np.hypot(*(following.start - part.end))) > 1e-9:
            chains.append(line_chain(np.array([part.end, following.start])))
    whole = join_chains(chains)
    pieces = whole.pieces.copy()
    pieces[:, 3] = np.roll(pieces[:, 0], -1, axis=0)
    return Chain(pieces, whole.straight)
