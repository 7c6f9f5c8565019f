"""What printing and photographing did to a drawing, undone: dots made into the tones they stand for, uneven light evened."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float32]

_DOT_BLUR = 0.42
"""Blurred by this share of their pitch, dots become their tone."""
_SMALL_PX = 160
_ROUNDS = 4
_EDGE, _EDGE_LEVELS = 0.06, 14
"""Between neighbours of the small copy, what was printed changes by more than this; in logarithms, and in levels."""
_LEAST_PLAIN = 0.1
_DARKEST = -1.6
_LEAST_RANGE = 0.06
"""Light that differs by less (in natural logarithms) over a picture is even."""


def undotted(rgb: ByteArray, pitch_px: float) -> ByteArray:
    """The tones that dots of some pitch stand for."""
    return np.asarray(cv2.GaussianBlur(rgb, (0, 0), _DOT_BLUR * pitch_px), np.uint8)


def evened(rgb: ByteArray) -> ByteArray | None:
    """The picture as it would be in even light; None if its light is even already.

    Light changes slowly, and what was printed changes only at edges (Land and McCann 1971): so the slopes of the logarithm
    of brightness off all edges are those of the light, and a surface of degree 3 is fitted to them on a small copy.
    """
    h, w = rgb.shape[:2]
    scale = _SMALL_PX / max(h, w)
    soft = cv2.GaussianBlur(rgb, (0, 0), max(0.6, 0.4 / scale))
    small = cv2.resize(soft, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    bright = np.log(np.maximum(small.astype(np.float32).mean(axis=2), 4.0))
    kernel = np.ones((3, 3), np.uint8)
    spread = cv2.dilate(bright, kernel) - cv2.erode(bright, kernel)
    tint = cv2.subtract(cv2.dilate(small, kernel), cv2.erode(small, kernel)).max(axis=2)
    edge = ((spread > _EDGE) | (tint > _EDGE_LEVELS)).astype(np.uint8)
    plain = cv2.dilate(edge, np.ones((5, 5), np.uint8)) == 0
    if np.count_nonzero(plain) < _LEAST_PLAIN * plain.size:
        return None
    across, down = np.gradient(bright, axis=1), np.gradient(bright, axis=0)
    gx, gy = _slopes(*bright.shape)
    held = plain.ravel()
    a = np.concatenate([gx[held], gy[held]])
    b = np.concatenate([across.ravel()[held], down.ravel()[held]])
    solved: npt.NDArray[np.float64] = np.zeros(a.shape[1])
    weight: npt.NDArray[np.floating] = np.ones(len(b))
    for _ in range(_ROUNDS):
        solved, *_ = np.linalg.lstsq(a * weight[:, None], b * weight, rcond=None)
        off = b - a @ solved
        weight = 1.0 / (1.0 + (off / max(1e-6, 2.0 * float(np.median(np.abs(off))))) ** 2)
    surface = (_basis(*bright.shape) @ solved).reshape(bright.shape).astype(np.float32)
    surface -= np.percentile(surface, 90)
    if float(np.percentile(surface, 95) - np.percentile(surface, 5)) < _LEAST_RANGE:
        return None
    light = np.exp(np.maximum(cv2.resize(surface, (w, h), interpolation=cv2.INTER_CUBIC), _DARKEST))[..., None]
    return np.asarray(np.clip(np.rint(rgb / light), 0, 255), np.uint8)


def _basis(h: int, w: int) -> FloatArray:
    y, x = np.mgrid[0:h, 0:w].astype(np.float32)
    x, y = (x / w - 0.5).ravel(), (y / h - 0.5).ravel()
    return np.stack([x, y, x * x, x * y, y * y, x**3, y**3, x * x * y, x * y * y], axis=1)


def _slopes(h: int, w: int) -> tuple[FloatArray, FloatArray]:
    """The slopes of each part of the surface, to the right and downwards, a pixel."""
    basis = _basis(h, w).reshape(h, w, -1)
    right, down = np.asarray(np.gradient(basis, axis=1), np.float32), np.asarray(np.gradient(basis, axis=0), np.float32)
    return right.reshape(h * w, -1), down.reshape(h * w, -1)
