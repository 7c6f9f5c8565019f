"""Smooth areas of a picture: connected places without an edge, be they of one colour or of a grade.

A pixel is smooth if its 5 x 5 neighbourhood lies close to a plane in every channel. A soft shadow, a glow and a grade are
smooth although their colour changes; between two flat colours there is always a band that is not, however near they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.picture.windows import greatest

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float32]
IntArray = npt.NDArray[np.int32]

_PLANE = np.arange(-2, 3, dtype=np.float32)
_LOOSENESS = 1.0
_LEAST_PX = 12
_FLAT_LEVELS = 3
_GRADED_LEVELS = 12.0
_ONE_VALUE = 0.6
_RAMP_LEVELS = 0.25


@dataclass(frozen=True)
class SmoothAreas:
    """Connected smooth areas: `labels` (height, width) int32, -1 where there is none; `slopes` (height, width, 3, 2) how
    fast each channel rises to the right and downwards, in levels a pixel; `means` the local means; `rough` how far (levels)
    each neighbourhood lies from its plane.
    """

    rgb: ByteArray
    labels: IntArray
    count: int
    means: FloatArray
    slopes: FloatArray
    rough: FloatArray

    @cached_property
    def pixels(self) -> list[npt.NDArray[np.int64]]:
        """The flat indices of every area's pixels."""
        # Small numbers are sorted by radix, in no time.
        flat = self.labels.ravel().astype(np.int16 if self.count < 1 << 15 else np.int32)
        order = np.argsort(flat, kind="stable")
        cuts = np.searchsorted(flat[order], np.arange(self.count + 1))
        return [order[cuts[k] : cuts[k + 1]] for k in range(self.count)]

    def values(self, area: int) -> ByteArray:
        """The colours of one area's pixels, (n, 3)."""
        return np.asarray(self.rgb.reshape(-1, 3)[self.pixels[area]])

    def middle(self, area: int) -> FloatArray:
        """The median colour of one area, (3,)."""
        values = self.values(area)
        return np.asarray(np.median(values[:: max(1, len(values) // 4000)], axis=0), np.float32)

    def is_ramp(self, area: int) -> bool:
        """Whether an area's colour changes steadily, as in a shadow."""
        own = self.pixels[area]
        slopes = self.slopes.reshape(-1, 6)[own[:: max(1, len(own) // 4000)]]
        return bool(np.median(np.abs(slopes).max(axis=1)) > _RAMP_LEVELS)

    def is_graded(self, area: int) -> bool:
        """Whether an area goes from one colour to another, instead of having one or two."""
        values = self.values(area)
        low, high = np.percentile(values[:: max(1, len(values) // 4000)], [8, 92], axis=0)
        channel = int(np.argmax(high - low))
        if (high - low)[channel] < _GRADED_LEVELS:
            return False
        counts = np.bincount(values[:, channel], minlength=256).astype(float)
        near = np.convolve(counts, np.ones(2 * _FLAT_LEVELS + 1), "same")
        first = int(np.argmax(near))
        rest = near.copy()
        rest[max(0, first - 2 * _FLAT_LEVELS) : first + 2 * _FLAT_LEVELS + 1] = 0
        return float(near[first] + rest.max()) < _ONE_VALUE * len(values)


def smooth_areas(rgb: ByteArray, strength: float) -> SmoothAreas:
    """The smooth areas of `rgb` (height, width, 3), whose noise beside edges is `strength` levels."""
    pixels = rgb.astype(np.float32)
    if strength > 1:
        pixels = np.asarray(cv2.GaussianBlur(pixels, (0, 0), 1.0), np.float32)
    ones = np.ones(5, np.float32) / 5
    ramp = _PLANE / 5 / 2.0
    means = cv2.sepFilter2D(pixels, -1, ones, ones)
    right = cv2.sepFilter2D(pixels, -1, ramp, ones)
    down = cv2.sepFilter2D(pixels, -1, ones, ramp)
    rest = cv2.sepFilter2D(pixels * pixels, -1, ones, ones) - means * means - 2.0 * (right * right + down * down)
    rough = np.asarray(np.sqrt(np.maximum(greatest(rest), 0.0)), np.float32)
    mask = (rough <= _LOOSENESS + 0.25 * max(0.0, strength - 1.0)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=4)
    kept = np.flatnonzero(stats[:, cv2.CC_STAT_AREA] >= _LEAST_PX)
    kept = kept[kept != 0]
    number = np.full(count, -1, np.int32)
    number[kept] = np.arange(len(kept), dtype=np.int32)
    return SmoothAreas(
        rgb,
        number[labels],
        len(kept),
        np.asarray(means, np.float32),
        np.asarray(np.stack([right, down], axis=3), np.float32),
        rough,
    )


def flattened(areas: SmoothAreas, mask: npt.NDArray[np.bool_], target: FloatArray, reach: int, loose: float) -> ByteArray:
    """The picture with what is in `mask` made `target` (height, width, 3: what each place of it is to become).

    A pixel within `reach` px of it that mixes it with something else becomes the same mix of `target` and that; one no more
    than `loose` levels off belongs to it. What is in `mask` is carried on by its own slopes.
    """
    free = (~mask).astype(np.uint8)
    away, near = cv2.distanceTransformWithLabels(free, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    where = np.zeros(int(near.max()) + 1, np.int64)
    own = np.flatnonzero(mask.ravel())
    where[near.ravel()[own]] = own
    out = areas.rgb.astype(np.float32)
    _unmix(
        areas.rgb.astype(np.float32), areas.means, areas.slopes, target, away, where[near], float(reach), float(loose), out
    )
    out[mask] = target[mask]
    return np.asarray(np.clip(np.rint(out), 0, 255), np.uint8)


@jit
def _unmix(
    rgb: Any, means: Any, slopes: Any, target: Any, away: Any, nearest: Any, reach: float, loose: float, out: Any
) -> None:
    h, w, _ = rgb.shape
    ground = np.empty(3, np.float32)
    for y in range(h):
        for x in range(w):
            if away[y, x] <= 0 or away[y, x] > reach:
                continue
            v, u = nearest[y, x] // w, nearest[y, x] % w
            here = 0.0
            for c in range(3):
                ground[c] = means[v, u, c] + slopes[v, u, c, 0] * (x - u) + slopes[v, u, c, 1] * (y - v)
                here += (rgb[y, x, c] - ground[c]) ** 2
            if here <= loose * loose:
                for c in range(3):
                    out[y, x, c] = target[v, u, c]
                continue
            # What it is mixed with: the farthest from the ground, among the pixels round it, on the line through it.
            most = here
            for q in range(max(0, y - 3), min(h, y + 4)):
                for p in range(max(0, x - 3), min(w, x + 4)):
                    far = 0.0
                    along = 0.0
                    for c in range(3):
                        d = rgb[q, p, c] - ground[c]
                        far += d * d
                        along += d * (rgb[y, x, c] - ground[c])
                    if far <= most:
                        continue
                    share = along / far
                    off = here - share * along
                    if off <= loose * loose and share > 0:
                        most = far
            share = min(1.0, np.sqrt(here / most))
            for c in range(3):
                out[y, x, c] = rgb[y, x, c] + (1.0 - share) * (target[v, u, c] - ground[c])
