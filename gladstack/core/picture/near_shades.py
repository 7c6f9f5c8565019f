"""Borders between near shades of a lossy picture, drawn by what many pixels say together: one alone is lost in the noise."""

from __future__ import annotations

import math

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.windows import spread

LabelArray = npt.NDArray[np.int16]
FloatArray = npt.NDArray[np.float32]

_NEAR = 12.0
_EDGE_LEVELS = 28
_FADES_PX = 3.5
_BESIDE_PX = 1.5
_WIDTH = 6.6
_WIDTHS_PX = (0.8, 3.0)
_OVERSHOOT = 0.6


def settled(
    labels: LabelArray, rgb: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], noise: Noise
) -> tuple[LabelArray, FloatArray]:
    """Labels with the borders between near shades smoothed, and the pixels as they are to be placed by.

    How far each pixel lies from one shade to the other is averaged with those round it, each weighted by the noise it is
    likely to have (Gaussian, as wide as the noise is against the contrast); pixels at strong edges say nothing, for their
    mix with a third colour would decide.
    """
    pixels = rgb.astype(np.float32)
    table = np.array(colours, np.float32)
    pairs = [
        (i, j)
        for i in range(len(colours))
        for j in range(i + 1, len(colours))
        if float(delta_e(table[i], table[j])) < _NEAR and _meet(labels, i, j)
    ]
    if not pairs:
        return labels, pixels
    away = cv2.distanceTransform((spread(rgb, 3) <= _EDGE_LEVELS).astype(np.uint8), cv2.DIST_L2, 5)
    # The noise fades with the distance from edges, which is asked for in tenths of a pixel.
    faded = np.float32(0.4) + np.float32(noise.strength) * np.exp(-np.maximum(0.0, np.arange(400) / 10 - 1.0) / _FADES_PX)
    weights = np.where(np.arange(400) / 10 > _BESIDE_PX, 1.0 / faded**2, 0.0).astype(np.float32)
    trust = weights[np.minimum(399, (away * 10).astype(np.int16))]
    out = labels.copy()
    placed = pixels.copy()
    for i, j in pairs:
        held = (out == i) | (out == j)
        box = _box_of(held)
        own = held[box]
        way = table[j] - table[i]
        share = np.clip((pixels[box] - table[i]) @ way / float(way @ way), -_OVERSHOOT, 1 + _OVERSHOOT)
        wide = min(_WIDTHS_PX[1], max(_WIDTHS_PX[0], _WIDTH * noise.strength / float(np.linalg.norm(way))))
        weight = np.where(own, trust[box], 0).astype(np.float32)
        total = cv2.GaussianBlur(weight, (0, 0), wide)
        mean = cv2.GaussianBlur(share.astype(np.float32) * weight, (0, 0), wide) / np.maximum(total, 1e-9)
        sure = own & (total > 1e-6)
        out[box][sure] = np.where(mean[sure] > 0.5, j, i)
        place = np.clip(mean, 0.0, 1.0)[..., None] * way + table[i]
        # Only within the pair: towards a third colour the pixel's own mix tells the place.
        inner = sure & (away[box] > _BESIDE_PX)
        placed[box][inner] = place[inner]
    return out, placed


def _meet(labels: LabelArray, i: int, j: int) -> bool:
    """Whether two labels have a border of any length."""
    met = 0
    for a, b in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
        met += int(np.count_nonzero(((a == i) & (b == j)) | ((a == j) & (b == i))))
    return met > 8


def _box_of(mask: npt.NDArray[np.bool_]) -> tuple[slice, slice]:
    reach = math.ceil(3 * _WIDTHS_PX[1])
    y, x = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    return slice(max(0, int(y[0]) - reach), int(y[-1]) + reach), slice(max(0, int(x[0]) - reach), int(x[-1]) + reach)
