"""Give every pixel to one of the flat colours, so that a smeared edge between A and B never becomes a band of C.

*Cores* are pixels that are surely of one colour: their whole neighbourhood is (strict), or they match a colour that no
mix of the cores around them explains (thin lines and dots). Every other pixel takes the nearest colour among the cores
close by, never one from elsewhere in the palette.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit
from gladstack.core.picture import mixes, pixels
from gladstack.core.picture.areas import dissolve_fringes
from gladstack.core.picture.mixes import _explained, _gather, _mix_residual

LabelArray = npt.NDArray[np.int16]

_CLEAN_REACH = 2.5
_LOSSY_REACH = 22.0
_CLEAN_RESIDUAL = 7.0
_LOSSY_RESIDUAL = 26.0


def label_pixels(rgb: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], *, lossy: bool, flat: bool = True) -> LabelArray:
    """The index into `colours` of every pixel; (height, width) int16.

    `flat=False` (photos, gradients) simply takes the nearest colour everywhere.
    """
    table = np.array(colours, np.float32)
    if not flat:
        return pixels.nearest_colour(rgb, table, 1e9)  # type: ignore[no-any-return]
    nearest = pixels.nearest_colour(rgb, table, _LOSSY_REACH if lossy else _CLEAN_REACH)
    cores = mixes.strict_cores(nearest)
    residual = _LOSSY_RESIDUAL if lossy else _CLEAN_RESIDUAL
    labels = cores.copy()
    _thin_cores(rgb, table, nearest, cores, labels, residual)
    _assign(rgb, table, labels)
    return dissolve_fringes(labels, rgb, table) if lossy else labels


@jit
def _among(found: Any, n: int, k: int) -> bool:
    """Whether the colour `k` is one of the first `n` found."""
    known = False
    for i in range(n):
        known |= found[i] == k
    return known


@jit
def _thin_cores(rgb: Any, colours: Any, nearest: Any, cores: Any, labels: Any, residual: float) -> None:
    """Marks in `labels` the pixels that match a colour which no mix of the cores around explains."""
    h, w, _ = rgb.shape
    found = np.empty(8, np.int16)
    p = np.empty(3, np.float32)
    for y in range(h):
        for x in range(w):
            k = nearest[y, x]
            if k < 0 or cores[y, x] >= 0:
                continue
            n = _gather(cores, y, x, 3, found)
            own = _among(found, n, k)
            for c in range(3):
                p[c] = rgb[y, x, c]
            if own or not _explained(p, colours, found, n, residual):
                labels[y, x] = k
    # A match that mixes its neighbours' colours is the soft edge of a thin line, not a line of its own.
    drop = np.zeros((h, w), np.bool_)
    for y in range(h):
        for x in range(w):
            k = labels[y, x]
            if k < 0 or cores[y, x] >= 0:
                continue
            if _among(found, _gather(cores, y, x, 3, found), k):
                continue
            n = _gather(labels, y, x, 1, found)
            for i in range(n):
                for j in range(i + 1, n):
                    a, b = found[i], found[j]
                    if a != k and b != k and _mix_residual(colours[k], colours[a], colours[b]) <= residual * residual:
                        drop[y, x] = True
    for y in range(h):
        for x in range(w):
            if drop[y, x]:
                labels[y, x] = -1


@jit
def _assign(rgb: Any, colours: Any, labels: Any) -> None:
    h, w, _ = rgb.shape
    found = np.empty(8, np.int16)
    marks = labels.copy()
    for y in range(h):
        for x in range(w):
            if marks[y, x] >= 0:
                continue
            n = _gather(marks, y, x, 2, found)
            if n == 0:
                n = _gather(marks, y, x, 4, found)
            best = 1e18
            pick = 0
            total = n if n > 0 else colours.shape[0]
            for i in range(total):
                k = found[i] if n > 0 else i
                d = 0.0
                for c in range(3):
                    e = rgb[y, x, c] - colours[k, c]
                    d += e * e
                if d < best:
                    best = d
                    pick = k
            labels[y, x] = pick
