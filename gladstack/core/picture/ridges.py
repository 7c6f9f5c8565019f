"""Thin things of a picture: lines, outlines and letters, found along their middles, whatever colour they are.

Words: the *ground* is the palette colour of what lies behind a thin thing, taken from the nearest quiet place; a *ridge* is
a place darker or lighter than its ground that stands out on both sides; its *middle* is one pixel wide.

A thin thing of a JPEG has no pixel of its own colour: brightness is smeared by ringing, and tint is stored at half the
resolution. Its brightness is read along the middle, its tint by how tint follows brightness from the ground up to it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.windows import one_label, spread

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float32]
BoolArray = npt.NDArray[np.bool_]
LabelArray = npt.NDArray[np.int16]

LUMA = np.array([0.299, 0.587, 0.114], np.float32)
TO_YCC = np.array([LUMA, [-0.168736, -0.331264, 0.5], [0.5, -0.418688, -0.081312]], np.float32)
"""From sRGB levels to brightness and two tints (JPEG's own), all in levels."""

_QUIET = (4.0, 3.0)
"""A quiet pixel's 5 x 5 neighbourhood varies by no more than the first, and so much more for each level of noise."""
_OWN = (12.0, 4.0)
"""A quiet pixel belongs to a palette colour within so many levels, and so many more for each level of noise."""
_GROWS_PX = 6
_INSIDE_PX = 3.5
ABOUT_PX = 5
SPAN_PX = 11
"""Wider things are their own ground."""
_STANDS_OUT = (14.0, 4.0)
"""Levels a ridge must stand out by, and so many more for each level of noise."""
_WEAKER = 0.6
"""A ridge that stands out somewhere goes on as far as it keeps this share of what it must."""
_LEAST_PX = 4
_AROUND_PX = 9
_HAIR_PX, _LINE_PX = 1.6, 2.6
"""Of narrower lines brightness is read at its extreme, of wider ones along the middle; between them in proportion."""
_COVERS_PX = 6.0
_UNDERSHOOT = 2.0
"""Ringing makes the extreme of a thin thing stronger by so many levels for each level of noise."""


@dataclass(frozen=True)
class PaperGround:
    """What lies behind thin things: for each pixel the index of a palette colour, and whether it is quiet itself."""

    index: LabelArray
    quiet: BoolArray


@dataclass(frozen=True)
class Ridges:
    """The middle pixels of thin things, in scan order: places, whether darker than their ground, widths in px, and the
    colours read for them and for their grounds, (n, 3) in brightness and tint.
    """

    y: npt.NDArray[np.int64]
    x: npt.NDArray[np.int64]
    dark: BoolArray
    width: FloatArray
    colour: FloatArray
    ground: FloatArray


def to_ycc(rgb: npt.ArrayLike) -> FloatArray:
    """Brightness and tint of sRGB colours, in levels."""
    return np.asarray(np.asarray(rgb, np.float32) @ TO_YCC.T, np.float32)


def from_ycc(ycc: npt.ArrayLike) -> FloatArray:
    """The sRGB colours of brightness and tint, within 0 to 255."""
    return np.asarray(np.clip(np.asarray(ycc, np.float32) @ np.linalg.inv(TO_YCC).T, 0, 255), np.float32)


def ycc_pixels(rgb: ByteArray) -> FloatArray:
    """Brightness and tint of every pixel, (height, width, 3)."""
    return np.asarray(cv2.transform(rgb.astype(np.float32), TO_YCC), np.float32)


def ground_of(
    rgb: ByteArray, ycc: FloatArray, colours: tuple[Rgb, ...], noise: Noise, labels: LabelArray | None = None
) -> PaperGround:
    """What lies behind thin things: every pixel takes the colour of the nearest quiet one.

    Where `labels` are known already, the inside of an area of some width is its own ground, however noisy it is.
    """
    calm = spread(rgb, 5) <= _by(_QUIET, noise)
    table = to_ycc(np.array(colours))
    own = _nearest(ycc, table, _by(_OWN, noise), calm)
    if labels is not None:
        inner = _inside(labels) & (own < 0)
        own[inner] = labels[inner]
    quiet = own >= 0
    if not quiet.any():
        return PaperGround(np.zeros(own.shape, np.int16), quiet)
    # Up to the thing itself, from both sides: else the seam falls beside it, where one side is quieter.
    grown = _grown(ycc, table, own, _by(_OWN, noise)) if noise.strength > 1 else own
    known = grown >= 0
    _, near = cv2.distanceTransformWithLabels((~known).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    value = np.zeros(int(near.max()) + 1, np.int16)
    value[near[known]] = grown[known]
    return PaperGround(value[near], quiet)


def _inside(labels: LabelArray) -> BoolArray:
    return np.asarray(cv2.distanceTransform(one_label(labels).astype(np.uint8), cv2.DIST_L2, 3) >= _INSIDE_PX)


def find_ridges(
    ycc: FloatArray,
    ground: PaperGround,
    colours: tuple[Rgb, ...],
    noise: Noise,
    *,
    weak: bool = False,
    among: BoolArray | None = None,
) -> Ridges:
    """The middles of all thin things, or those `among` some pixels. With `weak` those that stand out somewhere are followed
    where they fade.
    """
    table = to_ycc(np.array(colours))
    luma = np.ascontiguousarray(ycc[..., 0])
    behind = table[:, 0][ground.index]
    box = np.ones((SPAN_PX, SPAN_PX), np.uint8)
    # It stands out from all grounds about: what lies between two of them is their edge.
    about = np.ones((ABOUT_PX, ABOUT_PX), np.uint8)
    down = np.minimum(cv2.erode(behind, about), cv2.morphologyEx(luma, cv2.MORPH_CLOSE, box)) - luma
    up = luma - np.maximum(cv2.dilate(behind, about), cv2.morphologyEx(luma, cv2.MORPH_OPEN, box))
    least, floor = stands_out(noise), stands_out(noise, faint=weak)
    middle = np.zeros(luma.shape, bool)
    dark = np.zeros(luma.shape, bool)
    high = np.zeros(luma.shape, np.float32)
    for field, is_dark in ((down, True), (up, False)):
        soft = np.asarray(cv2.GaussianBlur(field, (0, 0), 0.7), np.float32)
        own = _kept(_middles(soft, floor), soft, least)
        better = own & ~(middle & (high > soft))
        middle |= own
        dark[better] = is_dark
        high = np.where(better, soft, high)
    if among is not None:
        middle &= among
    y, x = np.nonzero(middle)
    if len(y) < _LEAST_PX:
        y, x = y[:0], x[:0]
        none = np.zeros(0, np.float32)
        return Ridges(y, x, np.zeros(0, bool), none, np.zeros((0, 3), np.float32), np.zeros((0, 3), np.float32))
    field = np.where(cv2.dilate((middle & dark).astype(np.uint8), np.ones((7, 7), np.uint8)) > 0, down, up)
    peak = cv2.dilate(np.where(middle, np.maximum(down, up), 0).astype(np.float32), np.ones((7, 7), np.uint8))
    zone = (np.maximum(field, 0) > 0.5 * peak) & (peak > 0)
    return _read(ycc, table[ground.index], middle, dark, zone, y, x, noise)


def _read(
    ycc: FloatArray, behind: FloatArray, middle: BoolArray, dark: BoolArray, zone: BoolArray,
    y: npt.NDArray[np.int64], x: npt.NDArray[np.int64], noise: Noise,
) -> Ridges:  # fmt: skip
    """Widths and colours along the middles."""
    around = (_AROUND_PX, _AROUND_PX)

    def total(values: FloatArray | BoolArray) -> FloatArray:
        return np.asarray(cv2.boxFilter(values.astype(np.float32), -1, around, normalize=False)[y, x], np.float32)

    count = np.maximum(total(middle), 1)
    width = total(zone) / count
    luma = np.ascontiguousarray(ycc[..., 0])
    kernel = np.ones(around, np.uint8)
    lowest = -cv2.dilate(np.where(middle, -luma, -1e3).astype(np.float32), kernel)[y, x]
    highest = cv2.dilate(np.where(middle, luma, -1e3).astype(np.float32), kernel)[y, x]
    back = _UNDERSHOOT * noise.strength if noise.strength > 1 else 0.0
    # Given back, but never beyond what the place itself shows.
    seen = luma[y, x]
    extreme = np.where(dark[y, x], np.minimum(lowest + back, seen), np.maximum(highest - back, seen))
    mean = total(np.where(middle, luma, 0)) / count
    part = np.clip((width - _HAIR_PX) / (_LINE_PX - _HAIR_PX), 0, 1)
    bright = (1 - part) * extreme + part * mean
    base = behind[y, x]
    colour = np.empty((len(y), 3), np.float32)
    colour[:, 0] = bright
    covered = _covered(luma, behind[..., 0], middle, bright)
    share = _halved(covered) if noise.halved else covered
    power = np.maximum(total(share * share), 0.05)
    for c in (1, 2):
        rest = np.ascontiguousarray(behind[..., c]) * (1 - covered)
        under = _halved(rest) if noise.halved else rest
        colour[:, c] = total(share * (ycc[..., c] - under)) / power
    return Ridges(y, x, dark[y, x], np.asarray(width, np.float32), colour, np.asarray(base, np.float32))


_TINT_COUNTS = 0.6
_LAG = 0.65
"""A thin thing shows at least this share of its tint, against the share of its brightness that it shows."""


def lagging(colour: FloatArray, ground: FloatArray, k: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray]:
    """How far readings (n, 3) are from mixes of their grounds with the colour `k`, in levels; the share of `k` by
    brightness; and how far `k` is from each ground in brightness.
    """
    way = k - ground
    luma = np.abs(way[:, 0])
    share = (colour[:, 0] - ground[:, 0]) / np.where(luma < 1, 1, way[:, 0])
    taken = np.clip(share, 0.0, 1.0)
    off = colour[:, 1:] - ground[:, 1:]
    power = np.maximum((way[:, 1:] ** 2).sum(axis=1), 1e-6)
    tint = np.clip((off * way[:, 1:]).sum(axis=1) / power, _LAG * taken, np.maximum(taken, 1.0))
    rest = _TINT_COUNTS * np.linalg.norm(off - tint[:, None] * way[:, 1:], axis=1)
    beyond = np.abs(share - np.clip(share, 0.0, 1.0)) * luma
    return np.asarray(np.hypot(rest, beyond), np.float32), np.asarray(share, np.float32), np.asarray(luma, np.float32)


def _covered(luma: FloatArray, behind: FloatArray, middle: BoolArray, bright: FloatArray) -> FloatArray:
    """How much of each pixel a thin thing covers, by brightness: 0 at its ground, 1 at the brightness of its middle."""
    away, near = cv2.distanceTransformWithLabels((~middle).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    value = np.zeros(int(near.max()) + 1, np.float32)
    value[near[middle]] = bright
    way = value[near] - behind
    share = (luma - behind) / np.where(np.abs(way) < 1, np.inf, way)
    return np.asarray(np.where(away <= _COVERS_PX, np.clip(share, 0, 1), 0), np.float32)


def stands_out(noise: Noise, *, faint: bool = False) -> float:
    """By how many levels a thin thing stands out from its ground at least; a `faint` one if it goes on from another."""
    return _by(_STANDS_OUT, noise) * (_WEAKER if faint else 1.0)


def middles_of(field: FloatArray, noise: Noise) -> BoolArray:
    """Where the middles of things may be that stand out by `field` levels, faint ones included."""
    return np.asarray(_middles(cv2.GaussianBlur(field, (0, 0), 0.7), stands_out(noise, faint=True)))


def _by(rule: tuple[float, float], noise: Noise) -> float:
    return rule[0] + rule[1] * noise.strength


def _halved(channel: FloatArray) -> FloatArray:
    """A channel as a tint is stored and shown: at half the size, and up again."""
    h, w = channel.shape
    small = cv2.resize(channel, ((w + 1) // 2, (h + 1) // 2), interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.resize(small, (w, h), interpolation=cv2.INTER_LINEAR), np.float32)


def _kept(middle: BoolArray, field: FloatArray, least: float) -> BoolArray:
    """Connected middles of some length that stand out somewhere."""
    count, parts, stats, _ = cv2.connectedComponentsWithStats(middle.astype(np.uint8), connectivity=8)
    best = np.zeros(count, bool)
    best[parts[middle & (field >= least)]] = True
    best &= stats[:, cv2.CC_STAT_AREA] >= _LEAST_PX
    best[0] = False
    return np.asarray(best[parts])


@jit
def _nearest(ycc: Any, table: Any, reach: float, mask: Any) -> Any:
    """The index of the nearest of `table` within `reach`, where `mask`; -1 elsewhere."""
    h, w, _ = ycc.shape
    out = np.full((h, w), -1, np.int16)
    for y in range(h):
        for x in range(w):
            if not mask[y, x]:
                continue
            best = reach * reach
            for k in range(table.shape[0]):
                a, b, c = ycc[y, x, 0] - table[k, 0], ycc[y, x, 1] - table[k, 1], ycc[y, x, 2] - table[k, 2]
                d = a * a + b * b + c * c
                if d <= best:
                    best = d
                    out[y, x] = k
    return out


@jit
def _grown(ycc: Any, table: Any, own: Any, reach: float) -> Any:
    """`own`, with pixels that nearly have the colour of a quiet one some px off."""
    h, w = own.shape
    out = own.copy()
    for y in range(h):
        for x in range(w):
            if own[y, x] >= 0:
                continue
            best = reach * reach
            for v in range(max(0, y - _GROWS_PX), min(h, y + _GROWS_PX + 1)):
                for u in range(max(0, x - _GROWS_PX), min(w, x + _GROWS_PX + 1)):
                    k = own[v, u]
                    if k < 0 or k == out[y, x]:
                        continue
                    a, b, c = ycc[y, x, 0] - table[k, 0], ycc[y, x, 1] - table[k, 1], ycc[y, x, 2] - table[k, 2]
                    d = a * a + 0.36 * (b * b + c * c)
                    if d <= best:
                        best = d
                        out[y, x] = k
    return out


@jit
def _middles(field: Any, floor: float) -> Any:
    """Pixels of at least `floor` that are the greatest across some direction, and fall to half on both its sides."""
    h, w = field.shape
    out = np.zeros((h, w), np.bool_)
    for y in range(1, h - 1):
        for x in range(1, w - 1):
            v = field[y, x]
            if v < floor:
                continue
            for d in range(4):
                dy, dx = (0, 1) if d == 0 else (1, 0) if d == 1 else (1, 1) if d == 2 else (1, -1)
                if field[y - dy, x - dx] > v or field[y + dy, x + dx] >= v:
                    continue
                reach = 5 if d < 2 else 4
                ya, xa = max(0, min(h - 1, y - reach * dy)), max(0, min(w - 1, x - reach * dx))
                yb, xb = max(0, min(h - 1, y + reach * dy)), max(0, min(w - 1, x + reach * dx))
                if field[ya, xa] < 0.5 * v and field[yb, xb] < 0.5 * v:
                    out[y, x] = True
                    break
    return out
