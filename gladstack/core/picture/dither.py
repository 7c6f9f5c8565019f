"""Dither: a picture that stands for many colours by dots of few. Found by its texture, and made plain again."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit

ByteArray = npt.NDArray[np.uint8]
BoolArray = npt.NDArray[np.bool_]

_LEAST_JUMP = 12
_MOST_COLOURS = 512
"""A dithered picture was made for few colours; a later save without loss keeps them."""
_ROOM = 4096
_THINNED = 4
_WINDOW_PX = 15
_DENSE = 0.18
_DENSE_SHARE = 0.004
_GUIDE_PX = 1.6
_REACH_PX = 4
_NEAR_PX = 2.2
_ALIKE_LEVELS = 22.0


def dithered(rgb: ByteArray) -> BoolArray | None:
    """Where a picture (height, width, 3) is dithered, (height, width); None if it is nowhere."""
    if _many_colours(rgb):
        return None
    # A thinned grid refuses most pictures: where it has hardly any dots, no window is dense.
    if _stands_out(rgb, _LEAST_JUMP, _THINNED).mean() * _THINNED < 0.3 * _DENSE * _DENSE_SHARE:
        return None
    dots = _stands_out(rgb, _LEAST_JUMP, 1)
    dense = cv2.boxFilter(dots, -1, (_WINDOW_PX, _WINDOW_PX)) > _DENSE
    if dense.mean() < _DENSE_SHARE:
        return None
    kernel = np.ones((_WINDOW_PX // 2, _WINDOW_PX // 2), np.uint8)
    return np.asarray(cv2.dilate(dense.astype(np.uint8), kernel) > 0)


def _many_colours(rgb: ByteArray) -> bool:
    thin = rgb[::_THINNED, ::_THINNED].reshape(-1, 3).astype(np.int32) @ np.array([1 << 16, 1 << 8, 1])
    if len(np.unique(thin)) > _MOST_COLOURS:
        return True
    return bool(_more_colours(rgb, np.full(_ROOM, -1, np.int32), _MOST_COLOURS))


@jit
def _more_colours(rgb: Any, seen: Any, most: int) -> bool:
    """Whether a picture has more colours than so many; `seen` is room for them, a power of two, filled with -1."""
    h, w, _ = rgb.shape
    found = 0
    room = seen.shape[0] - 1
    for y in range(h):
        last = -1
        for x in range(w):
            code = (int(rgb[y, x, 0]) << 16) | (int(rgb[y, x, 1]) << 8) | int(rgb[y, x, 2])
            if code == last:
                continue
            last = code
            at = (code * 40503 >> 4) & room
            while seen[at] >= 0 and seen[at] != code:
                at = (at + 1) & room
            if seen[at] < 0:
                seen[at] = code
                found += 1
                if found > most:
                    return True
    return False


@jit
def _stands_out(rgb: Any, least: int, step: int) -> Any:
    """Pixels of every so many rows that differ from both neighbours in their row, or column, more than these do from each
    other.
    """
    h, w, _ = rgb.shape
    out = np.zeros((h, w), np.float32)
    for y in range(0, h, step):
        for x in range(w):
            for dy, dx in ((0, 1), (1, 0)):
                if not (dy <= y < h - dy and dx <= x < w - dx):
                    continue
                before = after = across = 0
                for c in range(3):
                    here, a, b = np.int64(rgb[y, x, c]), np.int64(rgb[y - dy, x - dx, c]), np.int64(rgb[y + dy, x + dx, c])
                    before = max(before, int(abs(here - a)))
                    after = max(after, int(abs(here - b)))
                    across = max(across, int(abs(a - b)))
                apart = min(before, after)
                if apart >= least and across < apart:
                    out[y, x] = 1.0
    return out


def undithered(rgb: ByteArray, where: BoolArray) -> ByteArray:
    """The picture with its dots made into what they stand for, within `where`.

    Each pixel becomes the mean of those near it whose surroundings, blurred, look alike: dots are averaged, edges stay.
    """
    guide = cv2.GaussianBlur(rgb, (0, 0), _GUIDE_PX).astype(np.float32)
    return np.asarray(_averaged(rgb, guide, where))


@jit
def _averaged(rgb: Any, guide: Any, where: Any) -> Any:
    h, w, _ = rgb.shape
    out = rgb.copy()
    near = np.empty(2 * _REACH_PX * _REACH_PX + 1)
    for k in range(near.shape[0]):
        near[k] = np.exp(-k / (2 * _NEAR_PX * _NEAR_PX))
    for y in range(h):
        for x in range(w):
            if not where[y, x]:
                continue
            total = 0.0
            r = g = b = 0.0
            for v in range(max(0, y - _REACH_PX), min(h, y + _REACH_PX + 1)):
                for u in range(max(0, x - _REACH_PX), min(w, x + _REACH_PX + 1)):
                    apart = (
                        (guide[v, u, 0] - guide[y, x, 0]) ** 2
                        + (guide[v, u, 1] - guide[y, x, 1]) ** 2
                        + (guide[v, u, 2] - guide[y, x, 2]) ** 2
                    )
                    weight = near[(v - y) ** 2 + (u - x) ** 2] * np.exp(-apart / (2 * _ALIKE_LEVELS * _ALIKE_LEVELS))
                    total += weight
                    r += weight * rgb[v, u, 0]
                    g += weight * rgb[v, u, 1]
                    b += weight * rgb[v, u, 2]
            out[y, x, 0] = np.uint8(r / total + 0.5)
            out[y, x, 1] = np.uint8(g / total + 0.5)
            out[y, x, 2] = np.uint8(b / total + 0.5)
    return out
