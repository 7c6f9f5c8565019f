"""Thin things that were given a colour they do not reach, such as grey words given to a black film, and faint ones that
were given to their ground.

Where a line is narrow, soft edges hide how dark it is, so a line is held against its own painted shape: drawn as sharply as
the picture is, that would be so dark, and a paler line is in a colour of its own.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.picture.windows import one_label

LabelArray = npt.NDArray[np.int16]
FloatArray = npt.NDArray[np.float32]
BoolArray = npt.NDArray[np.bool_]

_THIN_PX, _BESIDE_PX = 6, 9
_JOINED_PX = 11
_FEWEST_PX = 30
_BLUR = 0.7
"""How much a sharp edge is blurred by being drawn into pixels and saved, as the sigma of a Gaussian."""
_HEART, _TOP = 90.0, 75.0
"""A line is read where its shape is thickest, as the percentile of how it would be drawn, and there where it is darkest."""
_REACHED, _SLIGHT, _REACHED_SLIGHT = 0.85, 0.8, 0.79
"""How much of what their shape tells words in a film's own colour reach at least, caps of 11 px and JPEG 75 included; and
the same of slight ones, which tell less.
"""
_LEAST_OFF = 0.7
_WINDOW_PX, _MOST_OF_WINDOW = 7, 25
_FAINT = (2.2, 2.4)
"""Levels of brightness and of tint, for each level of noise, that a window's mean stays within where nothing is missing."""


@dataclass(frozen=True)
class Pale:
    """A thin thing, such as a word: its pixels within its rows and columns, and the colour it has (brightness, tints)."""

    pixels: BoolArray
    rows: slice
    columns: slice
    colour: FloatArray


def find_pale(ycc: FloatArray, painted: LabelArray, table: FloatArray, soft: int, off: float, tint: float) -> list[Pale]:
    """Thin things of a picture (height, width, 3), painted as indices of `table` (colours, 3), that do not reach it.

    Picture and table are in brightness and tints; `soft` is how many px the picture's edges are wide, `off` how many levels
    are noise, and `tint` how much tints count.
    """
    out: list[Pale] = []
    scale = np.array([1.0, tint, tint], np.float32)
    for own in np.unique(painted).tolist():
        mask = (painted == own).astype(np.uint8)
        wide = cv2.morphologyEx(mask, cv2.MORPH_OPEN, _square(_THIN_PX))
        thin = (mask > 0) & (cv2.dilate(wide, _square(_BESIDE_PX)) == 0)
        if np.count_nonzero(thin) < _FEWEST_PX:
            continue
        near = cv2.dilate(thin.astype(np.uint8), _square(_JOINED_PX))
        count, parts, stats, _ = cv2.connectedComponentsWithStats(near, connectivity=8)
        for k in range(1, count):
            left, top, width, height, _size = stats[k].tolist()
            rows, columns = slice(top, top + height), slice(left, left + width)
            about = parts[rows, columns] == k
            pixels = thin[rows, columns] & about
            if np.count_nonzero(pixels) < _FEWEST_PX:
                continue
            beside = painted[rows, columns][about & (painted[rows, columns] != own)]
            if not len(beside):
                continue
            ground = table[int(np.bincount(beside).argmax())]
            way = (table[own] - ground) * scale
            length = float(np.linalg.norm(way))
            share = ((ycc[rows, columns] - ground) * scale) @ way / max(length * length, 1e-6)
            drawn = cv2.GaussianBlur(mask[rows, columns].astype(np.float32), (0, 0), _BLUR * max(1, soft))
            heart = pixels & (drawn >= np.percentile(drawn[pixels], _HEART))
            reached, should = float(np.percentile(share[heart], _TOP)), float(np.median(drawn[heart]))
            least = _REACHED if should > _SLIGHT else _REACHED_SLIGHT
            if reached < least * should and (should - reached) * length > _LEAST_OFF * off:
                best = heart & (share >= np.median(share[heart]))
                colour = np.median(ycc[rows, columns][best], axis=0).astype(np.float32)
                out.append(Pale(pixels, rows, columns, colour))
    return out


def find_faint(ycc: FloatArray, painted: LabelArray, table: FloatArray, strength: float) -> BoolArray:
    """Pixels of a lossy picture that differ a little from what they are painted as, and together, which noise does not."""
    apart = ycc - table[painted]
    inner = cv2.erode(one_label(painted).astype(np.uint8), _square(_WINDOW_PX)).astype(np.float32)
    some = cv2.boxFilter(inner, -1, (_WINDOW_PX, _WINDOW_PX), normalize=False)
    mean = cv2.boxFilter(apart * inner[..., None], -1, (_WINDOW_PX, _WINDOW_PX), normalize=False)
    mean = mean / np.maximum(some, 1)[..., None]
    faint = (np.abs(mean[..., 0]) > _FAINT[0] * strength) | (np.hypot(mean[..., 1], mean[..., 2]) > _FAINT[1] * strength)
    off = np.abs(apart) > np.array([_FAINT[0], _FAINT[1], _FAINT[1]], np.float32) * strength
    found = (faint & (some >= _MOST_OF_WINDOW) & off.any(axis=2)).astype(np.uint8)
    count, parts = cv2.connectedComponents(cv2.dilate(found, _square(_JOINED_PX)), connectivity=8)
    enough = np.bincount(parts[found > 0], minlength=count) >= _FEWEST_PX
    out: BoolArray = (found > 0) & enough[parts]
    return out


def _square(side: int) -> Any:
    return np.ones((side, side), np.uint8)
