"""Quiet areas of a picture, and groups of them: the loops, compiled. Thresholds come from the callers."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit

ByteArray = npt.NDArray[np.uint8]
IntArray = npt.NDArray[np.int64]


@jit
def quiet_areas(rgb: ByteArray, level: ByteArray, joined: npt.NDArray[np.int16]) -> tuple[IntArray, int]:
    """Connected areas (4 neighbours) of pixels of one level whose colours follow on within that level's tolerance.

    Returns labels (-1 where a pixel has no level) and how many there are.
    """
    height, width = level.shape
    root = np.arange(height * width)
    for y in range(height):
        for x in range(width):
            k = level[y, x]
            if k == 255:
                continue
            for dy, dx in ((0, -1), (-1, 0)):
                v, u = y + dy, x + dx
                if v < 0 or u < 0 or level[v, u] != k:
                    continue
                same = True
                for c in range(3):
                    if abs(np.int16(rgb[y, x, c]) - np.int16(rgb[v, u, c])) > joined[k]:
                        same = False
                if not same:
                    continue
                a, b = y * width + x, v * width + u
                while root[a] != a:
                    root[a] = root[root[a]]
                    a = root[a]
                while root[b] != b:
                    root[b] = root[root[b]]
                    b = root[b]
                if a < b:
                    root[b] = a
                else:
                    root[a] = b
    labels = np.full((height, width), -1, np.int64)
    found = 0
    for y in range(height):
        for x in range(width):
            if level[y, x] == 255:
                continue
            a = y * width + x
            while root[a] != a:
                root[a] = root[root[a]]
                a = root[a]
            if a == y * width + x:
                labels[y, x] = found
                found += 1
            else:
                labels[y, x] = labels[a // width, a % width]
    return labels, found


@jit
def lowest_of(labels: Any, values: Any, count: int) -> Any:
    """The lowest value of each label's pixels, (count,); pixels under 0 have no label."""
    out = np.full(count, 255.0)
    for k in range(labels.shape[0]):
        if labels[k] >= 0:
            out[labels[k]] = min(out[labels[k]], values[k])
    return out


@jit
def grouped_colours(labs: Any, apart: float, most: int) -> Any:
    """For colours, the surest first, the group each belongs to (-1 for none), and how many groups there are.

    Each joins the nearest group whose first colour is less than `apart` away, or begins one, up to `most`.
    """
    n = labs.shape[0]
    group = np.full(n, -1, np.int64)
    heads = np.empty(most, np.int64)
    count = 0
    for k in range(n):
        best = apart
        for j in range(count):
            a, b, c = labs[heads[j], 0] - labs[k, 0], labs[heads[j], 1] - labs[k, 1], labs[heads[j], 2] - labs[k, 2]
            d = np.sqrt(a * a + b * b + c * c)
            if d < best:
                best = d
                group[k] = j
        if group[k] < 0 and count < most:
            heads[count] = k
            group[k] = count
            count += 1
    return group, count


@jit
def near_groups(own: Any, count: int, cell: int) -> Any:
    """Which of `count` groups have pixels in the same or neighbouring cells, (count, count); -1 is no group."""
    h, w = own.shape
    rows, columns = (h + cell - 1) // cell, (w + cell - 1) // cell
    held = np.zeros((rows, columns, count), np.bool_)
    for y in range(h):
        for x in range(w):
            if own[y, x] >= 0:
                held[y // cell, x // cell, own[y, x]] = True
    listed = np.empty((rows, columns, count), np.int16)
    many = np.zeros((rows, columns), np.int64)
    for r in range(rows):
        for c in range(columns):
            for k in range(count):
                if held[r, c, k]:
                    listed[r, c, many[r, c]] = k
                    many[r, c] += 1
    out = np.zeros((count, count), np.bool_)
    for r in range(rows):
        for c in range(columns):
            for v in range(max(0, r - 1), min(rows, r + 2)):
                for u in range(max(0, c - 1), min(columns, c + 2)):
                    for i in range(many[r, c]):
                        for j in range(many[v, u]):
                            out[listed[r, c, i], listed[v, u, j]] = True
    return out
