"""True corners of traced runs: finding them, and placing them where their two sides meet."""

from __future__ import annotations

from typing import Any

import numpy as np

from gladstack.core.base.compiled import jit

_CORNER_WINDOW = 4
_CORNER_TURN = np.radians(38.0)
"""A turn below this is drawn well enough by a smooth curve."""
_CORNER_SHARE = 0.62
"""A corner turns nearly as much within a short window as within a long one; a bend only about half as much."""
_SHARP = np.radians(50.0)
_TIP_TO_SIDE = 0.4
"""How far out a tip may lie, in shares of its shorter side."""
_PIXEL_TIP = 1.1
"""Half the width, in pixels, below which the two sides of a tip blur into each other."""
_SIDE_POINTS, _SHORT_SIDE = 24, 5
_STRAIGHT_PX = 0.1
_LONG_SIDE, _FARTHEST_SIDE = 8, 10
_BEND_PX, _ACUTE = 2.0, np.radians(75.0)
"""A sharp corner is blurred to an arc of 0.4 to 1.8 pixels. In blunt ones the place where the sides meet says too little."""
_LEAST_CROSS = 0.08
"""Sides that meet at less than about 5 degrees do not tell where."""


@jit
def _turn(p: Any, i: int, k: int, closed: bool) -> float:
    n = p.shape[0]
    a, b = (i - k) % n, (i + k) % n
    if not closed and (i - k < 0 or i + k >= n):
        return 0.0
    ux, uy = p[i, 0] - p[a, 0], p[i, 1] - p[a, 1]
    vx, vy = p[b, 0] - p[i, 0], p[b, 1] - p[i, 1]
    return float(abs(np.arctan2(ux * vy - uy * vx, ux * vx + uy * vy)))


@jit
def line_through(p: Any, first: int, count: int, step: int) -> tuple[float, float, float, float, float]:
    """Least-squares line through points first, first + step, ... (cyclic): centre, direction, root-mean-square residual."""
    n = p.shape[0]
    cx = cy = 0.0
    for k in range(count):
        q = (first + k * step) % n
        cx += p[q, 0]
        cy += p[q, 1]
    cx /= count
    cy /= count
    sxx = sxy = syy = 0.0
    for k in range(count):
        q = (first + k * step) % n
        dx, dy = p[q, 0] - cx, p[q, 1] - cy
        sxx += dx * dx
        sxy += dx * dy
        syy += dy * dy
    angle = 0.5 * np.arctan2(2 * sxy, sxx - syy)
    ux, uy = np.cos(angle), np.sin(angle)
    rest = max(0.0, (sxx + syy) - (ux * ux * sxx + 2 * ux * uy * sxy + uy * uy * syy))
    return cx, cy, ux, uy, np.sqrt(rest / count)


@jit
def is_bend(p: Any, i: int, before: int, after: int) -> bool:
    """Whether corner i is round: an arc too wide for the blur of a sharp corner leads from one of its sides to the other.

    The sides are told from where they are straight, which may be some points away.
    """
    room = min(before, after) - 1
    best = np.inf
    ax = ay = au = av = bx = by = bu = bv = 0.0
    for skip in range(2, _FARTHEST_SIDE + 1, 2):
        count = min(_LONG_SIDE, room - skip)
        if count <= _SHORT_SIDE:
            break
        one = line_through(p, i - skip, count, -1)
        other = line_through(p, i + skip, count, 1)
        rough = max(one[4], other[4])
        if rough < best:
            best = rough
            ax, ay, au, av = one[0], one[1], one[2], one[3]
            bx, by, bu, bv = other[0], other[1], other[2], other[3]
        if rough < _STRAIGHT_PX:
            break
    cross = au * bv - av * bu
    if not np.isfinite(best) or abs(cross) < _LEAST_CROSS:
        return False
    t = ((bx - ax) * bv - (by - ay) * bu) / cross
    x, y = ax + t * au, ay + t * av
    dot = (ax - x) * (bx - x) + (ay - y) * (by - y)
    half = 0.5 * np.arccos(max(-1.0, min(1.0, dot / max(np.hypot(ax - x, ay - y) * np.hypot(bx - x, by - y), 1e-12))))
    away = np.inf
    for k in range(-3, 4):
        q = (i + k) % p.shape[0]
        away = min(away, np.hypot(p[q, 0] - x, p[q, 1] - y))
    # So far from where its sides meet lies an arc of that radius between them.
    return bool(half < 0.5 * _ACUTE and away > _BEND_PX * (1.0 / np.sin(half) - 1.0))


