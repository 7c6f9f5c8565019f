"""How soft a picture is: one that was enlarged or blurred has edges some pixels wide, which hold no colours of their own."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.picture.windows import greatest, spread

ByteArray = npt.NDArray[np.uint8]

_AROUND_PX = 9
_CONTRAST = 60
_FEWEST_EDGES = 50


def edge_width(rgb: ByteArray) -> float:
    """How many pixels wide the sharper edges of a picture (height, width, 3) are: contrast by steepest slope."""
    levels = rgb.astype(np.int16)
    right, down = np.zeros(rgb.shape[:2], np.float32), np.zeros(rgb.shape[:2], np.float32)
    right[:, 1:] = greatest(np.abs(levels[:, 1:] - levels[:, :-1]))
    down[1:] = greatest(np.abs(levels[1:] - levels[:-1]))
    slope = cv2.magnitude(right, down)
    contrast = spread(rgb, _AROUND_PX)
    steepest = (slope == cv2.dilate(slope, np.ones((5, 5), np.uint8))) & (contrast > _CONTRAST) & (slope > 0)
    if np.count_nonzero(steepest) < _FEWEST_EDGES:
        return 1.0
    return float(np.percentile(contrast[steepest] / slope[steepest], 25))
