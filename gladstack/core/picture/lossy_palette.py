"""The colours of a lossy picture: quiet areas grouped, and taken by how far each lies from the others, how large and how
thick it is, against the noise of the picture. A small clear difference over a wide area counts as much as a large one in a
narrow place; what noise or the mix of two neighbours explains counts for nothing.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, to_lab
from gladstack.core.base.compiled import jit
from gladstack.core.picture.jpeg_traces import luma_table_of
from gladstack.core.picture.quiet import grouped_colours, lowest_of, near_groups, quiet_areas

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float64]
IntArray = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Noise:
    """How noisy a picture is: `strength` in levels beside edges, `step` that of wide plain areas. Where `halved`, tint is
    stored at half the resolution.
    """

    strength: float
    step: float
    halved: bool = True


WEBP = Noise(2.4, 2.6)
BLIND = Noise(2.4, 1.0)
"""A picture that came through JPEG, and no longer tells how."""
SOFT = Noise(0.5, 0.0, halved=False)
"""A picture that was only blurred or resized."""
DOTS = Noise(3.0, 2.6)
"""A picture of dots, blurred into what they stand for."""
_LOSSY_LEFT = 0.7
"""Levels of noise some pixels off edges, above which a picture without tables came through JPEG."""

_RANGES = (3, 2, 4, 8, 16, 32)
"""How much the neighbourhood of a pixel of each level of quietness may vary: the first over 7 x 7 pixels, the rest 3 x 3."""
_JOINED = np.array([2, 2, 3, 5, 8, 12], np.int16)
_LEVEL = 1
_LEAST_PX = 5
_ONE_COLOUR = 1.2
_ALIKE = 3.0
_FEW_PX = 60
_SHARES_APART = 0.3
_LIKE_BRIGHT = 20.0
_FEWEST_PX = 14
_PLATEAU, _CRISP_PLATEAU = 900.0, 150.0
_MOST_AREAS = 4_000
_MOST_GROUPS = 250
_MOST_PX = 2_000_000
_MOST_CELLS = 150
_MOST_BESIDE = 40
_THIN_PX = 9.0
_QUIET_SIDE, _BRIGHT_SHARE = 0.8, 0.9
_NEAR_PX = 6
_TINT = 0.8


def noise_of(rgb: ByteArray, form: str, table: tuple[int, ...] | None) -> Noise:
    """The noise of a picture by its container and, for a JPEG, the luma table it was saved with."""
    if form == "JPEG" and table:
        return Noise(0.55 * math.sqrt(sum(table) / len(table)), table[0] / 8)
    if form == "WEBP":
        return WEBP
    if (traced := luma_table_of(rgb)) is not None:
        return noise_of(rgb, "JPEG", traced)
    return BLIND if _left_beside_edges(rgb) > _LOSSY_LEFT else SOFT


def _left_beside_edges(rgb: ByteArray) -> float:
    """Rms of what a median takes away, 2 to 8 px from strong edges."""
    luma = cv2.cvtColor(np.ascontiguousarray(rgb), cv2.COLOR_RGB2GRAY)
    away = cv2.distanceTransform((_range(rgb, 3) <= 28).astype(np.uint8), cv2.DIST_L2, 3)
    band = (away >= 2) & (away <= 8)
    rest = luma.astype(np.float32) - cv2.medianBlur(luma, 5)
    return float(np.sqrt(np.mean(rest[band] ** 2))) if np.any(band) else 0.0


def _range(rgb: ByteArray, size: int) -> ByteArray:
    """How much each pixel's neighbourhood varies, in the channel that does most."""
    kernel = np.ones((size, size), np.uint8)
    spread = cv2.subtract(cv2.dilate(rgb, kernel), cv2.erode(rgb, kernel))
    return np.asarray(cv2.max(cv2.max(spread[..., 0], spread[..., 1]), spread[..., 2]), np.uint8)


