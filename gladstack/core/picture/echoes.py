"""Colours that are no films: bands beside an edge where sharpening, resizing or ringing went beyond a colour.

Such a colour lies on the line from what is across the edge through the colour it is a part of, a little beyond it, and is
found nowhere but in a thin band along that edge.
"""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit
from gladstack.core.picture import pixels

FloatArray = npt.NDArray[np.float64]

_MOST_BEYOND = 0.55
_LEAST_BEYOND = 0.015
_OFF_LINE = (7.0, 0.2)
"""How far (levels) off that line it may be, and how much more for each level beyond."""
_LEAST_CONTRAST = 40.0
_TIMES = 1.5
"""What a band is part of covers at least so many times as much."""
_BAND_PX = 3.2
_ACROSS_PX = 5
_ALONGSIDE = 0.7


def without_echoes(rgb: npt.NDArray[np.uint8], colours: list[Rgb]) -> list[Rgb]:
    """`colours` without those that are bands beside an edge.

    They go one by one, the smallest first: what lies between two bands of its own is no band once these are part of it.
    """
    left = list(colours)
    while (band := _smallest_band(rgb, left)) is not None:
        left.remove(band)
    return left


def _smallest_band(rgb: npt.NDArray[np.uint8], colours: list[Rgb]) -> Rgb | None:
    table = np.array(colours, float).reshape(-1, 3)
    beyond = {k: pairs for k in range(len(colours)) if (pairs := _beyond(table, k))} if len(colours) > 2 else {}
    if not beyond:
        return None
    nearest = pixels.nearest_colour(rgb, np.array(colours, np.float32), 1e9)
    counts = np.bincount(nearest.ravel(), minlength=len(colours))
    first = next((k for k in sorted(beyond, key=lambda k: counts[k]) if _is_band(nearest, counts, k, beyond[k])), None)
    return None if first is None else colours[first]


def _beyond(table: FloatArray, k: int) -> list[tuple[int, int]]:
    """Pairs (own, across) for which the colour `k` lies a little beyond `own`, seen from `across`."""
    return [(int(own), int(across)) for own, across in zip(*np.nonzero(colours_beyond(table, k)), strict=True)]


@jit
def colours_beyond(table: Any, k: int) -> Any:
    """Whether the colour `k` lies a little beyond each one, seen from each other, (colours, colours)."""
    n = table.shape[0]
    out = np.zeros((n, n), np.bool_)
    for own in range(n):
        for across in range(n):
            if k in (own, across) or own == across:
                continue
            length = 0.0
            past = 0.0
            for c in range(3):
                length += (table[own, c] - table[across, c]) ** 2
                past += (table[k, c] - table[own, c]) * (table[own, c] - table[across, c])
            if past <= 0 or length < _LEAST_CONTRAST**2:
                continue
            for step in range(40):
                share = _LEAST_BEYOND + (_MOST_BEYOND - _LEAST_BEYOND) * step / 39
                off = 0.0
                far = 0.0
                for c in range(3):
                    # What would go below black or above white stays there.
                    tried = table[own, c] + share * (table[own, c] - table[across, c])
                    tried = min(255.0, max(0.0, tried))
                    off += (tried - table[k, c]) ** 2
                    far += (tried - table[own, c]) ** 2
                if np.sqrt(off) <= _OFF_LINE[0] + _OFF_LINE[1] * np.sqrt(far):
                    out[own, across] = True
                    break
    return out


def _is_band(nearest: Any, counts: npt.NDArray[np.int64], k: int, pairs: list[tuple[int, int]]) -> bool:
    """Whether a colour is nowhere but in thin bands between what it is a part of and what is across."""
    mask = nearest == k
    if not mask.any():
        return True
    deep = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 3)
    if float(np.percentile(deep[mask], 98)) > 0.5 * _BAND_PX + 0.5:
        return False
    size = 2 * _ACROSS_PX + 1
    for own, across in pairs:
        if counts[own] < _TIMES * counts[k]:
            continue
        beside = cv2.dilate((nearest == across).astype(np.uint8), np.ones((size, size), np.uint8)) > 0
        touching = cv2.dilate((nearest == own).astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
        if np.mean(beside[mask]) >= _ALONGSIDE and np.any(touching & mask):
            return True
    # Several colours may lie across it, each along a part.
    owners = {own for own, _ in pairs if counts[own] >= _TIMES * counts[k]}
    for own in owners:
        others = np.isin(nearest, [across for o, across in pairs if o == own])
        if np.mean(cv2.dilate(others.astype(np.uint8), np.ones((size, size), np.uint8))[mask] > 0) >= _ALONGSIDE:
            return True
    return False
