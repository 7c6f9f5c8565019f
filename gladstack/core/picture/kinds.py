"""What kind of picture this is: flat colours, lines on paper, a print in dots, a photograph of a print, or a photograph.

Told by what each lacks. A print in dots repeats itself every few pixels; lines have one ink; a photograph has slopes of
every steepness, where a drawing, photographed or not, has plateaus and edges and little between; and a drawing that was
photographed has grain and uneven light where one that was saved has neither.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.picture import pixels
from gladstack.core.picture.lines import is_line_art
from gladstack.core.picture.windows import spread

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float32]
PictureKind = Literal["flat", "line-art", "halftone", "print", "photograph"]

_THINNED, _JUMP, _MANY_JUMPS = 4, 40, 0.06
_SOME_ROUGH = 0.02
_SAMPLE_PX = 900
_TILE_PX = 96
_PERIODS_PX = (3.0, 11.0)
_PEAK = 9.0
_PERIODIC_SHARE = 0.1
_ACROSS, _LEAST_TILES, _ONE_PITCH = 0.12, 2, 0.2
_STEEP, _SLOPING = 26.0, 5.0
_EDGE_PX = 5
_MOST_SLOPING = 0.35
_GRAIN = 0.85


@dataclass(frozen=True)
class Look:
    """What a picture is taken for, and what that was told by: the share of it that repeats itself in dots, and their pitch
    in px; the share away from edges that slopes; its grain in levels.
    """

    kind: PictureKind
    periodic: float
    pitch_px: float
    sloping: float
    grain: float


def kind_of(rgb: ByteArray, *, lines: bool = True) -> Look:
    """What a picture (height, width, 3) is taken for; without `lines` it is known not to be taken for line art."""
    periodic, pitch = _dots(rgb)
    sloping = _sloping_share(rgb)
    grain = _grain(rgb)
    kind: PictureKind = "flat"
    if periodic >= _PERIODIC_SHARE:
        kind = "halftone"
    elif lines and is_line_art(rgb):
        kind = "line-art"
    elif sloping > _MOST_SLOPING:
        kind = "photograph"
    elif grain > _GRAIN:
        kind = "print"
    return Look(kind, periodic, pitch, sloping, grain)


def may_be_printed(rgb: ByteArray) -> bool:
    """Whether a picture is worth a look: drawn ones that were saved without loss have neither dots nor grain."""
    rows = rgb[::_THINNED, :, 1].astype(np.int16)
    jumps = float(np.mean(np.abs(np.diff(rows, axis=1)) > _JUMP))
    return jumps > _MANY_JUMPS or pixels.near_flat_share(rgb) > _SOME_ROUGH


def _dots(rgb: ByteArray) -> tuple[float, float]:
    """The share of textured tiles whose spectrum has one sharp peak at a pitch of some pixels, and the median pitch."""
    grey = cv2.cvtColor(np.ascontiguousarray(rgb), cv2.COLOR_RGB2GRAY).astype(np.float32)
    h, w = grey.shape
    window = np.outer(np.hanning(_TILE_PX), np.hanning(_TILE_PX)).astype(np.float32)
    freq = np.hypot(*np.meshgrid(np.fft.fftfreq(_TILE_PX), np.fft.fftfreq(_TILE_PX), indexing="ij"))
    ring = (freq >= 1 / _PERIODS_PX[1]) & (freq <= 1 / _PERIODS_PX[0])
    tiles, pitches = 0, []
    rows = range(0, max(1, h - _TILE_PX + 1), max(_TILE_PX, (h - _TILE_PX) // 6 or 1))
    columns = range(0, max(1, w - _TILE_PX + 1), max(_TILE_PX, (w - _TILE_PX) // 6 or 1))
    for y in rows:
        for x in columns:
            tile = grey[y : y + _TILE_PX, x : x + _TILE_PX]
            if tile.shape != window.shape or float(tile.std()) < 4:
                continue
            tiles += 1
            power = np.abs(np.fft.fft2((tile - tile.mean()) * window)) ** 2
            best = int(np.argmax(np.where(ring, power, 0)))
            peak = float(power.ravel()[best])
            # A peak stands for dots if all lower pitches together, where drawings have their power, do not outweigh it.
            around = float(np.mean(power[ring]))
            low = float(power[(freq < 1 / _PERIODS_PX[1]) & (freq > 0)].max())
            # Dots repeat themselves both ways, as lines do not.
            fy, fx = divmod(best, _TILE_PX)
            across = float(power[np.ix_(*((np.arange(c - 1, c + 2) % _TILE_PX) for c in (-fx, fy)))].max())
            if peak > _PEAK * around and peak > 0.5 * low and across > _ACROSS * peak:
                pitches.append(1.0 / float(freq.ravel()[best]))
    if len(pitches) < _LEAST_TILES:
        return 0.0, 0.0
    middle = float(np.median(pitches))
    alike = sum(abs(p - middle) < _ONE_PITCH * middle for p in pitches)
    return alike / max(1, tiles), middle


def _sloping_share(rgb: ByteArray) -> float:
    """The share of pixels off edges whose surroundings rise or fall, a little blurred so that grain does not count."""
    scale = min(1.0, _SAMPLE_PX / max(rgb.shape[:2]))
    if scale < 1:
        rgb = np.asarray(cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.uint8)
    soft = cv2.GaussianBlur(np.ascontiguousarray(rgb), (0, 0), 2.0)
    rise = spread(np.asarray(soft, np.uint8), 7)
    edge = cv2.dilate((rise > _STEEP).astype(np.uint8), np.ones((2 * _EDGE_PX + 1, 2 * _EDGE_PX + 1), np.uint8)) > 0
    off = ~edge
    if np.count_nonzero(off) < 0.02 * off.size:
        return 1.0
    return float(np.mean(rise[off] > _SLOPING))


def _grain(rgb: ByteArray) -> float:
    """The grain of the picture in levels: what a 3 x 3 median takes away, by the median over its quieter half."""
    grey = cv2.cvtColor(np.ascontiguousarray(rgb), cv2.COLOR_RGB2GRAY)
    rest = np.abs(grey.astype(np.float32) - cv2.GaussianBlur(grey, (0, 0), 2.0).astype(np.float32))
    quiet = rest[rest <= np.percentile(rest, 60)]
    return float(np.sqrt(np.mean(quiet**2))) * 2.0 if quiet.size else 0.0