@jit
def find_corners(p: Any, closed: bool) -> Any:
    """Indices of the true corners of a run of points about one unit apart: where it turns at once, and not in an arc."""
    n = p.shape[0]
    strength = np.zeros(n)
    for i in range(n):
        room = n // 3 if closed else min(i, n - 1 - i)
        k = min(_CORNER_WINDOW, room)
        if k < 2:
            continue
        far = _turn(p, i, k, closed)
        near = _turn(p, i, 2, closed)
        if far > _CORNER_TURN and near > (_CORNER_SHARE if k > 2 else 1.0) * far and (k > 2 or far > 1.2):
            strength[i] = far + 0.5 * near
    out = np.empty(n, np.int64)
    count = 0
    for i in range(n):
        if strength[i] == 0:
            continue
        best = True
        for j in range(-3, 4):
            q = (i + j) % n if closed else i + j
            if j == 0 or q < 0 or q >= n:
                continue
            if strength[q] > strength[i] or (strength[q] == strength[i] and j < 0):
                best = False
        if best:
            out[count] = i
            count += 1
    found = out[:count].copy()
    kept = 0
    for k in range(count):
        if closed:
            before = (found[k] - found[k - 1]) % n if count > 1 else n // 2
            after = (found[(k + 1) % count] - found[k]) % n if count > 1 else n // 2
        else:
            before = found[k] - (found[k - 1] if k > 0 else 0)
            after = (found[k + 1] if k + 1 < count else n) - found[k]
        if not is_bend(p, found[k], before, after):
            out[kept] = found[k]
            kept += 1
    return out[:kept]


@jit
def _side_line(p: Any, i: int, skip: int, free: int, step: int) -> tuple[float, float, float, float, int]:
    """The line along one side of corner i, past its first `skip` points: as many points as still lie straight, and their
    number.
    """
    count = min(_SIDE_POINTS, free - skip)
    while True:
        cx, cy, ux, uy, rms = line_through(p, i + step * skip, count, step)
        if rms <= _STRAIGHT_PX or count <= _SHORT_SIDE:
            return cx, cy, ux, uy, count
        count = max(_SHORT_SIDE, count // 2)


@jit
def _meeting(p: Any, i: int, skip: int, before: int, after: int, moved: Any) -> tuple[float, int]:
    """Puts to `moved` where the lines along both sides of corner i meet; returns the angle between the sides, in radians,
    and how many points from the corner the shorter of them goes.

    The angle is zero if they do not meet clearly.
    """
    ax, ay, au, av, a_count = _side_line(p, i, skip, before, -1)
    bx, by, bu, bv, b_count = _side_line(p, i, skip, after, 1)
    straight = skip + min(a_count, b_count)
    cross = au * bv - av * bu
    if abs(cross) < _LEAST_CROSS:
        return 0.0, straight
    t = ((bx - ax) * bv - (by - ay) * bu) / cross
    moved[0], moved[1] = ax + t * au, ay + t * av
    dot = (ax - moved[0]) * (bx - moved[0]) + (ay - moved[1]) * (by - moved[1])
    reach = np.hypot(ax - moved[0], ay - moved[1]) * np.hypot(bx - moved[0], by - moved[1])
    return float(np.arccos(max(-1.0, min(1.0, dot / max(reach, 1e-12))))), straight


@jit
def sharpen_corner(p: Any, i: int, before: int, after: int) -> None:
    """Moves corner i, in place, to where the lines along both sides meet, unless that is unclear or too far off.

    `before` and `after` are how many points lie free on either side. Pixels cannot show a tip narrower than they are: the
    sharper it is, the earlier its trace ends, and the farther back both sides run too close together to be trusted. Such
    points are laid on the side's line.
    """
    n = p.shape[0]
    room = min(before, after) - 1
    if room < 4:
        return
    moved = np.empty(2)
    skip = 2
    far_before, far_after = min(before - 1, skip + _SHORT_SIDE), min(after - 1, skip + _SHORT_SIDE)
    shorter = min(before, after)
    angle, straight = _meeting(p, i, skip, far_before, far_after, moved)
    if 0.0 < angle < _SHARP:
        skip = max(2, min(round(_PIXEL_TIP / np.tan(0.5 * angle)), room - _SHORT_SIDE))
        far_before, far_after = before - 1, after - 1
        angle, straight = _meeting(p, i, skip, far_before, far_after, moved)
        shorter = min(shorter, straight)
    if angle == 0.0:
        return
    # Short sides, and bent ones, tell little of their directions: a tip reaches no farther out than a share of them.
    farthest = min(1.0 + _PIXEL_TIP / np.tan(0.5 * angle), max(1.0, _TIP_TO_SIDE * shorter))
    if np.hypot(moved[0] - p[i, 0], moved[1] - p[i, 1]) > farthest:
        return
    for side in (-1, 1):
        line_x, line_y, u, v, _ = _side_line(p, i, skip, far_before if side < 0 else far_after, side)
        for k in range(1, skip):
            q = (i + side * k) % n
            along = (p[q, 0] - line_x) * u + (p[q, 1] - line_y) * v
            p[q, 0], p[q, 1] = line_x + along * u, line_y + along * v
    p[i, 0], p[i, 1] = moved[0], moved[1]
