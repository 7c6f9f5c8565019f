"""Colours that live only in thin things: lines, outlines and letters, read along their middles (`ridges`)."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e
from gladstack.core.base.compiled import jit
from gladstack.core.picture import pixels
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.ridges import Ridges, find_ridges, from_ycc, ground_of, lagging, to_ycc, ycc_pixels
from gladstack.core.picture.windows import spread

FloatArray = npt.NDArray[np.float32]

_FEWEST_QUIET = 12
"""A colour with fewer quiet pixels may be a half-right reading of something thin, which would block the right one."""
_PLAIN_LEVELS = 4
_DARK, _SPLIT_LEVELS, _SPLIT_QUIET, _SPLIT_TIMES = 80.0, 12.0, 60, 10
_HARDLY_QUIET = 2
_GIVEN_BACK = 30.0
_MOST_MIDDLES = 1500
_FEWEST_MIDDLES = 40
_MEMBERS, _USED_UP = 12.0, 16.0
"""Readings so near make a colour; those so near are used up by it."""
_TINT = 0.6
_NARROWER, _SHARE = 18.0, (0.25, 1.25)
"""Narrower places of the same line lie on the mix from its ground to its colour."""
_KNOWN_APART, _KNOWN_LEVELS = 12.0, 22.0
_MIX_LEVELS, _MIX_SHARE, _MIX_PX = 12.0, (0.3, 1.15), 3.2
_FULL_SHARE = 0.15
_ECHO_LEVELS, _ECHO_TINT, _ECHO_TIMES = 26.0, 0.4, 2.5
"""A colour so near to one that is so many times as common is that one, read where it is weak."""


def with_thin_colours(rgb: npt.NDArray[np.uint8], found: list[Rgb], noise: Noise, *, crisp: bool = False) -> list[Rgb]:
    """`found` with the colours of thin things, and without those that were poor readings of these.

    In a `crisp` picture, without noise and with sharp edges, a place of 3 x 3 px tells a colour.
    """
    if not found:
        return found
    ycc = ycc_pixels(rgb)
    ground = ground_of(rgb, ycc, tuple(found), noise)
    counts = np.bincount(ground.index[ground.quiet], minlength=len(found))
    weak = _dark_splits(found, counts)
    found = [c for c, gone in zip(found, weak, strict=True) if not gone]
    counts = counts[[not gone for gone in weak]]
    sure = [c for c, n in zip(found, counts.tolist(), strict=True) if n >= _FEWEST_QUIET]
    if crisp:
        counts = np.maximum(counts, _plain_counts(rgb, found))
        sure = [c for c, n in zip(found, counts.tolist(), strict=True) if n >= _FEWEST_QUIET]
    if not sure:
        return found
    if len(sure) < len(weak):
        ground = ground_of(rgb, ycc, tuple(sure), noise)
    ridges = find_ridges(ycc, ground, tuple(sure), noise)
    if len(ridges.y) < _FEWEST_MIDDLES:
        return found
    new = _clusters(ridges, sure)
    doubtful = [(c, n) for c, n in zip(found, counts.tolist(), strict=True) if n < _FEWEST_QUIET]
    back = [c for c, n in doubtful if not _is_weak_reading(c, sure, new, seen=n > _HARDLY_QUIET)]
    return sure + back + [c for c in new if not back or float(np.min(delta_e(np.array(back), np.array(c)))) > _MEMBERS]


def _plain_counts(rgb: npt.NDArray[np.uint8], colours: list[Rgb]) -> npt.NDArray[np.int64]:
    """How many pixels of each colour there are whose neighbours have it as well."""
    nearest = pixels.nearest_colour(rgb, np.array(colours, np.float32), _PLAIN_LEVELS)
    plain = (spread(rgb, 3) <= _PLAIN_LEVELS) & (nearest >= 0)
    return np.bincount(nearest[plain], minlength=len(colours))


def _dark_splits(found: list[Rgb], counts: npt.NDArray[np.int64]) -> list[bool]:
    """Which colours are dark, hardly quiet anywhere, and nearly as bright as a far more common one: CIELAB makes much of
    what little tint noise gives the dark.
    """
    ycc = to_ycc(found)
    apart = (ycc[:, None] - ycc[None]) * np.array([1.0, _ECHO_TINT, _ECHO_TINT], np.float32)
    near = (np.linalg.norm(apart, axis=2) < _SPLIT_LEVELS) & (counts[None] >= _SPLIT_TIMES * counts[:, None])
    few = (counts < _SPLIT_QUIET) & (ycc[:, 0] < _DARK)
    return [bool(f and n) for f, n in zip(few, near.any(axis=1), strict=True)]


def _is_weak_reading(colour: Rgb, sure: list[Rgb], new: list[Rgb], *, seen: bool) -> bool:
    """Whether a doubtful colour is near one that was read along middles, or a mix of one with a sure one."""
    weak = np.array([1.0, _ECHO_TINT, _ECHO_TINT], np.float32)
    if not seen and np.min(np.linalg.norm((to_ycc(sure) - to_ycc(colour)) * weak, axis=1)) < _ECHO_LEVELS:
        return True
    if not new:
        return False
    scale = np.array([1.0, _TINT, _TINT], np.float32)
    a, b, p = to_ycc(sure) * scale, to_ycc(new) * scale, to_ycc(colour) * scale
    if np.min(np.linalg.norm(b - p, axis=1)) < _GIVEN_BACK:
        return True
    way = b[None] - a[:, None]
    share = ((p - a[:, None]) * way).sum(axis=2) / np.maximum((way**2).sum(axis=2), 1e-6)
    off = np.linalg.norm(a[:, None] + np.clip(share, 0, 1)[..., None] * way - p, axis=2)
    return bool(np.min(off) < _GIVEN_BACK)


def _clusters(ridges: Ridges, known: list[Rgb]) -> list[Rgb]:
    """The colours that many middles show together and that no known one explains."""
    step = max(1, -(-len(ridges.y) // _MOST_MIDDLES))
    scale = np.array([1.0, _TINT, _TINT], np.float32)
    colour, ground, width = ridges.colour[::step], ridges.ground[::step], ridges.width[::step]
    points, grounds = colour * scale, ground * scale
    table = to_ycc(np.array(known)) * scale
    explained = _explained(colour, ground, width, to_ycc(np.array(known)))
    free = np.ones(len(points), bool)
    sizes: list[int] = []
    out: list[Rgb] = []
    while True:
        count = _neighbours(points, free, _MEMBERS)
        best = int(np.argmax(count))
        if count[best] * step < _FEWEST_MIDDLES:
            return out
        members = free & (np.linalg.norm(points - points[best], axis=1) <= _MEMBERS)
        centre = np.median(points[members], axis=0)
        rgb = _rgb(from_ycc(centre / scale))
        used = free & (np.linalg.norm(points - centre, axis=1) <= _USED_UP)
        way = centre - grounds
        share = ((points - grounds) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-6)
        off = np.linalg.norm(grounds + share[:, None] * way - points, axis=1)
        used |= free & (off <= _NARROWER) & (share >= _SHARE[0]) & (share <= _SHARE[1])
        used |= members
        told = explained[members].mean() < 0.5
        apart = float(np.min(delta_e(np.array(known + out), np.array(rgb))))
        near = float(np.min(np.linalg.norm(table - centre, axis=1)))
        weak = np.array([1.0, _ECHO_TINT / _TINT, _ECHO_TINT / _TINT], np.float32)
        echo = any(
            np.linalg.norm((to_ycc(np.array(c)) * scale - centre) * weak) < _ECHO_LEVELS and n > _ECHO_TIMES * count[best]
            for c, n in zip(out, sizes, strict=True)
        )
        if told and apart > _KNOWN_APART and near > _KNOWN_LEVELS and not echo:
            out.append(rgb)
            sizes.append(int(used.sum()))
        free &= ~used
        if not free.any():
            return out


def _explained(colour: FloatArray, ground: FloatArray, width: FloatArray, known: FloatArray) -> npt.NDArray[np.bool_]:
    """Which middles show a known colour, mixed with their ground where narrow: brightness and tint in shares of their own,
    for tint lags behind.
    """
    out = np.zeros(len(colour), bool)
    for k in known:
        off, share, luma = lagging(colour, ground, k)
        narrow = (width < _MIX_PX) | (np.abs(share - 1) < _FULL_SHARE)
        out |= (off <= _MIX_LEVELS) & (share >= _MIX_SHARE[0]) & (share <= _MIX_SHARE[1]) & narrow & (luma > 20)
    return out


@jit
def _neighbours(points: Any, free: Any, reach: float) -> Any:
    """How many free points lie within `reach` of each free one."""
    n = points.shape[0]
    out = np.zeros(n, np.int64)
    limit = reach * reach
    for i in range(n):
        if not free[i]:
            continue
        for j in range(i, n):
            if not free[j]:
                continue
            a, b, c = points[i, 0] - points[j, 0], points[i, 1] - points[j, 1], points[i, 2] - points[j, 2]
            if a * a + b * b + c * c <= limit:
                out[i] += 1
                if j != i:
                    out[j] += 1
    return out


def _rgb(values: FloatArray) -> Rgb:
    r, g, b = (round(float(v)) for v in values)
    return r, g, b
