"""A picture photographed aslant, put straight by the four corners of what it shows."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.errors import PictureError
from gladstack.core.picture.decode import MAX_PIXELS, MIN_SIDE_PX, Picture

FloatArray = npt.NDArray[np.float64]
Corners = tuple[tuple[float, float], ...]
"""Four of them: top left, top right, bottom right and bottom left, as shares of the picture's width and height."""

_LEAST_AREA = 0.01
_LEAST_BEND = 0.02
"""Sides that meet at less than this (sine) are no corner."""
_PARALLEL = 0.02
"""With less perspective than this one way, the focal length is not told by the corners: the usual one is taken."""
_USUAL_FOCAL, _FOCALS = 0.9, (0.4, 4.0)
"""By the longer side of the photograph."""
_MOST_STRETCH = 3.0


def check_corners(corners: Corners) -> None:
    """Raises PictureError unless these go once round a place of some size, each a corner that points outwards."""
    points = np.array(corners, float)
    ahead, behind = np.roll(points, -1, axis=0) - points, points - np.roll(points, 1, axis=0)
    turns = behind[:, 0] * ahead[:, 1] - behind[:, 1] * ahead[:, 0]
    lengths = np.linalg.norm(ahead, axis=1) * np.linalg.norm(behind, axis=1)
    area = 0.5 * float(np.sum(points[:, 0] * np.roll(points[:, 1], -1) - np.roll(points[:, 0], -1) * points[:, 1]))
    if area < _LEAST_AREA or np.any(turns <= _LEAST_BEND * lengths):
        raise PictureError(
            "These four corners do not go round the picture.",
            "Put each on a corner of what was photographed, so that their lines do not cross.",
        )


def straightened(picture: Picture, corners: Corners) -> Picture:
    """What lies between four corners, as a rectangle of the proportions it has in truth. Raises PictureError."""
    check_corners(corners)
    seen = np.array(corners, float) * [picture.width_px, picture.height_px]
    width, height = _size(seen, picture)
    target = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    # Whole numbers are the middles of pixels to OpenCV, and their edges to us.
    half = np.float32(0.5)
    matrix = cv2.getPerspectiveTransform(seen.astype(np.float32) - half, target - half)
    rgb = cv2.warpPerspective(picture.rgb, matrix, (width, height), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return replace(picture, rgb=np.asarray(rgb, np.uint8))


def _size(seen: FloatArray, picture: Picture) -> tuple[int, int]:
    """Width and height in pixels: no side is smaller than it is seen."""
    sides = np.linalg.norm(np.roll(seen, -1, axis=0) - seen, axis=1)
    wide, high = max(sides[0], sides[2]), max(sides[1], sides[3])
    shape = proportion(seen, (picture.width_px, picture.height_px))
    # From far aside the formula is unsure: what is seen bounds it.
    shape = min(_MOST_STRETCH * wide / high, max(wide / high / _MOST_STRETCH, shape))
    width, height = max(wide, high * shape), max(high, wide / shape)
    scale = min(1.0, (MAX_PIXELS / (width * height)) ** 0.5)
    return max(MIN_SIDE_PX, round(width * scale)), max(MIN_SIDE_PX, round(height * scale))


def proportion(seen: FloatArray, size: tuple[int, int]) -> float:
    """Width by height of a rectangle whose corners are seen at four places (4, 2) of a photograph of `size` pixels, taken
    by a camera that looks through the photograph's middle.

    Source: Zhang and He, Whiteboard scanning and image enhancement, Digital Signal Processing 17 (2007), section 3.
    """
    centred = np.column_stack([seen - np.array(size) / 2, np.ones(4)])
    m1, m2, m4, m3 = centred
    k2 = (np.cross(m1, m4) @ m3) / (np.cross(m2, m4) @ m3)
    k3 = (np.cross(m1, m4) @ m2) / (np.cross(m3, m4) @ m2)
    across, down = k2 * m2 - m1, k3 * m3 - m1
    squared = (_USUAL_FOCAL * max(size)) ** 2
    if min(abs(across[2]), abs(down[2])) >= _PARALLEL:
        told = -(across[:2] @ down[:2]) / (across[2] * down[2])
        squared = float(told) if _FOCALS[0] ** 2 <= told / max(size) ** 2 <= _FOCALS[1] ** 2 else squared
    length = [np.sqrt((n[:2] @ n[:2]) / squared + n[2] ** 2) for n in (across, down)]
    return float(length[0] / length[1])