@dataclass(frozen=True)
class _Groups:
    """Groups of quiet areas of one colour: means in sRGB, sizes, thicknesses, what lies near each, how many of its pixels
    are level.
    """

    rgb: FloatArray
    size: FloatArray
    thick: FloatArray
    rim: npt.NDArray[np.bool_]
    near: npt.NDArray[np.bool_]
    level: FloatArray


def lossy_colours(
    rgb: ByteArray, noise: Noise, known: tuple[Rgb, ...] = (), most: int | None = None, *, crisp: bool = False
) -> list[Rgb]:
    """The colours of a lossy picture besides those that are `known`, the surest first.

    Told are all that are surer than noise, or, with `most`, just so many. In a `crisp` picture, without noise and with sharp
    edges, a plain place of a few px is sure.
    """
    if rgb.shape[0] * rgb.shape[1] > _MOST_PX:
        scale = math.sqrt(_MOST_PX / (rgb.shape[0] * rgb.shape[1]))
        rgb = np.asarray(cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.uint8)
        noise = Noise(noise.strength * scale, noise.step)
    groups = _groups_of(rgb)
    if groups is None:
        return []
    sure = _Sure(groups, noise, np.array(known, float).reshape(-1, 3), _CRISP_PLATEAU if crisp else _PLATEAU)
    chosen: list[int] = []
    floor = 1.0 if most is None else 0.05
    while len(chosen) < (len(groups.size) if most is None else most):
        scores = sure.scores()
        # Of the sure ones the largest first: it shows its colour best, and then explains the smaller ones.
        best = int(np.argmax(np.where(scores >= 1.0, 1.0 + groups.size * groups.thick, np.minimum(scores, 1.0))))
        if scores[best] < floor:
            break
        chosen.append(best)
        sure.take(best)
    return [_rgb(groups.rgb[k]) for k in chosen]


class _Sure:
    """How sure it is that each group is a colour of its own, as more and more of them are taken."""

    def __init__(self, groups: _Groups, noise: Noise, known: FloatArray, plateau: float) -> None:
        self.groups = groups
        self.plateau = plateau
        self.noise = noise
        self.labs = _lab(groups.rgb, noise)
        self.apart = np.full(len(self.labs), np.inf)
        self.near_apart = np.full(len(self.labs), np.inf)
        self.light = np.full(len(self.labs), np.inf)
        self.unmixed = np.full(len(self.labs), 255.0)
        self.support = np.zeros(len(self.labs))
        for k, lab in enumerate(self.labs):
            self.support[k] = groups.size[np.linalg.norm(self.labs - lab, axis=1) < _ALIKE].sum()
        # The colours that lie near each group, as they are taken.
        self.beside = np.zeros((len(self.labs), _MOST_BESIDE, 3))
        self.counts = np.zeros(len(self.labs), np.int64)
        for colour in known:
            lab = _lab(colour[None], noise)[0]
            own = np.flatnonzero(np.linalg.norm(self.labs - lab, axis=1) < _ALIKE)
            self._add(colour, lab, np.asarray(groups.near[:, own].any(axis=1)))

    def take(self, group: int) -> None:
        """Counts a group as a colour."""
        own = np.linalg.norm(self.labs - self.labs[group], axis=1) < _ALIKE
        self._add(self.groups.rgb[group], self.labs[group], np.asarray(self.groups.near[:, own].any(axis=1)))

    def _add(self, colour: FloatArray, lab: FloatArray, near: npt.NDArray[np.bool_]) -> None:
        apart = np.linalg.norm(self.labs - lab, axis=1)
        self.light = np.where(apart < self.apart, np.abs(self.labs[:, 0] - lab[0]), self.light)
        self.apart = np.minimum(self.apart, apart)
        self.near_apart = np.where(near, np.minimum(self.near_apart, apart), self.near_apart)
        looked = np.flatnonzero(near | (self.support < _FEW_PX))
        unmixed_from(
            looked, self.groups.rgb, self.beside, self.counts, colour.astype(float), self.noise.strength, self.unmixed
        )

    def scores(self) -> FloatArray:
        """Above 1: surer than noise."""
        s = self.noise.strength
        step = self.noise.step if s > 1 else 0.0
        size, thick = self.groups.size, self.groups.thick
        # What differs in brightness shows it at every quiet pixel; tint is stored too coarsely for that.
        bright = self.light >= _BRIGHT_SHARE * self.apart
        broad = np.where(bright, np.maximum(thick, _QUIET_SIDE * np.sqrt(self.groups.level)), thick)
        if not np.all(np.isfinite(self.apart)):
            return size
        # Noise comes from what lies near; only the colour of a thin thing is never quite its own.
        bar = (1.4 + 0.35 * step + 3.5 * s * np.exp(-(broad - 2) / 5)) * (1 + 2 / size)
        clear = (1.5 + 0.35 * step + 3.5 * s * np.exp(-(broad - 2) / 3)) * (1 + 2 / size)
        evidence = np.sqrt(self.apart**2 * np.sqrt(self.support) / (14 * (1 + s)))
        scores: FloatArray = np.minimum(np.minimum(self.near_apart / bar, self.apart / clear), evidence)
        scores *= np.minimum(1.0, self.support / _FEWEST_PX)
        thin = thick <= _THIN_PX
        # What looks like a mix is one, unless it is far from both and there is too much of it for the soft edges.
        level = self.support if s > 1 else self.groups.level
        plateau = self.apart**2 * np.sqrt(level) / (self.plateau * (1 + s))
        scores = np.where(thin, np.minimum(scores, np.maximum(self.unmixed / (6 + 4 * s), plateau)), scores)
        scores[self.groups.rim & thin] = 0.0
        return scores


