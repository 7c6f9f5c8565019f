"""Fit lines and cubic Beziers to runs of points, with true corners kept.

A run is split at its corners; between two corners the longest possible cubics follow each other with a common tangent (G1).
Each is a least-squares fit after Schneider (Graphics Gems I, 1990): chord-length parameters, control points from the normal
equations, parameters improved by Newton steps. At a corner or a free end the control point is free in both coordinates;
at a smooth split it lies on the tangent.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from gladstack.core.base.compiled import jit

_NEWTON_ROUNDS = 3
_TURN_LIMIT = np.cos(np.radians(80.0))
"""No piece turns by more: readers flatten strongly bent cubics coarsely, and not alike in both directions."""
_LARGE_RISE = 14.0
_LARGE_TURN_LIMIT = np.cos(np.radians(50.0))
"""Pieces whose middle rises higher than that above their chord turn by less still, for the same reason."""


@jit
def smooth_run(p: Any, closed: bool, rounds: int) -> None:
    """Binomial smoothing in place, `rounds` times (sigma = sqrt(rounds / 2) points); the ends of an open run stay."""
    n = p.shape[0]
    if n < 3:
        return
    for _ in range(rounds):
        first0, first1 = p[0, 0], p[0, 1]
        prev0, prev1 = (p[n - 1, 0], p[n - 1, 1]) if closed else (p[0, 0], p[0, 1])
        for i in range(n):
            here0, here1 = p[i, 0], p[i, 1]
            if i < n - 1:
                next0, next1 = p[i + 1, 0], p[i + 1, 1]
            else:
                next0, next1 = first0, first1
            if closed or 0 < i < n - 1:
                p[i, 0] = 0.25 * prev0 + 0.5 * here0 + 0.25 * next0
                p[i, 1] = 0.25 * prev1 + 0.5 * here1 + 0.25 * next1
            prev0, prev1 = here0, here1


@jit
def _solve(a: Any, b: Any, n: int) -> bool:
    """Gaussian elimination with pivoting, in place; False if singular."""
    for i in range(n):
        pivot = i
        for j in range(i + 1, n):
            if abs(a[j, i]) > abs(a[pivot, i]):
                pivot = j
        if abs(a[pivot, i]) < 1e-12:
            return False
        if pivot != i:
            for k in range(n):
                a[i, k], a[pivot, k] = a[pivot, k], a[i, k]
            b[i], b[pivot] = b[pivot], b[i]
        for j in range(i + 1, n):
            f = a[j, i] / a[i, i]
            for k in range(i, n):
                a[j, k] -= f * a[i, k]
            b[j] -= f * b[i]
    for i in range(n - 1, -1, -1):
        for k in range(i + 1, n):
            b[i] -= a[i, k] * b[k]
        b[i] /= a[i, i]
    return True


@jit
def _controls(p: Any, i0: int, i1: int, u: Any, t0: Any, t1: Any, c: Any) -> None:
    """Inner control points c[1], c[2] by least squares; a zero tangent leaves its control point free."""
    free0 = t0[0] == 0.0 and t0[1] == 0.0
    free1 = t1[0] == 0.0 and t1[1] == 0.0
    n0 = 2 if free0 else 1
    n = n0 + (2 if free1 else 1)
    m = np.zeros((4, 4))
    v = np.zeros(4)
    basis = np.zeros((4, 2))
    for i in range(i0, i1 + 1):
        s = u[i - i0]
        r = 1.0 - s
        b0, b1, b2, b3 = r * r * r, 3 * r * r * s, 3 * r * s * s, s * s * s
        if free0:
            basis[0, 0], basis[0, 1], basis[1, 0], basis[1, 1] = b1, 0.0, 0.0, b1
            ex, ey = p[i, 0] - b0 * c[0, 0] - b3 * c[3, 0], p[i, 1] - b0 * c[0, 1] - b3 * c[3, 1]
        else:
            basis[0, 0], basis[0, 1] = b1 * t0[0], b1 * t0[1]
            ex = p[i, 0] - (b0 + b1) * c[0, 0] - b3 * c[3, 0]
            ey = p[i, 1] - (b0 + b1) * c[0, 1] - b3 * c[3, 1]
        if free1:
            basis[n0, 0], basis[n0, 1], basis[n0 + 1, 0], basis[n0 + 1, 1] = b2, 0.0, 0.0, b2
        else:
            basis[n0, 0], basis[n0, 1] = b2 * t1[0], b2 * t1[1]
            ex -= b2 * c[3, 0]
            ey -= b2 * c[3, 1]
        for j in range(n):
            for k in range(n):
                m[j, k] += basis[j, 0] * basis[k, 0] + basis[j, 1] * basis[k, 1]
            v[j] += basis[j, 0] * ex + basis[j, 1] * ey
    third = np.hypot(c[3, 0] - c[0, 0], c[3, 1] - c[0, 1]) / 3.0
    for j in range(n):
        m[j, j] += 1e-9
    ok = _solve(m, v, n)
    if not ok:
        for k in range(2):
            c[1, k] = c[0, k] + (c[3, k] - c[0, k]) / 3.0
            c[2, k] = c[3, k] - (c[3, k] - c[0, k]) / 3.0
        return
    if free0:
        c[1, 0], c[1, 1] = v[0], v[1]
    else:
        a = v[0] if v[0] > 0.05 * third else third
        c[1, 0], c[1, 1] = c[0, 0] + a * t0[0], c[0, 1] + a * t0[1]
    if free1:
        c[2, 0], c[2, 1] = v[n0], v[n0 + 1]
    else:
        a = v[n0] if v[n0] > 0.05 * third else third
        c[2, 0], c[2, 1] = c[3, 0] + a * t1[0], c[3, 1] + a * t1[1]


@jit
def _improve(p: Any, i0: int, i1: int, u: Any, c: Any) -> float:
    """One Newton step for each parameter; returns the largest distance of a point to its place on the curve."""
    worst = 0.0
    for i in range(i0 + 1, i1):
        s = u[i - i0]
        r = 1.0 - s
        b0, b1, b2, b3 = r * r * r, 3 * r * r * s, 3 * r * s * s, s * s * s
        ex = b0 * c[0, 0] + b1 * c[1, 0] + b2 * c[2, 0] + b3 * c[3, 0] - p[i, 0]
        ey = b0 * c[0, 1] + b1 * c[1, 1] + b2 * c[2, 1] + b3 * c[3, 1] - p[i, 1]
        d0, d1, d2 = 3 * r * r, 6 * r * s, 3 * s * s
        ax, ay = c[1, 0] - c[0, 0], c[1, 1] - c[0, 1]
        bx, by = c[2, 0] - c[1, 0], c[2, 1] - c[1, 1]
        gx, gy = c[3, 0] - c[2, 0], c[3, 1] - c[2, 1]
        vx, vy = d0 * ax + d1 * bx + d2 * gx, d0 * ay + d1 * by + d2 * gy
        wx, wy = 6 * r * (bx - ax) + 6 * s * (gx - bx), 6 * r * (by - ay) + 6 * s * (gy - by)
        down = vx * vx + vy * vy + ex * wx + ey * wy
        if down > 1e-12:
            u[i - i0] = min(1.0, max(0.0, s - (ex * vx + ey * vy) / down))
        worst = max(worst, ex * ex + ey * ey)
    return float(np.sqrt(worst))


@jit
def _fit_cubic(p: Any, i0: int, i1: int, t0: Any, t1: Any, c: Any, u: Any) -> float:
    """Fits points i0..i1; control points to `c`; returns the largest deviation of a point."""
    c[0, 0], c[0, 1], c[3, 0], c[3, 1] = p[i0, 0], p[i0, 1], p[i1, 0], p[i1, 1]
    u[0] = 0.0
    for i in range(i0 + 1, i1 + 1):
        u[i - i0] = u[i - i0 - 1] + np.hypot(p[i, 0] - p[i - 1, 0], p[i, 1] - p[i - 1, 1])
    total = u[i1 - i0]
    if i1 - i0 < 2 or total == 0:
        for k in range(2):
            c[1, k] = c[0, k] + (c[3, k] - c[0, k]) / 3.0
            c[2, k] = c[3, k] - (c[3, k] - c[0, k]) / 3.0
        return 0.0
    for i in range(i1 - i0 + 1):
        u[i] /= total
    worst = 0.0
    for _ in range(_NEWTON_ROUNDS):
        _controls(p, i0, i1, u, t0, t1, c)
        worst = _improve(p, i0, i1, u, c)
    # A control point far outside the run's length makes loops; such a fit is refused.
    for k in (1, 2):
        if np.hypot(c[k, 0] - c[0, 0], c[k, 1] - c[0, 1]) > 1.6 * total:
            return 1e9
    ax, ay, bx, by = c[1, 0] - c[0, 0], c[1, 1] - c[0, 1], c[3, 0] - c[2, 0], c[3, 1] - c[2, 1]
    rise_x = 0.375 * (c[1, 0] + c[2, 0] - c[0, 0] - c[3, 0])
    rise_y = 0.375 * (c[1, 1] + c[2, 1] - c[0, 1] - c[3, 1])
    limit = _TURN_LIMIT if np.hypot(rise_x, rise_y) < _LARGE_RISE else _LARGE_TURN_LIMIT
    if ax * bx + ay * by < limit * np.hypot(ax, ay) * np.hypot(bx, by):
        return 1e9
    return worst


@jit
def _line_error(p: Any, i0: int, i1: int) -> float:
    dx, dy = p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1]
    n = np.hypot(dx, dy)
    worst = 0.0
    for i in range(i0 + 1, i1):
        ex, ey = p[i, 0] - p[i0, 0], p[i, 1] - p[i0, 1]
        d = np.hypot(ex, ey) if n < 1e-9 else abs(ex * dy - ey * dx) / n
        if n >= 1e-9:
            along = (ex * dx + ey * dy) / n
            d += max(0.0, -along) + max(0.0, along - n)
        worst = max(worst, d)
    return worst


@jit
def _tangent_at(p: Any, j: int, reach: int, out: Any) -> None:
    n = p.shape[0]
    a, b = max(0, j - reach), min(n - 1, j + reach)
    r = min(j - a, b - j)
    dx, dy = p[j + r, 0] - p[j - r, 0], p[j + r, 1] - p[j - r, 1]
    length = np.hypot(dx, dy)
    out[0], out[1] = (dx / length, dy / length) if length > 1e-9 else (0.0, 0.0)


@jit
def fit_run(p: Any, tolerance: float, start: Any, end: Any, longest: int, curves: Any, straight: Any, ends: Any) -> int:
    """Fits the open run `p` (n, 2) with lines and cubics, each as long as `tolerance` allows.

    `start` and `end` are unit tangents along the run, or zero where the run is free to take any. No piece spans more than
    `longest` points. Writes control points to `curves` (.., 4, 2), whether each is a line to `straight`, and the index of
    its last point to `ends`; returns how many.
    """
    n = p.shape[0]
    u = np.empty(n)
    c = np.empty((4, 2))
    best = np.empty((4, 2))
    t0 = start.copy()
    t1 = np.zeros(2)
    i = 0
    count = 0
    while i < n - 1:
        limit = min(n - 1, i + longest)
        good, step = i + 1, 4
        high = limit + 1
        _fit_cubic(p, i, good, t0, t1, best, u)
        j = min(i + step, limit)
        while j > good:
            if j == n - 1:
                t1[0], t1[1] = -end[0], -end[1]
            else:
                _tangent_at(p, j, 3, t1)
                t1[0], t1[1] = -t1[0], -t1[1]
            if _fit_cubic(p, i, j, t0, t1, c, u) <= tolerance:
                good = j
                best[:] = c
                step *= 2
                j = min(i + step, limit) if high > limit else (good + high) // 2
            else:
                high = j
                j = (good + high) // 2
        line = i + 1
        low, top = i + 1, limit + 1
        j = good
        while j > low:
            if _line_error(p, i, j) <= 0.6 * tolerance:
                low = j
                line = j
                j = min(limit, i + 2 * (j - i)) if top > limit else (low + top) // 2
                if j <= low:
                    break
            else:
                top = j
                j = (low + top) // 2
        is_line = line >= good or (line - i) >= 0.9 * (good - i)
        if is_line:
            good = line
            for k in range(2):
                best[0, k], best[3, k] = p[i, k], p[good, k]
                best[1, k] = best[0, k] + (best[3, k] - best[0, k]) / 3.0
                best[2, k] = best[3, k] - (best[3, k] - best[0, k]) / 3.0
        curves[count] = best
        straight[count] = is_line
        ends[count] = good
        dx, dy = best[3, 0] - best[2, 0], best[3, 1] - best[2, 1]
        length = np.hypot(dx, dy)
        t0[0], t0[1] = (dx / length, dy / length) if length > 1e-9 else (0.0, 0.0)
        if is_line and good - i < 3:
            _tangent_at(p, good, 3, t0)
        count += 1
        i = good
    return count


@jit
def fit_polyline(p: Any, corner: float, spacing: float, tolerance: float, whole: bool) -> tuple[Any, Any]:
    """Fits the polyline `p` (n, 2), split where it turns by more than `corner` (radians); returns curves and straightness.

    Edges are divided until no point is farther than `spacing` from the next. `whole` says that the ends of `p` are one
    point: if it has no corner there, no piece spans more than half of it.
    """
    n = p.shape[0]
    kept = np.empty((max(n, 2), 2))
    if n == 0:
        return np.empty((0, 4, 2)), np.empty(0, np.bool_)
    m = 0
    for i in range(n):
        if m == 0 or np.hypot(p[i, 0] - kept[m - 1, 0], p[i, 1] - kept[m - 1, 1]) > 1e-3:
            kept[m] = p[i]
            m += 1
    if m == 1:
        m = 2
    kept[m - 1] = p[n - 1]
    room = m
    for i in range(m - 1):
        room += int(np.hypot(kept[i + 1, 0] - kept[i, 0], kept[i + 1, 1] - kept[i, 1]) / spacing) + 1
    curves = np.empty((room, 4, 2))
    straight = np.empty(room, np.bool_)
    dense = np.empty((room, 2))
    ends = np.empty(room, np.int64)
    free = np.zeros(2)
    total = 0
    begin = 0
    while begin < m - 1:
        end = begin + 1
        while end < m - 1:
            ux, uy = kept[end, 0] - kept[end - 1, 0], kept[end, 1] - kept[end - 1, 1]
            vx, vy = kept[end + 1, 0] - kept[end, 0], kept[end + 1, 1] - kept[end, 1]
            if abs(np.arctan2(ux * vy - uy * vx, ux * vx + uy * vy)) > corner:
                break
            end += 1
        count = 0
        if end == begin + 1:
            dense[0], dense[1] = kept[begin], kept[end]
            count = 2
        else:
            for i in range(begin, end):
                steps = int(np.ceil(np.hypot(kept[i + 1, 0] - kept[i, 0], kept[i + 1, 1] - kept[i, 1]) / spacing))
                for k in range(max(1, steps)):
                    share = k / max(1, steps)
                    dense[count, 0] = kept[i, 0] + share * (kept[i + 1, 0] - kept[i, 0])
                    dense[count, 1] = kept[i, 1] + share * (kept[i + 1, 1] - kept[i, 1])
                    count += 1
            dense[count] = kept[end]
            count += 1
        longest = count
        if whole and begin == 0 and end == m - 1:
            longest = max(2, count // 2)
        total += fit_run(dense[:count], tolerance, free, free, longest, curves[total:], straight[total:], ends)
        begin = end
    return curves[:total].copy(), straight[:total].copy()
