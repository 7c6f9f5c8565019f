"""A small picture of films for a list or a first look: not to cut by."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from gladstack.core.base.colour import Rgb
from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Chain, flatten_chain

_SHIFT = 4
_SMOOTH = 2
"""Drawn so many times larger and made small again, for smooth edges."""


def png(
    box: Box,
    fills: Sequence[tuple[str, Sequence[Chain]]],
    lines: Sequence[Chain] = (),
    across_px: int = 1200,
    ground: Rgb = (255, 255, 255),
) -> bytes:
    """Fills (colour, rings, even-odd) from the bottom up and lines over them, in a box, as PNG on a `ground`."""
    left, top, right, bottom = box
    scale = _SMOOTH * across_px / max(right - left, bottom - top, 1e-9)
    h, w = max(1, round((bottom - top) * scale)), max(1, round((right - left) * scale))
    image = np.full((h, w, 3), ground[::-1], np.uint8)

    def drawn(chain: Chain) -> np.ndarray[tuple[int, ...], np.dtype[np.int32]]:
        points = (flatten_chain(chain, 0.5 / scale) - (left, top)) * scale
        return np.round(points * (1 << _SHIFT)).astype(np.int32)

    for colour, chains in fills:
        red, green, blue = (int(colour[k : k + 2], 16) for k in (1, 3, 5))
        cv2.fillPoly(image, [drawn(c) for c in chains], (blue, green, red), lineType=cv2.LINE_AA, shift=_SHIFT)
    cv2.polylines(image, [drawn(c) for c in lines], False, (30, 35, 37), 2, cv2.LINE_AA, _SHIFT)
    small = cv2.resize(image, (max(1, w // _SMOOTH), max(1, h // _SMOOTH)), interpolation=cv2.INTER_AREA)
    return bytes(cv2.imencode(".png", small)[1])