@jit
def unmixed_from(looked: Any, rgb: Any, beside: Any, counts: Any, colour: Any, strength: float, unmixed: Any) -> None:
    """Lowers `unmixed` of each group looked at to how far it is, in levels of sRGB, from mixes of `colour` with itself and
    with those that lie beside it; then `colour` lies beside it, too.

    Where there is noise, brightness and tint mix in different shares: a JPEG stores tint more coarsely.
    """
    for n in range(looked.shape[0]):
        k = looked[n]
        for m in range(counts[k] + 1):
            other = colour if m == counts[k] else beside[k, m]
            unmixed[k] = min(unmixed[k], _unmixed(rgb[k], colour, other, strength))
        if counts[k] < beside.shape[1]:
            beside[k, counts[k]] = colour
            counts[k] += 1


@jit
def _unmixed(colour: Any, a: Any, b: Any, strength: float) -> float:
    """How far a colour is from the mixes of two others, in levels of sRGB."""
    if strength <= 1:
        return float(_from_line(colour, a, b, 0.0, 0.0, 0.0, 0.0, 1.0))
    ya = 0.299 * a[0] + 0.587 * a[1] + 0.114 * a[2]
    yb = 0.299 * b[0] + 0.587 * b[1] + 0.114 * b[2]
    y = 0.299 * colour[0] + 0.587 * colour[1] + 0.114 * colour[2]
    low, high = min(ya, yb), max(ya, yb)
    off = max(0.0, low - y, y - high)
    span = yb - ya if abs(yb - ya) >= 1.0 else 1.0
    share = min(1.0, max(0.0, (y - ya) / span))
    loose = 1.0 if high - low < _LIKE_BRIGHT else _SHARES_APART
    tint = _from_line(colour, a, b, y, ya, yb, max(0.0, share - loose), min(1.0, share + loose))
    return float(np.sqrt(off * off + tint * tint))


