"""What stays of a piece of film: the largest rectangles free of anything cut."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.base.plane import Box

_CELL_MM = 1.0
_MOST_CELLS = 400_000


def free_rectangles(length_mm: float, width_mm: float, taken: Sequence[Box], least_mm: float, most: int = 8) -> list[Box]:
    """Rectangles of a piece of film that no box of `taken` meets, the largest first, none narrower than `least_mm`.

    They do not overlap. Sides lie on a grid of a millimetre, always to the safe side.
    """
    h = max(_CELL_MM, math.sqrt(length_mm * width_mm / _MOST_CELLS))
    grid = np.zeros((math.floor(length_mm / h), math.floor(width_mm / h)), np.uint8)
    for box in taken:
        _take(grid, box, h)
    out: list[Box] = []
    while len(out) < most and grid.size:
        x0, y0, x1, y1 = _largest(grid, math.ceil(least_mm / h))
        if x1 <= x0:
            break
        out.append((x0 * h, y0 * h, x1 * h, y1 * h))
        grid[x0:x1, y0:y1] = 1
    return out


def _take(grid: npt.NDArray[np.uint8], box: Box, h: float) -> None:
    left, top = math.floor(box[0] / h), math.floor(box[1] / h)
    grid[max(0, left) : max(0, math.ceil(box[2] / h)), max(0, top) : max(0, math.ceil(box[3] / h))] = 1


@jit
def _largest(grid: npt.NDArray[np.uint8], least: int) -> tuple[int, int, int, int]:
    """The largest free rectangle of a grid, both sides at least `least` cells, by heights over each row."""
    rows, columns = grid.shape
    height = np.zeros(columns + 1, np.int64)
    start = np.zeros(columns + 1, np.int64)
    tall = np.zeros(columns + 1, np.int64)
    best, found = 0, (0, 0, 0, 0)
    for x in range(rows):
        for y in range(columns):
            height[y] = 0 if grid[x, y] else height[y] + 1
        depth = 0
        for y in range(columns + 1):
            now = height[y] if y < columns else 0
            begin = y
            while depth > 0 and tall[depth - 1] >= now:
                depth -= 1
                begin = start[depth]
                size = tall[depth] * (y - begin)
                if size > best and tall[depth] >= least and y - begin >= least:
                    best, found = size, (x + 1 - tall[depth], begin, x + 1, y)
            start[depth], tall[depth] = begin, now
            depth += 1
    return found
