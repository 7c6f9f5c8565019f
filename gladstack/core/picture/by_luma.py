"""Small shapes of two colours, told apart by how light they are where JPEG has smeared their tint.

Most lossy pictures hold their tint at half the resolution of their lightness. Letters a few pixels thick lose their colour
to what lies between them, and by colour their counters close and their feet grow together; lightness still tells them.
"""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.mixes import _mix_residual

LabelArray = npt.NDArray[np.int16]

_LUMA = np.array([[0.299, 0.587, 0.114]], np.float32)
_LEAST_GAP, _GAP_OF_NOISE = 60.0, 10.0
"""Two colours are told apart by lightness if they differ by so many levels, and by so many times the noise."""
_REACH_PX = 4
_MOST_BEYOND = 1.35
"""What is much lighter or darker than both colours is neither."""
_TINT_PX = 5
_RESIDUAL = 26.0
"""Where the tint around a pixel is no mix of the two colours, there is a third one that is not known."""
_ROUNDS = 3


def told_by_luma(labels: LabelArray, rgb: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], noise: Noise) -> LabelArray:
    """Labels in which a pixel with one other colour around it has that one, if by its lightness it is nearer to it."""
    luma = cv2.transform(rgb, _LUMA.astype(np.float64)).astype(np.float32)
    own = np.array(colours, np.float32)
    table, around = own @ _LUMA[0], cv2.blur(rgb, (_TINT_PX, _TINT_PX)).astype(np.float32)
    least = max(_LEAST_GAP, _GAP_OF_NOISE * noise.strength)
    for _ in range(_ROUNDS):
        out = labels.copy()
        if _nearer_by_luma(luma, around, labels, own, table, least, out) == 0:
            break
        labels = out
    return labels


@jit
def _nearer_by_luma(luma: Any, around: Any, labels: Any, colours: Any, table: Any, least: float, out: Any) -> int:
    h, w = labels.shape
    changed = 0
    for y in range(h):
        for x in range(w):
            k = labels[y, x]
            off = luma[y, x] - table[k]
            if abs(off) <= 0.5 * least:
                continue
            other = np.int16(-1)
            two = True
            for j in range(max(0, y - _REACH_PX), min(h, y + _REACH_PX + 1)):
                for i in range(max(0, x - _REACH_PX), min(w, x + _REACH_PX + 1)):
                    m = labels[j, i]
                    if m in (k, other):
                        continue
                    if other >= 0:
                        two = False
                        break
                    other = m
                if not two:
                    break
            if not two or other < 0:
                continue
            gap = table[other] - table[k]
            if abs(gap) < least:
                continue
            share = off / gap
            if share <= 0.5 or share >= _MOST_BEYOND:
                continue
            if _mix_residual(around[y, x], colours[k], colours[other]) <= _RESIDUAL * _RESIDUAL:
                out[y, x] = other
                changed += 1
    return changed
