"""What is in a picture and in none of its areas: the picture held against its areas painted back, pixel by pixel.

A pixel is explained if it is a mix of two colours that are painted close by, noise aside: so soft edges are, and words that
vanished are not. In a picture that came through JPEG brightness and tint mix in shares of their own.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e
from gladstack.core.base.compiled import jit
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.mixes import blend_residual
from gladstack.core.picture.pale import find_faint, find_pale
from gladstack.core.picture.ridges import from_ycc, to_ycc, ycc_pixels
from gladstack.core.picture.windows import one_label

LabelArray = npt.NDArray[np.int16]
FloatArray = npt.NDArray[np.float32]
BoolArray = npt.NDArray[np.bool_]
Box = tuple[int, int, int, int]

_OFF = (12.0, 4.5)
"""Levels by which a pixel may be off all mixes, and so many more for each level of noise."""
_CLOSE_PX = (1, 2)
"""How far off painted colours explain a pixel at least, in clean pictures and in lossy ones."""
_SOFTEST_PX, _SOFT_SHARE = 9, 0.1
_BEYOND = 0.4
"""Sharpened and resized edges go beyond both their colours by up to this share of what lies between these."""
_TINT = 0.5
_LEAST_PX = 4
_FOOT_PX, _STRIP_PX, _STILL = 2, 1.5, 0.5
_JOINED_PX = 5
_ONE_COLOUR = 16.0
_MOST_KINDS = 6
_MOST_BOXES = 12
_THICK_PX = 4.0


@dataclass(frozen=True)
class LostPlace:
    """Somewhere that something is lost: its box in pixels (left, top, right, bottom), and how many pixels are."""

    box: Box
    pixels: int


@dataclass(frozen=True)
class Kind:
    """What is lost of one colour: thin things, such as words and lines, or areas; the places, largest first."""

    colour: Rgb
    what: Literal["thin", "area"]
    pixels: int
    places: tuple[LostPlace, ...]


@dataclass(frozen=True)
class Lost:
    """All that is lost of a picture: how many pixels, their share, and the kinds, largest first."""

    pixels: int
    share: float
    kinds: tuple[Kind, ...] = ()


Found = tuple[Rgb, Literal["thin", "area"], LostPlace]

NOTHING_LOST = Lost(0, 0.0)


def find_lost(
    rgb: npt.NDArray[np.uint8], painted: LabelArray, colours: tuple[Rgb, ...], noise: Noise, known: BoolArray | None
) -> Lost:
    """What of `rgb` (height, width, 3) its areas, painted back as indices of `colours`, do not show.

    What is `known` to differ is left out.
    """
    ycc = ycc_pixels(rgb)
    off = _OFF[0] + _OFF[1] * noise.strength
    tint = _TINT if noise.halved else 1.0
    table = to_ycc(np.array(colours))
    plain = _plain(ycc, painted, table, off * off, tint)
    if noise.strength <= 1 and plain.all():
        return NOTHING_LOST
    soft = _softness(painted, plain)
    close = max(_CLOSE_PX[int(noise.strength > 1)], soft + (soft > 1))
    missing = _missing(ycc, painted, table, plain, off * off, close, tint)
    if known is not None:
        missing &= ~known
    count, parts, stats, _ = cv2.connectedComponentsWithStats(missing.astype(np.uint8), connectivity=8)
    large = stats[:, cv2.CC_STAT_AREA] >= _LEAST_PX
    large[0] = False
    # A strip a pixel wide that what lies a little farther off explains is the foot of a soft edge.
    depth = cv2.distanceTransform(missing.astype(np.uint8), cv2.DIST_L2, 3)
    deepest = np.zeros(count, np.float32)
    np.maximum.at(deepest, parts[missing], depth[missing])
    still = _missing(ycc, painted, table, ~missing, off * off, close + _FOOT_PX, tint)
    left = np.bincount(parts[still], minlength=count)
    large &= (deepest >= _STRIP_PX) | (left >= _STILL * stats[:, cv2.CC_STAT_AREA])
    mask = large[parts]
    if noise.strength > 1:
        faint = find_faint(ycc, painted, table, noise.strength)
        mask |= faint if known is None else faint & ~known
    found = _places(ycc, mask, painted, table) if mask.any() else []
    if noise.strength > 1:
        taken = mask if known is None else mask | known
        for pale in find_pale(ycc, painted, table, soft, off, tint):
            own = pale.pixels & ~taken[pale.rows, pale.columns]
            if np.count_nonzero(own) >= _LEAST_PX:
                found.append((_rgb(from_ycc(pale.colour)), "thin", _place(own, pale.columns.start, pale.rows.start)))
    if not found:
        return NOTHING_LOST
    total = sum(place.pixels for _, _, place in found)
    return Lost(total, total / mask.size, _kinds(found))


def _places(ycc: FloatArray, mask: BoolArray, painted: LabelArray, table: FloatArray) -> list[Found]:
    """Pixels close to each other as one place, its colour, and whether it is thin."""
    near = cv2.dilate(mask.astype(np.uint8), np.ones((2 * _JOINED_PX + 1, 2 * _JOINED_PX + 1), np.uint8))
    count, groups = cv2.connectedComponents(near, connectivity=8)
    deep = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 3)
    found: list[Found] = []
    y, x = np.nonzero(mask)
    group = groups[y, x]
    order = np.argsort(group, kind="stable")
    cuts = np.searchsorted(group[order], np.arange(1, count + 1))
    for k in range(1, count):
        own = order[cuts[k - 1] : cuts[k]]
        if not len(own):
            continue
        v, u = y[own], x[own]
        # The pixels farthest from what is painted there show the colour best.
        apart = np.linalg.norm(ycc[v, u] - table[painted[v, u]], axis=1)
        best = apart >= np.percentile(apart, 75)
        colour = _rgb(from_ycc(np.median(ycc[v, u][best], axis=0)))
        what: Literal["thin", "area"] = "thin" if float(deep[v, u].max()) < _THICK_PX else "area"
        found.append((colour, what, LostPlace((int(u.min()), int(v.min()), int(u.max()) + 1, int(v.max()) + 1), len(own))))
    return found


def _place(pixels: BoolArray, left: int, top: int) -> LostPlace:
    """The place of pixels in a window that begins at `left` and `top`."""
    y, x = np.nonzero(pixels)
    box = (left + int(x.min()), top + int(y.min()), left + int(x.max()) + 1, top + int(y.max()) + 1)
    return LostPlace(box, len(x))


def _kinds(found: list[Found]) -> tuple[Kind, ...]:
    """Places by colour and by whether they are thin."""
    found = sorted(found, key=lambda one: -one[2].pixels)
    kinds: list[tuple[Rgb, Literal["thin", "area"], list[LostPlace]]] = []
    for colour, what, place in found:
        like = next(
            (k for k in kinds if k[1] == what and float(delta_e(np.array(k[0]), np.array(colour))) < _ONE_COLOUR), None
        )
        if like:
            like[2].append(place)
        else:
            kinds.append((colour, what, [place]))
    out = [Kind(c, w, sum(p.pixels for p in own), tuple(own[:_MOST_BOXES])) for c, w, own in kinds]
    return tuple(sorted(out, key=lambda kind: -kind.pixels)[:_MOST_KINDS])


def _rgb(values: FloatArray) -> Rgb:
    r, g, b = (round(float(v)) for v in values)
    return r, g, b


def _softness(painted: LabelArray, plain: BoolArray) -> int:
    """How many px off a border pixels still mix both sides: the first distance at which nearly all have their own colour."""
    inner = one_label(painted).astype(np.uint8)
    away = np.minimum(np.rint(cv2.distanceTransform(inner, cv2.DIST_L2, 5)), _SOFTEST_PX + 2).astype(np.uint8)
    total = np.bincount(away.ravel(), minlength=_SOFTEST_PX + 3)
    off = np.bincount(away[~plain], minlength=_SOFTEST_PX + 3)
    for d in range(1, _SOFTEST_PX):
        if off[d] <= _SOFT_SHARE * max(1, total[d]):
            return d
    return _SOFTEST_PX


@jit
def _plain(ycc: Any, painted: Any, table: Any, limit: float, tint: float) -> Any:
    """Pixels that have the colour they are painted in."""
    h, w = painted.shape
    out = np.zeros((h, w), np.bool_)
    for y in range(h):
        for x in range(w):
            out[y, x] = _off(ycc, y, x, table, painted[y, x], painted[y, x], tint) <= limit
    return out


@jit
def _missing(ycc: Any, painted: Any, table: Any, plain: Any, limit: float, close: int, tint: float) -> Any:
    """Pixels that are no mix of two colours painted within `close` px; three where areas meet, or a seam shows a third."""
    h, w = painted.shape
    out = np.zeros((h, w), np.bool_)
    found = np.empty(8, np.int16)
    for y in range(h):
        for x in range(w):
            if plain[y, x]:
                continue
            n = 0
            for v in range(max(0, y - close), min(h, y + close + 1)):
                for u in range(max(0, x - close), min(w, x + close + 1)):
                    j = painted[v, u]
                    known = False
                    for i in range(n):
                        if found[i] == j:
                            known = True
                    if not known and n < 8:
                        found[n] = j
                        n += 1
            explained = False
            for i in range(n):
                for j in range(i + 1, n):
                    if not explained and _off(ycc, y, x, table, found[i], found[j], tint) <= limit:
                        explained = True
            for i in range(n):
                for j in range(i + 1, n):
                    for m in range(table.shape[0]):
                        if not explained:
                            explained = blend_residual(ycc[y, x], table[found[i]], table[found[j]], table[m]) <= limit
            out[y, x] = not explained
    return out


@jit
def _off(ycc: Any, y: int, x: int, table: Any, a: int, b: int, tint: float) -> float:
    """Squared distance of a pixel from the mixes of two colours, brightness and tint each in a share of its own, and as far
    beyond them as sharpening and ringing go.
    """
    low, high = min(table[a, 0], table[b, 0]), max(table[a, 0], table[b, 0])
    beyond = _BEYOND * (high - low)
    over = max(0.0, low - beyond - ycc[y, x, 0], ycc[y, x, 0] - high - beyond)
    su, sv = table[b, 1] - table[a, 1], table[b, 2] - table[a, 2]
    pu, pv = ycc[y, x, 1] - table[a, 1], ycc[y, x, 2] - table[a, 2]
    norm = su * su + sv * sv
    t = 0.0 if norm == 0 else min(1.0 + _BEYOND, max(-_BEYOND, (pu * su + pv * sv) / norm))
    du, dv = pu - t * su, pv - t * sv
    return float(over * over + tint * tint * (du * du + dv * dv))
