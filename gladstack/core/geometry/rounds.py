"""Closed runs of traced points that are a circle or an ellipse but for the noise of the picture."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from gladstack.core.base.compiled import jit

_LEAST_POINTS = 7
_NOISE_PX, _MOST_PX = 0.12, 0.4
"""How far off an ellipse the points of one lie in a JPEG, root mean square and at most. Squares of five pixels lie twice as
far off, hexagons as soon as they are larger than dots."""


@jit
def ellipse_of(p: Any) -> Any:
    """The ellipse that a closed run of points (n, 2) is, but for noise: its middle and the lower triangle of the matrix that
    makes it from the unit circle (x, y, xx, yx, yy). All zero if it is none.

    It is that with the run's area and moments. In a dot of few pixels every point turns as much as a corner does: only the
    whole of it tells that it has none.
    """
    out = np.zeros(5)
    n = p.shape[0]
    if n < _LEAST_POINTS:
        return out
    twice = mx = my = xx = xy = yy = 0.0
    # About its first point, so that nothing is lost to rounding far from the origin.
    for i in range(n):
        x, y = p[i, 0] - p[0, 0], p[i, 1] - p[0, 1]
        u, v = p[(i + 1) % n, 0] - p[0, 0], p[(i + 1) % n, 1] - p[0, 1]
        cross = x * v - u * y
        twice += cross
        mx += cross * (x + u)
        my += cross * (y + v)
        xx += cross * (x * x + x * u + u * u)
        yy += cross * (y * y + y * v + v * v)
        xy += cross * (2.0 * x * y + x * v + u * y + 2.0 * u * v)
    if abs(twice) < 1e-9:
        return out
    mx, my = mx / (3.0 * twice), my / (3.0 * twice)
    xx, yy, xy = xx / (6.0 * twice) - mx * mx, yy / (6.0 * twice) - my * my, xy / (12.0 * twice) - mx * my
    if xx <= 1e-9 or xx * yy - xy * xy <= 1e-9:
        return out
    mx, my = mx + p[0, 0], my + p[0, 1]
    # The moments of an ellipse are a quarter of the squares of what makes it.
    a = 2.0 * math.sqrt(xx)
    b = 4.0 * xy / a
    c = math.sqrt(4.0 * yy - b * b)
    total = 0.0
    for i in range(n):
        x, y = p[i, 0] - mx, p[i, 1] - my
        far = math.hypot(x / a, (y - b * x / a) / c)
        if far < 1e-6:
            return out
        off = math.hypot(x, y) * (1.0 - 1.0 / far)
        if abs(off) > _MOST_PX:
            return out
        total += off * off
    if total <= n * _NOISE_PX * _NOISE_PX:
        out[:] = mx, my, a, b, c
    return out


@jit
def ellipse_arcs(p: Any, ellipse: Any, curves: Any, ends: Any) -> int:
    """An ellipse along a closed run of points: how many arcs it is drawn in, one for each quarter or so.

    They go to `curves` (4, 4, 2), and to `ends` the number of the point that each ends at (n: the first again).
    """
    mx, my, a, b, c = ellipse
    n = p.shape[0]
    ahead = np.empty(n + 1)
    first = 0.0
    turned = 0.0
    for i in range(n):
        x = (p[i, 0] - mx) / a
        angle = math.atan2((p[i, 1] - my - b * x) / c, x)
        if i == 0:
            first, ahead[0] = angle, 0.0
        else:
            ahead[i] = ahead[i - 1] + (angle - first - ahead[i - 1] + math.pi) % (2.0 * math.pi) - math.pi
        turned = ahead[i]
    way = 1.0 if turned > 0.0 else -1.0
    ahead[n] = way * 2.0 * math.pi
    count, begin = 0, 0
    for i in range(1, n + 1):
        if i < n and (count == 3 or way * ahead[i] < 0.5 * math.pi * (count + 1)):
            continue
        low, high = first + ahead[begin], first + ahead[i]
        reach = 4.0 / 3.0 * math.tan(0.25 * (high - low))
        for k in range(4):
            at, along = (low, reach) if k < 2 else (high, -reach)
            x, y = math.cos(at), math.sin(at)
            if k in (1, 2):
                x, y = x - along * math.sin(at), y + along * math.cos(at)
            curves[count, k, 0], curves[count, k, 1] = mx + a * x, my + b * x + c * y
        ends[count] = i
        begin = i
        count += 1
    return count
