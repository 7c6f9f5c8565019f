"""Labels of thin things: a line of a known colour between two others is one thing, and stays whole and of steady width.

Which colour it has is settled by all middles near by together; which pixels it covers by brightness, which even a JPEG
stores at every pixel.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb
from gladstack.core.base.compiled import jit
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.ridges import (
    ABOUT_PX,
    SPAN_PX,
    Ridges,
    find_ridges,
    ground_of,
    lagging,
    middles_of,
    stands_out,
    to_ycc,
    ycc_pixels,
)

LabelArray = npt.NDArray[np.int16]
FloatArray = npt.NDArray[np.float32]

_FEWEST_MIDDLES = 12
_FEWEST_OFF = 3
_SIDE_LEVELS = 12.0
_PALE = 25.0
_SHARE = 0.3
_MOST_COST, _OWN_COST = 90.0, 75.0
_TOGETHER_PX = 33
_REACH_PX = 7
_HAIR_SHARE = 0.34
_RATHER = 0.8
_ONE_THING_PX, _OWN_COUNTS, _FAR_COUNTS = 240, 0.75, 0.3
"""Up to so many middle pixels are one thing; how much it counts against what is near, and how much a longer one does."""
_LEAST_LINE_PX = 12
_NONE = -1


def thin_labelled(
    labels: LabelArray, rgb: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], noise: Noise
) -> tuple[LabelArray, npt.NDArray[np.bool_]]:
    """`labels` with thin things made whole, and where these are."""
    held = np.zeros(labels.shape, bool)
    if noise.strength <= 1 and not _may_have_gaps(labels, rgb, colours, noise):
        return labels, held
    ycc = ycc_pixels(rgb)
    ground = ground_of(rgb, ycc, colours, noise, labels)
    # A clean picture tells its pixels one by one: only gaps, where the middle went to the ground, are closed.
    among = labels == ground.index if noise.strength <= 1 else None
    ridges = find_ridges(ycc, ground, colours, noise, weak=True, among=among)
    if len(ridges.y) < _FEWEST_MIDDLES:
        return labels, held
    table = to_ycc(np.array(colours))
    own = _colour_of(ridges, table, labels.shape)
    sure = own >= 0
    if noise.strength <= 1:
        sure &= labels[ridges.y, ridges.x] != own
    if not sure.any():
        return labels, held
    middle = np.full(labels.shape, _NONE, np.int16)
    middle[ridges.y[sure], ridges.x[sure]] = own[sure]
    away, near = cv2.distanceTransformWithLabels(
        (middle < 0).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    value = np.zeros(int(near.max()) + 1, np.int16)
    on = middle >= 0
    value[near[on]] = middle[on]
    out = labels.copy()
    weight = 0.0 if noise.halved else 1.0
    reach = _REACH_PX if noise.strength > 1 else 0
    _cover(out, held, ycc, table, ground.index, away, value[near], middle, float(reach), weight)
    if noise.strength <= 1:
        _without_bits(out, labels)
    return out, held


def _may_have_gaps(labels: LabelArray, rgb: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], noise: Noise) -> bool:
    """Whether anything thin stands out from the colour that it was given, as it does where it went to its ground."""
    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY)
    own = np.rint(to_ycc(np.array(colours))[:, 0]).astype(np.uint8)[labels]
    box, about = np.ones((SPAN_PX, SPAN_PX), np.uint8), np.ones((ABOUT_PX, ABOUT_PX), np.uint8)
    floor = stands_out(noise, faint=True)
    for ground, seen in ((own, grey), (255 - own, 255 - grey)):
        behind = cv2.erode(cv2.morphologyEx(ground, cv2.MORPH_CLOSE, box), about)
        field = cv2.subtract(cv2.min(behind, cv2.morphologyEx(seen, cv2.MORPH_CLOSE, box)), seen)
        off = cv2.min(field, cv2.subtract(ground, seen)) >= floor
        if np.count_nonzero(off) < _FEWEST_OFF:
            continue
        middle = middles_of(field.astype(np.float32), noise) & off
        if any(_joins(parts, labels, box) for parts, box in _boxed(middle)):
            return True
    return False


def _boxed(mask: npt.NDArray[np.bool_]) -> Iterator[tuple[npt.NDArray[np.bool_], tuple[slice, slice]]]:
    """Each connected part of a mask within its box, which is one pixel wider."""
    count, parts, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    for n in range(1, count):
        left, top, width, height, _size = stats[n].tolist()
        box = (slice(max(0, top - 1), top + height + 1), slice(max(0, left - 1), left + width + 1))
        yield parts[box] == n, box


def _joins(part: npt.NDArray[np.bool_], labels: LabelArray, box: tuple[slice, slice]) -> bool:
    """Whether a part is long enough to be a line, or lies between two ends of one colour other than its own."""
    if np.count_nonzero(part) >= _LEAST_LINE_PX:
        return True
    near = (cv2.dilate(part.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0) & ~part
    inside = labels[box]
    return any(
        cv2.connectedComponents((near & (inside == k)).astype(np.uint8), connectivity=8)[0] > 2
        for k in np.unique(inside[near])
    )


def _without_bits(out: LabelArray, before: LabelArray) -> None:
    """Takes back, in place, what closes no gap between two ends and is no line by itself."""
    changed = out != before
    kernel = np.ones((3, 3), np.uint8)
    for k in np.unique(out[changed]).tolist():
        new = changed & (out == k)
        for part, box in _boxed(new):
            ends = (cv2.dilate(part.astype(np.uint8), kernel) > 0) & (before[box] == k)
            few = np.count_nonzero(part) < _LEAST_LINE_PX
            if few and cv2.connectedComponents(ends.astype(np.uint8), connectivity=8)[0] < 3:
                out[box][part] = before[box][part]


def _colour_of(ridges: Ridges, table: FloatArray, shape: tuple[int, ...]) -> LabelArray:
    """For each middle the palette colour that it and those near by show, -1 for none."""
    side = np.where(ridges.dark, -1.0, 1.0)
    best = np.full(len(ridges.y), np.inf, np.float32)
    out = np.full(len(ridges.y), _NONE, np.int16)
    grid = np.zeros(shape, np.float32)
    around = (_TOGETHER_PX, _TOGETHER_PX)
    grid[ridges.y, ridges.x] = 1
    many, parts = cv2.connectedComponents(grid.astype(np.uint8), connectivity=8)
    part = parts[ridges.y, ridges.x]
    size = np.maximum(np.bincount(part, minlength=many), 1)
    count = np.maximum(cv2.boxFilter(grid, -1, around, normalize=False)[ridges.y, ridges.x], 1)
    # A letter tells its own colour, and so does a line, but a long one may change on its way.
    whole = np.where(size[part] <= _ONE_THING_PX, 1.0, _FAR_COUNTS)
    for k, colour in enumerate(table):
        off, share, _ = lagging(ridges.colour, ridges.ground, colour)
        off = off + _PALE * (1 - np.clip(share, 0.0, 1.0))
        right = (side * (colour[0] - ridges.ground[:, 0]) >= _SIDE_LEVELS) & (share >= _SHARE)
        cost = np.where(right, off, np.inf)
        cut = np.minimum(cost, _MOST_COST)
        grid[:] = 0
        grid[ridges.y, ridges.x] = cut
        near = cv2.boxFilter(grid, -1, around, normalize=False)[ridges.y, ridges.x] / count
        own = (np.bincount(part, cut, minlength=many) / size)[part]
        total = whole * own + (1.0 - whole * _OWN_COUNTS) * near
        better = (total < best) & (cost < _OWN_COST)
        best[better] = total[better]
        out[better] = k
    return out


@jit
def _is_mix(p: Any, k: Any, b: Any, own: Any) -> bool:
    """Whether a pixel is rather a mix of a thing `k` and its ground `b` than the colour it has now."""
    way = k[0] - b[0]
    share = min(1.0, max(0.0, (p[0] - b[0]) / way)) if abs(way) > 1 else 0.0
    mixed = 0.0
    kept = 0.0
    for c in range(3):
        mixed += (p[c] - b[c] - share * (k[c] - b[c])) ** 2
        kept += (p[c] - own[c]) ** 2
    return bool(mixed < _RATHER * kept)


@jit
def _cover(
    labels: Any,
    held: Any,
    ycc: Any,
    table: Any,
    ground: Any,
    away: Any,
    nearest: Any,
    middle: Any,
    reach: float,
    weight: float,
) -> None:
    """Gives each pixel near a middle to the thing or to its ground, by how far it lies from one to the other."""
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            if away[y, x] > reach:
                continue
            k, b = nearest[y, x], ground[y, x]
            if k == b:
                continue
            dot = 0.0
            norm = 0.0
            for c in range(3):
                f = 1.0 if c == 0 else weight
                way = table[k, c] - table[b, c]
                dot += f * way * (ycc[y, x, c] - table[b, c])
                norm += f * way * way
            # A hair covers no pixel by half: its middle holds it together.
            if norm > 0 and dot > (_HAIR_SHARE if middle[y, x] >= 0 else 0.5) * norm:
                labels[y, x] = k
                held[y, x] = True
            elif labels[y, x] == k or _is_mix(ycc[y, x], table[k], table[b], table[labels[y, x]]):
                labels[y, x] = b
