"""How the carriage moves and what its blade does: speed gained and lost on the way, and a tip that trails behind.

The tip of a swivel blade follows its axis like a castor: it always moves towards the axis. On a straight way of the axis the
angle a between blade and way falls as tan(a / 2) exp(-length / offset): the tractrix (Huygens 1692).
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

XY = tuple[float, float]

_FINE_MM = 0.05
_ALIGNED = 0.004
"""A blade this nearly in line (radians) leaves a way no different from a straight one."""
_ASIDE_MM = 0.02


@dataclass
class Trail:
    """The tip's way for a stroke of the axis: after so many mm of that the tip is there; and how it points at the end."""

    at_mm: list[float]
    tip: list[XY]
    heading: float


def trail(points: list[XY], offset_mm: float, heading: float) -> Trail:
    """Where the tip of a blade goes, lowered at the first point while it points along `heading` (radians)."""
    if offset_mm <= 0:
        along = 0.0
        at = [0.0]
        for (ax, ay), (bx, by) in itertools.pairwise(points):
            along += math.hypot(bx - ax, by - ay)
            at.append(along)
        return Trail(at, list(points), heading)
    x, y = points[0]
    at, tip = [0.0], [(x - offset_mm * math.cos(heading), y - offset_mm * math.sin(heading))]
    along = 0.0
    for bx, by in points[1:]:
        ax, ay = x, y
        length = math.hypot(bx - ax, by - ay)
        if length == 0:
            continue
        way = math.atan2(by - ay, bx - ax)
        angle = (heading - way + math.pi) % (2 * math.pi) - math.pi
        gone = 0.0
        while gone < length:
            step = length - gone if abs(angle) < _ALIGNED else min(_FINE_MM, length - gone)
            # A blade pushed straight backwards turns aside at the least chance.
            half = math.tan(max(-1.555, min(1.555, angle / 2)))
            angle = 2 * math.atan(half * math.exp(-step / offset_mm))
            gone += step
            x, y = ax + (bx - ax) * gone / length, ay + (by - ay) * gone / length
            points_to = way + angle
            at.append(along + gone)
            tip.append((x - offset_mm * math.cos(points_to), y - offset_mm * math.sin(points_to)))
        x, y = bx, by
        heading = way + angle
        along += length
    return Trail(at, tip, heading)


def schedule(points: list[XY], speed: float, acceleration: float) -> tuple[list[float], list[float]]:
    """Seconds and mm at each point of a way from rest to rest, slowing down for corners."""
    lengths = [math.hypot(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(points)]
    ways = [math.atan2(b[1] - a[1], b[0] - a[0]) for a, b in itertools.pairwise(points)]
    n = len(lengths)
    top = [0.0] * (n + 1)
    for k in range(1, n):
        turn = abs((ways[k] - ways[k - 1] + math.pi) % (2 * math.pi) - math.pi)
        s = math.cos(turn / 2)
        top[k] = speed if s > 0.999999 else min(speed, math.sqrt(acceleration * _ASIDE_MM * max(s, 0.0) / (1 - s)))
    for k in range(n):
        top[k + 1] = min(top[k + 1], math.sqrt(top[k] ** 2 + 2 * acceleration * lengths[k]))
    for k in range(n - 1, -1, -1):
        top[k] = min(top[k], math.sqrt(top[k + 1] ** 2 + 2 * acceleration * lengths[k]))
    seconds, along = [0.0], [0.0]
    for k in range(n):
        u, v, length = top[k], top[k + 1], lengths[k]
        peak = max(u, v, min(speed, math.sqrt(acceleration * length + (u * u + v * v) / 2)))
        changing = (2 * peak * peak - u * u - v * v) / (2 * acceleration)
        spent = (2 * peak - u - v) / acceleration + max(0.0, length - changing) / max(peak, 1e-9)
        seconds.append(seconds[-1] + spent)
        along.append(along[-1] + length)
    return seconds, along
