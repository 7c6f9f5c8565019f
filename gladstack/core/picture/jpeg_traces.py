"""What JPEG leaves in a picture that no longer says it was one: brightness in whole steps of the table it was saved with."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

_STANDARD = (
    16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51, 87,
    80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103, 121, 120, 101, 72, 92,
    95, 98, 112, 100, 103, 99,
)  # fmt: skip
"""The luma table of ITU-T T.81, annex K, row by row."""
_QUALITIES = tuple(range(30, 95, 5))
_LOWEST = ((0, 1), (1, 0), (1, 1), (0, 2), (2, 0), (1, 2), (2, 1))
_SURE = 0.2
_FEWEST = 60
_MOST_BLOCKS = 6_000


def luma_table_of(rgb: npt.NDArray[np.uint8]) -> tuple[int, ...] | None:
    """The luma table that a picture was saved with before it was saved anew without loss; None if there are no traces.

    The picture's blocks are taken apart into their waves: after JPEG each is a multiple of the table's step. Only tables
    made from the standard one are known, and the picture must not have been cut at its top or left since.
    """
    luma = cv2.transform(rgb.astype(np.float32), np.array([[0.299, 0.587, 0.114]], np.float32)) - 128.0
    height, width = luma.shape[0] // 8, luma.shape[1] // 8
    if height * width < 4:
        return None
    blocks = luma[: 8 * height, : 8 * width].reshape(height, 8, width, 8).transpose(0, 2, 1, 3).reshape(-1, 8, 8)
    blocks = blocks[np.ptp(blocks, axis=(1, 2)) > 8.0]
    blocks = blocks[:: max(1, len(blocks) // _MOST_BLOCKS)]
    waves = _cosines() @ blocks @ _cosines().T
    best, sure = None, 0.0
    for quality in _QUALITIES:
        table = _table(quality)
        found = [waves[:, v, u] / table[8 * v + u] for v, u in _LOWEST if table[8 * v + u] > 2]
        if not found:
            continue
        steps = np.concatenate(found)
        steps = steps[np.abs(steps) > 0.6]
        if len(steps) < _FEWEST:
            continue
        # Finer tables fit as well where their steps divide the true one's: the coarsest that fits is taken.
        fits = float(np.mean(np.cos(2 * np.pi * steps)))
        if fits > max(sure, _SURE + 2.5 / np.sqrt(len(steps))):
            best, sure = table, fits
    return best


def _table(quality: int) -> tuple[int, ...]:
    scale = 5000 / quality if quality < 50 else 200 - 2 * quality
    return tuple(max(1, min(255, int((v * scale + 50) / 100))) for v in _STANDARD)


def _cosines() -> npt.NDArray[np.float32]:
    k = np.arange(8)
    rows = np.cos((2 * k[None] + 1) * k[:, None] * np.pi / 16) * np.sqrt(2 / 8)
    rows[0] /= np.sqrt(2)
    return np.asarray(rows, np.float32)
