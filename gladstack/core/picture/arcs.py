"""From traced cracks to fitted arcs, all in one compiled pass: choose points, place junctions, split, smooth, fit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.corners import find_corners, line_through, sharpen_corner
from gladstack.core.geometry.fit import fit_run, smooth_run
from gladstack.core.geometry.rounds import ellipse_arcs, ellipse_of
from gladstack.core.picture.trace import TracedArcs

FloatArray = npt.NDArray[np.float64]

_QUIET_PX = 0.12
"""Points of a clean edge lie closer to a smooth line than this; above it, following them would only copy noise."""
_NOISE_TO_TOLERANCE = 2.2
_MOST_ROUGH = 2.5


@dataclass(frozen=True)
class FittedArcs:
    """The curves of all arcs, in pixels.

    Arc k owns pieces `starts[k]:starts[k + 1]` of `curves` (m, 4, 2) and `straight` (m,). `cracks` (m, 2) are the first and
    last crack each piece stands for, as indices into the traced points (last before first in a loop that wraps).
    """

    curves: FloatArray
    straight: npt.NDArray[np.bool_]
    starts: npt.NDArray[np.int64]
    cracks: npt.NDArray[np.int64]


@jit
def _choose_points(points: Any, vertical: Any, fixed: Any, first: int, last: int, loop: bool, out: Any) -> int:
    """Indices of the cracks that face the edge best, first <= i < last.

    Along a flat slope the few steep cracks of the staircase look along the edge, not across it, and are left out.
    """
    n = last - first
    count = 0
    for i in range(n):
        same = 0
        total = 0
        for j in range(i - 4, i + 5):
            if loop:
                q = j % n
            elif 0 <= j < n:
                q = j
            else:
                continue
            total += 1
            same += vertical[first + q] == vertical[first + i]
        if fixed[first + i] or same >= 0.42 * total:
            out[count] = first + i
            count += 1
    return count


@jit
def _place_nodes(
    vertices: Any, starts: Any, points: Any, vertical: Any, fixed: Any, width: int, height: int, first_ring: int
) -> Any:
    """Where each arc's two ends go: (arcs, 2, 2). Ends at one junction get one place.

    Each arc is continued as a straight line from its first few points; the junction goes where these lines come closest,
    held lightly to its pixel corner. On the picture's border it may only slide along it.
    """
    arcs = starts.shape[0] - 1
    key = np.full((height + 1) * (width + 1), -1, np.int32)
    count = 0
    sums = np.zeros((2 * arcs + 1, 5))
    where = np.zeros((2 * arcs + 1, 2))
    nodes = np.full((arcs, 2), -1, np.int32)
    picks = np.empty(16, np.int64)
    near = np.empty((16, 2))
    for arc in range(first_ring):
        first, last = starts[arc], starts[arc + 1] - 1
        for side in range(2):
            v = first if side == 0 else last
            x, y = vertices[v, 0], vertices[v, 1]
            k = key[y * (width + 1) + x]
            if k < 0:
                k = count
                key[y * (width + 1) + x] = k
                where[k, 0], where[k, 1] = x, y
                count += 1
            nodes[arc, side] = k
            room = min(9, last - first)
            begin = first if side == 0 else last - room
            m = _choose_points(points, vertical, fixed, begin, begin + room, False, picks)
            used = 0
            for q in range(m):
                i = picks[q] if side == 0 else picks[m - 1 - q]
                if used < 6 and np.hypot(points[i, 0] - x, points[i, 1] - y) > 1.3:
                    near[used, 0], near[used, 1] = points[i, 0], points[i, 1]
                    used += 1
            if used < 3:
                continue
            cx, cy, ux, uy, rms = line_through(near[:used], 0, used, 1)
            weight = 1.0 / (0.05 + rms) ** 2
            nx, ny = -uy, ux
            d = nx * cx + ny * cy
            sums[k, 0] += weight * nx * nx
            sums[k, 1] += weight * nx * ny
            sums[k, 2] += weight * ny * ny
            sums[k, 3] += weight * nx * d
            sums[k, 4] += weight * ny * d
    for k in range(count):
        x, y = where[k, 0], where[k, 1]
        on_x, on_y = x == 0 or x == width, y == 0 or y == height
        hold = 0.02 * (sums[k, 0] + sums[k, 2]) + 1e-6
        hx, hy = hold + (1e9 if on_x else 0.0), hold + (1e9 if on_y else 0.0)
        a, b, c = sums[k, 0] + hx, sums[k, 1], sums[k, 2] + hy
        p, q = sums[k, 3] + hx * x, sums[k, 4] + hy * y
        det = a * c - b * b
        px, py = (c * p - b * q) / det, (a * q - b * p) / det
        if on_x:
            px = x
        if on_y:
            py = y
        if np.hypot(px - x, py - y) <= 1.1 and not (on_x and on_y):
            where[k, 0], where[k, 1] = px, py
    out = np.empty((arcs, 2, 2))
    for arc in range(first_ring):
        for side in range(2):
            out[arc, side] = where[nodes[arc, side]]
    return out


@jit
def _roughness(p: Any) -> float:
    """Mean distance of a point from the middle of its two neighbours, across the run: the noise of the traced edge."""
    n = p.shape[0]
    total = 0.0
    count = 0
    for i in range(2, n - 2):
        dx, dy = p[i + 1, 0] - p[i - 1, 0], p[i + 1, 1] - p[i - 1, 1]
        length = np.hypot(dx, dy)
        if length > 1e-9:
            ex, ey = p[i, 0] - 0.5 * (p[i - 1, 0] + p[i + 1, 0]), p[i, 1] - 0.5 * (p[i - 1, 1] + p[i + 1, 1])
            total += abs(ex * dy - ey * dx) / length
            count += 1
    return total / count if count > 3 else 0.0


@jit
def _fit_section(p: Any, cracks: Any, tolerance: float, rounds: int, start: Any, end: Any, longest: int, store: Any) -> None:
    curves, straight, spans, size = store
    noise = _roughness(p)
    if noise > _QUIET_PX:
        rounds = min(4 * max(rounds, 1), round(rounds * noise / _QUIET_PX))
        tolerance = min(_MOST_ROUGH * tolerance, max(tolerance, _NOISE_TO_TOLERANCE * noise))
    smooth_run(p, False, rounds)
    room = p.shape[0]
    local = np.empty((room, 4, 2))
    lines = np.empty(room, np.bool_)
    ends = np.empty(room, np.int64)
    m = fit_run(p, tolerance, start, end, longest, local, lines, ends)
    begin = 0
    for k in range(m):
        curves[size[0]] = local[k]
        straight[size[0]] = lines[k]
        spans[size[0], 0], spans[size[0], 1] = cracks[begin], cracks[ends[k]]
        begin = ends[k]
        size[0] += 1


@jit
def _section(p: Any, cracks: Any, a: int, b: int, cut_a: bool, cut_b: bool) -> tuple[Any, Any]:
    """Points a..b (cyclic), without those too close to a corner or junction at either end."""
    n = p.shape[0]
    length = (b - a) % n if b != a else n
    q = np.empty((length + 1, 2))
    s = np.empty(length + 1, np.int64)
    count = 0
    for k in range(length + 1):
        i = (a + k) % n
        inner = 0 < k < length
        if inner and length > 4:
            if cut_a and np.hypot(p[i, 0] - p[a % n, 0], p[i, 1] - p[a % n, 1]) < 1.2 and k <= 3:
                continue
            if cut_b and np.hypot(p[i, 0] - p[b % n, 0], p[i, 1] - p[b % n, 1]) < 1.2 and k >= length - 3:
                continue
        q[count, 0], q[count, 1] = p[i, 0], p[i, 1]
        s[count] = cracks[i]
        count += 1
    return q[:count], s[:count]


@jit
def _fit_all(
    vertices: Any,
    starts: Any,
    points: Any,
    vertical: Any,
    fixed: Any,
    width: int,
    height: int,
    first_ring: int,
    tolerance: float,
    rounds: int,
) -> Any:
    arcs = starts.shape[0] - 1
    total = points.shape[0] + 4 * arcs
    curves = np.empty((total, 4, 2))
    straight = np.empty(total, np.bool_)
    spans = np.empty((total, 2), np.int64)
    size = np.zeros(1, np.int64)
    store = (curves, straight, spans, size)
    owner = np.zeros(arcs + 1, np.int64)
    nodes = _place_nodes(vertices, starts, points, vertical, fixed, width, height, first_ring)
    free = np.zeros(2)
    for arc in range(arcs):
        first, last = starts[arc], starts[arc + 1] - 1
        ring = arc >= first_ring
        picks = np.empty(last - first + 2, np.int64)
        count = _choose_points(points, vertical, fixed, first, last, ring, picks)
        if ring:
            p = np.empty((count, 2))
            for k in range(count):
                p[k] = points[picks[k]]
            _fit_ring(p, picks[:count], tolerance, rounds, store)
        else:
            p = np.empty((count + 2, 2))
            cracks = np.empty(count + 2, np.int64)
            p[0] = nodes[arc, 0]
            cracks[0] = first
            for k in range(count):
                p[k + 1] = points[picks[k]]
                cracks[k + 1] = picks[k]
            p[count + 1] = nodes[arc, 1]
            cracks[count + 1] = last
            found = find_corners(p, False)
            marks = np.empty(found.shape[0] + 2, np.int64)
            marks[0], marks[found.shape[0] + 1] = 0, count + 1
            marks[1:-1] = found
            for k in range(found.shape[0]):
                sharpen_corner(p, found[k], found[k] - marks[k], marks[k + 2] - found[k])
            for k in range(marks.shape[0] - 1):
                q, s = _section(p, cracks, marks[k], marks[k + 1], True, True)
                _fit_section(q, s, tolerance, rounds, free, free, q.shape[0], store)
        owner[arc + 1] = size[0]
    return curves[: size[0]].copy(), straight[: size[0]].copy(), owner, spans[: size[0]].copy()


@jit
def _fit_ring(p: Any, cracks: Any, tolerance: float, rounds: int, store: Any) -> None:
    n = p.shape[0]
    free = np.zeros(2)
    ellipse = ellipse_of(p)
    if ellipse[2] > 0.0:
        _draw_ellipse(p, cracks, ellipse, store)
        return
    found = find_corners(p, True)
    m = found.shape[0]
    if m == 0:
        smooth_run(p, True, rounds)
        q, s = _section(p, cracks, 0, 0, False, False)
        tangent = np.empty(2)
        reach = min(3, n // 4)
        dx, dy = p[reach % n, 0] - p[(-reach) % n, 0], p[reach % n, 1] - p[(-reach) % n, 1]
        length = max(1e-9, np.hypot(dx, dy))
        tangent[0], tangent[1] = dx / length, dy / length
        _fit_section(q, s, tolerance, 0, tangent, tangent, max(2, (n + 1) // 2), store)
        return
    for k in range(m):
        before = (found[k] - found[k - 1]) % n if m > 1 else n // 2
        after = (found[(k + 1) % m] - found[k]) % n if m > 1 else n // 2
        sharpen_corner(p, found[k], before, after)
    for k in range(m):
        q, s = _section(p, cracks, found[k], found[(k + 1) % m], True, True)
        longest = q.shape[0] if m > 1 else max(2, (q.shape[0] + 1) // 2)
        _fit_section(q, s, tolerance, rounds, free, free, longest, store)


@jit
def _draw_ellipse(p: Any, cracks: Any, ellipse: Any, store: Any) -> None:
    curves, straight, spans, size = store
    drawn = np.empty((4, 4, 2))
    ends = np.empty(4, np.int64)
    begin = 0
    for k in range(ellipse_arcs(p, ellipse, drawn, ends)):
        curves[size[0]] = drawn[k]
        straight[size[0]] = False
        spans[size[0], 0], spans[size[0], 1] = cracks[begin], cracks[ends[k] % p.shape[0]]
        begin = ends[k]
        size[0] += 1


def fit_arcs(traced: TracedArcs, width: int, height: int, *, tolerance_px: float, smoothing_px: float) -> FittedArcs:
    """Curves for all arcs, no point farther than about `tolerance_px` from its curve.

    `smoothing_px` is the standard deviation of the smoothing along the arc; corners and junctions stay.
    """
    rounds = max(0, round(2 * smoothing_px**2))
    curves, straight, owner, spans = _fit_all(
        traced.vertices,
        traced.starts,
        traced.points,
        traced.vertical,
        traced.fixed,
        width,
        height,
        traced.first_ring,
        tolerance_px,
        rounds,
    )
    return FittedArcs(curves, straight, owner, spans)