@jit
def _from_line(point: Any, a: Any, b: Any, p0: float, a0: float, b0: float, least: float, most: float) -> float:
    """How far a point is from the line between two, as far as the share of `b` is within `least` and `most`; `p0`, `a0` and
    `b0` are taken off every channel first.
    """
    dot = 0.0
    norm = 0.0
    for c in range(3):
        way = (b[c] - b0) - (a[c] - a0)
        dot += (point[c] - p0 - a[c] + a0) * way
        norm += way * way
    t = min(most, max(least, dot / max(norm, 1e-9)))
    total = 0.0
    for c in range(3):
        e = (a[c] - a0) + t * ((b[c] - b0) - (a[c] - a0)) - (point[c] - p0)
        total += e * e
    return float(np.sqrt(total))


def _groups_of(rgb: ByteArray) -> _Groups | None:
    """Connected quiet areas, grouped by colour."""
    level = np.full(rgb.shape[:2], 255, np.uint8)
    small = _range(rgb, 3)
    for k in range(len(_RANGES) - 1, 0, -1):
        level[small <= _RANGES[k]] = k
    level[_range(rgb, 7) <= _RANGES[0]] = 0
    labels, count = quiet_areas(np.ascontiguousarray(rgb), level, _JOINED)
    if count == 0:
        return None
    flat = labels.ravel()
    held = flat >= 0
    size = np.bincount(flat[held], minlength=count).astype(float)
    sums = [np.bincount(flat[held], rgb[..., c].ravel()[held], count) for c in range(3)]
    means = np.stack(sums, axis=1) / np.maximum(size, 1)[:, None]
    quiet = lowest_of(flat, level.ravel(), count)
    kept = np.flatnonzero(size >= _LEAST_PX)
    kept = kept[np.argsort(-size[kept] / np.maximum(1, quiet[kept]) ** 2, kind="stable")][:_MOST_AREAS]
    own, heads = grouped_colours(to_lab(means[kept]), _ONE_COLOUR, _MOST_GROUPS)
    group = np.full(count, -1, np.int64)
    group[kept] = own
    return _grouped(rgb, level, labels, group, heads, quiet) if heads else None


def _grouped(rgb: ByteArray, level: ByteArray, labels: IntArray, group: IntArray, count: int, quiet: FloatArray) -> _Groups:
    own = np.where(labels >= 0, group[np.maximum(labels, 0)], -1)
    flat = own.ravel()
    held = flat >= 0
    size = np.bincount(flat[held], minlength=count).astype(float)
    # The colour is told by the quietest of its pixels.
    least = lowest_of(flat, level.ravel(), count)
    sure = held & (level.ravel() == least[np.maximum(flat, 0)])
    weight = np.maximum(np.bincount(flat[sure], minlength=count), 1)
    means = np.stack([np.bincount(flat[sure], rgb[..., c].ravel()[sure], count) for c in range(3)], axis=1) / weight[:, None]
    edge = np.zeros(own.shape, np.uint8)
    edge[:, 1:] |= own[:, 1:] != own[:, :-1]
    edge[1:] |= own[1:] != own[:-1]
    inner = cv2.distanceTransform(1 - edge, cv2.DIST_L2, 3)
    deepest = -lowest_of(flat, -inner.ravel(), count)
    within = np.zeros(count, bool)
    within[np.unique(own[4:-4, 4:-4][own[4:-4, 4:-4] >= 0])] = True
    still = np.bincount(flat[held & (level.ravel() <= _LEVEL)], minlength=count).astype(float)
    return _Groups(means, size, 2 * deepest + 2, ~within, _near(own, count), still)


def _near(own: IntArray, count: int) -> npt.NDArray[np.bool_]:
    """Which groups lie within a few pixels of each other, by cells of that size."""
    return np.asarray(near_groups(own, count, max(_NEAR_PX, max(own.shape) // _MOST_CELLS)), bool)


def _lab(rgb: FloatArray, noise: Noise) -> FloatArray:
    """CIELAB, tint counted less where noise spoils it most."""
    lab = to_lab(rgb)
    if noise.strength > 1:
        lab = lab * np.array([1.0, _TINT, _TINT])
    return lab


def _rgb(values: FloatArray) -> Rgb:
    r, g, b = (round(float(v)) for v in values)
    return r, g, b
