"""What the pixels round each pixel are like, by whole-array operations that run at the speed of memory."""

from __future__ import annotations

from typing import TypeVar

import cv2
import numpy as np
import numpy.typing as npt

ByteArray = npt.NDArray[np.uint8]
T = TypeVar("T", bound=np.generic)


def greatest(values: npt.NDArray[T]) -> npt.NDArray[T]:
    """The greatest of the channels of each pixel, (height, width) of (height, width, channels)."""
    out = values[..., 0]
    for c in range(1, values.shape[2]):
        out = np.maximum(out, values[..., c])
    return out


def spread(rgb: ByteArray, side: int) -> ByteArray:
    """By how many levels the window of `side` px round each pixel varies, in the channel where it varies most."""
    kernel = np.ones((side, side), np.uint8)
    return greatest(np.asarray(cv2.subtract(cv2.dilate(rgb, kernel), cv2.erode(rgb, kernel)), np.uint8))


def one_label(labels: npt.NDArray[np.int16]) -> npt.NDArray[np.bool_]:
    """Pixels whose 3 x 3 window has one label; outside the picture counts as the same."""
    kernel = np.ones((3, 3), np.uint8)
    return np.asarray(cv2.dilate(labels, kernel) == cv2.erode(labels, kernel))
