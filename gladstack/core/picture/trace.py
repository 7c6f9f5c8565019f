"""Follow the borders between labelled areas once each, and place them at sub-pixel position.

Words: a *crack* is the unit edge between two pixels of different label; a *junction* is a pixel corner where three or more
cracks meet; an *arc* is a run of cracks from junction to junction, or a closed loop without one. Each arc is shared by the
area on its left and the one on its right.

A crack is slid along its normal to where the edge really ran. In an anti-aliased picture a pixel's colour is the mix of its
two sides by covered area, so the shares summed across the edge give its mean place in that row of pixels exactly (for a
straight edge), whatever its slope.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit

FloatArray = npt.NDArray[np.float64]
OUTSIDE = -1

_REACH = 3
"""Pixels looked at on either side of a crack: an anti-aliased edge is at most two wide, a JPEG one about three."""
_SLIDE_LIMIT_PX = 1.2


@dataclass(frozen=True)
class TracedArcs:
    """All arcs in flat arrays.

    `vertices` (n, 2) are pixel corners (x, y); arc k owns `vertices[starts[k]:starts[k + 1]]`, at least two, first and last
    equal for a loop. `points` are the slid mid-points of its cracks, one for each step. `left` and `right` are the areas on
    its sides, OUTSIDE beyond the picture. `fixed` marks cracks on the picture's border, which never move.
    Arcs from `first_ring` on are rings: closed loops that meet no junction.
    """

    vertices: npt.NDArray[np.int32]
    starts: npt.NDArray[np.int64]
    points: FloatArray
    vertical: npt.NDArray[np.bool_]
    fixed: npt.NDArray[np.bool_]
    left: npt.NDArray[np.int32]
    right: npt.NDArray[np.int32]
    first_ring: int


@jit
def _at(regions: Any, y: int, x: int) -> int:
    if y < 0 or x < 0 or y >= regions.shape[0] or x >= regions.shape[1]:
        return -1
    return int(regions[y, x])


@jit
def _has_crack(regions: Any, y: int, x: int, d: int) -> bool:
    """Whether a crack leaves the pixel corner (x, y) in direction d: 0 east, 1 south, 2 west, 3 north."""
    if d == 0:
        return bool(_at(regions, y - 1, x) != _at(regions, y, x))
    if d == 1:
        return bool(_at(regions, y, x - 1) != _at(regions, y, x))
    if d == 2:
        return bool(_at(regions, y - 1, x - 1) != _at(regions, y, x - 1))
    return bool(_at(regions, y - 1, x - 1) != _at(regions, y - 1, x))


@jit
def _sides(regions: Any, y: int, x: int, d: int) -> tuple[int, int]:
    """Areas left and right of the crack that leaves (x, y) in direction d (y down)."""
    if d == 0:
        return _at(regions, y - 1, x), _at(regions, y, x)
    if d == 1:
        return _at(regions, y, x), _at(regions, y, x - 1)
    if d == 2:
        return _at(regions, y, x - 1), _at(regions, y - 1, x - 1)
    return _at(regions, y - 1, x - 1), _at(regions, y - 1, x)


@jit
def _node_map(regions: Any) -> Any:
    """1 at pixel corners where arcs end (junctions and the picture's four corners), else 0; and the crack count."""
    h, w = regions.shape
    nodes = np.zeros((h + 1, w + 1), np.uint8)
    cracks = 0
    for y in range(h + 1):
        for x in range(w + 1):
            a, b = _at(regions, y - 1, x - 1), _at(regions, y - 1, x)
            c, d = _at(regions, y, x - 1), _at(regions, y, x)
            degree = (a != b) + (b != d) + (d != c) + (c != a)
            cracks += (b != d) + (c != d)
            if degree >= 3:
                nodes[y, x] = 1
    nodes[0, 0] = nodes[0, w] = nodes[h, 0] = nodes[h, w] = 1
    return nodes, cracks


@jit
def _follow(regions: Any, nodes: Any, seen: Any, y: int, x: int, d: int, vertices: Any, n: int) -> int:
    """Writes the arc that leaves (x, y) in direction d from vertices[n] on; returns the new end."""
    y0, x0 = y, x
    vertices[n, 0], vertices[n, 1] = x, y
    n += 1
    while True:
        if d == 0:
            seen[y, x] |= 1
            x += 1
        elif d == 1:
            seen[y, x] |= 2
            y += 1
        elif d == 2:
            x -= 1
            seen[y, x] |= 1
        else:
            y -= 1
            seen[y, x] |= 2
        vertices[n, 0], vertices[n, 1] = x, y
        n += 1
        if nodes[y, x] == 1 or (y == y0 and x == x0):
            return n
        for turn in (0, 1, 3):
            e = (d + turn) % 4
            if _has_crack(regions, y, x, e):
                d = e
                break


@jit
def _is_seen(seen: Any, y: int, x: int, d: int) -> bool:
    if d == 0:
        return bool((seen[y, x] & 1) != 0)
    if d == 1:
        return bool((seen[y, x] & 2) != 0)
    if d == 2:
        return bool((seen[y, x - 1] & 1) != 0)
    return bool((seen[y - 1, x] & 2) != 0)


@jit
def _trace(regions: Any) -> Any:
    h, w = regions.shape
    nodes, cracks = _node_map(regions)
    seen = np.zeros((h + 1, w + 1), np.uint8)
    vertices = np.empty((2 * cracks + 16, 2), np.int32)
    starts = np.empty(cracks + 2, np.int64)
    left = np.empty(cracks + 2, np.int32)
    right = np.empty(cracks + 2, np.int32)
    n = 0
    arcs = 0
    first_ring = 0
    for stage in range(2):
        if stage == 1:
            first_ring = arcs
        for y in range(h + 1):
            for x in range(w + 1):
                if stage == 0 and nodes[y, x] == 0:
                    continue
                for d in range(4 if stage == 0 else 1):
                    if not _has_crack(regions, y, x, d) or _is_seen(seen, y, x, d):
                        continue
                    starts[arcs] = n
                    left[arcs], right[arcs] = _sides(regions, y, x, d)
                    n = _follow(regions, nodes, seen, y, x, d, vertices, n)
                    arcs += 1
    starts[arcs] = n
    return vertices[:n].copy(), starts[: arcs + 1].copy(), left[:arcs].copy(), right[:arcs].copy(), first_ring


@jit
def _mix(pixels: Any, y: int, x: int, a: Any, b: Any) -> float:
    """Share of colour b in the pixel, 0 to 1."""
    dot = 0.0
    norm = 0.0
    for c in range(3):
        s = b[c] - a[c]
        dot += (pixels[y, x, c] - a[c]) * s
        norm += s * s
    if norm == 0:
        return 0.5
    return min(1.0, max(0.0, dot / norm))


@jit
def _side_sum(pixels: Any, labels: Any, y: int, x: int, dy: int, dx: int, a: Any, b: Any, own: int) -> float:
    """Sum of the shares of b over the pixels of label `own` from (x, y) on in steps of (dx, dy).

    A run that ends soon belongs half to the edge at its other end, so only its nearer half counts.
    """
    h, w = labels.shape
    run = 0
    while run < 2 * _REACH:
        v, u = y + run * dy, x + run * dx
        if v < 0 or u < 0 or v >= h or u >= w:
            run = 2 * _REACH
        elif labels[v, u] != own:
            break
        else:
            run += 1
    total = 0.0
    for k in range(min(_REACH, (run + 1) // 2)):
        v, u = y + k * dy, x + k * dx
        if v < 0 or u < 0 or v >= h or u >= w:
            break
        weight = 0.5 if 2 * k + 1 == run else 1.0
        total += weight * _mix(pixels, v, u, a, b)
    return total


@jit
def _slide(
    pixels: Any, labels: Any, colours: Any, vertices: Any, starts: Any, points: Any, vertical: Any, fixed: Any
) -> None:
    h, w = labels.shape
    for arc in range(starts.shape[0] - 1):
        for i in range(starts[arc], starts[arc + 1] - 1):
            x0, y0, x1, y1 = vertices[i, 0], vertices[i, 1], vertices[i + 1, 0], vertices[i + 1, 1]
            points[i, 0], points[i, 1] = 0.5 * (x0 + x1), 0.5 * (y0 + y1)
            up = x0 == x1
            vertical[i] = up
            x, y = min(x0, x1), min(y0, y1)
            fixed[i] = (up and (x == 0 or x == w)) or (not up and (y == 0 or y == h))
            if fixed[i]:
                continue
            # The pixel before the crack (left or above) has label p, the one after it label q.
            dy, dx = (0, 1) if up else (1, 0)
            p, q = labels[y - dy, x - dx], labels[y, x]
            a, b = colours[p], colours[q]
            before = _side_sum(pixels, labels, y - dy, x - dx, -dy, -dx, a, b, p)
            after = _side_sum(pixels, labels, y, x, dy, dx, b, a, q)
            shift = min(_SLIDE_LIMIT_PX, max(-_SLIDE_LIMIT_PX, after - before))
            points[i, 0] += dx * shift
            points[i, 1] += dy * shift


def trace_arcs(
    regions: npt.NDArray[np.int32],
    labels: npt.NDArray[np.int16],
    pixels: npt.NDArray[np.float32] | npt.NDArray[np.uint8],
    colours: tuple[Rgb, ...] | FloatArray,
) -> TracedArcs:
    """All borders of `regions`, each followed once and slid to sub-pixel place.

    `pixels` (height, width, 3) and `colours` (k, 3) must be in one linear colour space; `labels` index `colours`.
    """
    vertices, starts, left, right, first_ring = _trace(regions)
    points = np.zeros((len(vertices), 2))
    vertical = np.zeros(len(vertices), np.bool_)
    fixed = np.zeros(len(vertices), np.bool_)
    _slide(pixels, labels, np.asarray(colours, np.float32), vertices, starts, points, vertical, fixed)
    return TracedArcs(vertices, starts, points, vertical, fixed, left, right, int(first_ring))
