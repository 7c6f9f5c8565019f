"""Connected areas of a labelled picture: finding them, merging specks, and parting corners that only touch."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.picture.mixes import smear_residual

LabelArray = npt.NDArray[np.int16]
RegionArray = npt.NDArray[np.int32]

_FRINGE_PX = 4.5
"""An area narrower than this on average may be the smear of an edge."""
_FRINGE_SHARE = 0.15
_FRINGE_RESIDUAL = 34.0
_RINGING_LEVELS = 30.0
"""Ringing moves a colour by no more than this (Euclid in sRGB levels)."""


@jit
def _find(parent: Any, k: int) -> int:
    while parent[k] != k:
        parent[k] = parent[parent[k]]
        k = parent[k]
    return k


@jit
def _connect(labels: Any, regions: Any, parent: Any, corners: bool) -> int:
    h, w = labels.shape
    n = 0
    for y in range(h):
        for x in range(w):
            left = x > 0 and labels[y, x - 1] == labels[y, x]
            up = y > 0 and labels[y - 1, x] == labels[y, x]
            if left and up:
                a, b = _find(parent, regions[y, x - 1]), _find(parent, regions[y - 1, x])
                regions[y, x] = a
                if a != b:
                    parent[max(a, b)] = min(a, b)
                    regions[y, x] = min(a, b)
            elif left:
                regions[y, x] = regions[y, x - 1]
            elif up:
                regions[y, x] = regions[y - 1, x]
            else:
                regions[y, x] = n
                parent[n] = n
                n += 1
            if corners and y > 0:
                for u in (x - 1, x + 1):
                    if 0 <= u < w and labels[y - 1, u] == labels[y, x]:
                        a, b = _find(parent, regions[y, x]), _find(parent, regions[y - 1, u])
                        parent[max(a, b)] = min(a, b)
    number = np.full(n, -1, np.int32)
    count = 0
    for k in range(n):
        if parent[k] == k:
            number[k] = count
            count += 1
    for y in range(h):
        for x in range(w):
            regions[y, x] = number[_find(parent, regions[y, x])]
    return count


def find_regions(labels: LabelArray, *, corners: bool = False) -> tuple[RegionArray, int]:
    """Number of each pixel's connected area of one label, and how many areas there are.

    Pixels are connected by their sides; with `corners` by these as well.
    """
    regions = np.empty(labels.shape, np.int32)
    # In a chequer every pixel is an area of its own.
    parent = np.empty(labels.size, np.int32)
    return regions, int(_connect(labels, regions, parent, corners))


MAX_SPECKS = 20_000
"""More areas than this are no shapes that anybody would weed."""
_MOST_BORDER_PX = 20_000
_CALM_SIDE_PX = 1024
_CALM_ROUNDS = 6


def calmed(labels: LabelArray, *, noisy: bool) -> tuple[LabelArray, bool]:
    """Labels of no more than about `MAX_SPECKS` areas, and whether any pixel had to change for that.

    In a `noisy` picture their borders are kept short, too: noise also makes few areas with endlessly ragged edges. Every
    pixel takes the label that most pixels around it have, over wider and wider windows.
    """
    crumbs = find_regions(labels)[1] > MAX_SPECKS
    if not crumbs and not (noisy and _border_length(labels) > _MOST_BORDER_PX):
        return labels, False
    # Large pictures are calmed on every k-th pixel: what is left has no smaller detail.
    step = max(1, round(max(labels.shape) / _CALM_SIDE_PX))
    given = np.ascontiguousarray(labels[::step, ::step])
    window = 3
    out = given
    for _ in range(_CALM_ROUNDS):
        best = np.full(given.shape, -1.0, np.float32)
        out = np.zeros_like(given)
        for label in np.unique(given).tolist():
            votes = cv2.boxFilter((given == label).astype(np.float32), -1, (window, window))
            out[votes > best] = label
            best = np.maximum(best, votes)
        if step * _border_length(out) <= _MOST_BORDER_PX and find_regions(out)[1] <= MAX_SPECKS:
            break
        window = 3 * window
    height, width = labels.shape
    return np.repeat(np.repeat(out, step, axis=0), step, axis=1)[:height, :width].copy(), True


def _border_length(labels: LabelArray) -> int:
    return int(np.count_nonzero(labels[:, 1:] != labels[:, :-1]) + np.count_nonzero(labels[1:] != labels[:-1]))


@jit
def _measure(labels: Any, regions: Any, count: int) -> tuple[Any, Any]:
    area = np.zeros(count, np.int64)
    label = np.zeros(count, np.int16)
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            area[regions[y, x]] += 1
            label[regions[y, x]] = labels[y, x]
    return area, label


def label_of_regions(labels: LabelArray, regions: RegionArray, count: int) -> LabelArray:
    """The label of every area, (count,)."""
    return _measure(labels, regions, count)[1]  # type: ignore[no-any-return]


@jit
def _speck_borders(regions: Any, small: Any, out: Any) -> int:
    h, w = regions.shape
    n = 0
    for y in range(h):
        for x in range(w):
            a = regions[y, x]
            for step in range(2):
                v, u = (y, x + 1) if step == 0 else (y + 1, x)
                if v < h and u < w and n < out.shape[0]:
                    b = regions[v, u]
                    if a != b and (small[a] or small[b]):
                        out[n, 0], out[n, 1] = min(a, b), max(a, b)
                        n += 1
    return n


@jit
def _relabel(labels: Any, regions: Any, new: Any) -> None:
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            labels[y, x] = new[regions[y, x]]


def merge_specks(labels: LabelArray, speck_px: float) -> LabelArray:
    """Areas smaller than `speck_px` squared go to the neighbour they share the longest border with.

    Smallest first, so that crumbs side by side first become one crumb and then join what surrounds them.
    """
    limit = speck_px * speck_px
    regions, count = find_regions(labels)
    area, label = _measure(labels, regions, count)
    small = area < limit
    if not np.any(small) or count == 1:
        return labels
    borders = np.empty((4 * int(area[small].sum()) + 4, 2), np.int32)
    borders = borders[: _speck_borders(regions, small, borders)]
    pairs, lengths = np.unique(borders, axis=0, return_counts=True)
    touching: dict[int, dict[int, int]] = {}
    for (a, b), length in zip(pairs.tolist(), lengths.tolist(), strict=True):
        touching.setdefault(a, {})[b] = length
        touching.setdefault(b, {})[a] = length
    target = _absorb(touching, area, label, np.flatnonzero(small), limit)
    out = labels.copy()
    _relabel(out, regions, label[target])
    return out


def _absorb(
    touching: dict[int, dict[int, int]],
    area: npt.NDArray[np.int64],
    label: npt.NDArray[np.int16],
    specks: npt.NDArray[np.int64],
    limit: float,
) -> npt.NDArray[np.int64]:
    """For every region the one whose label it takes."""
    target = np.arange(len(area))

    def root(k: int) -> int:
        while target[k] != k:
            k = int(target[k])
        return k

    for speck in sorted(specks.tolist(), key=lambda k: (int(area[k]), k)):
        own = root(speck)
        if area[own] >= limit:
            continue
        around: dict[int, int] = {}
        for other, length in touching.get(own, {}).items():
            if (r := root(other)) != own:
                around[r] = around.get(r, 0) + length
        if not around:
            continue
        by_label: dict[int, int] = {}
        for r, length in around.items():
            by_label[int(label[r])] = by_label.get(int(label[r]), 0) + length
        best = max(around, key=lambda r: (by_label[int(label[r])], around[r], -r))
        target[own] = best
        area[best] += area[own]
        merged = touching.setdefault(best, {})
        for other, length in touching.get(own, {}).items():
            merged[other] = merged.get(other, 0) + length
    return np.array([root(k) for k in range(len(area))])


@jit
def _label_borders(labels: Any, regions: Any, candidate: Any, colours: int, out: Any) -> None:
    """Adds up in `out` (regions, colours) how long each candidate area borders on each label."""
    h, w = regions.shape
    for y in range(h):
        for x in range(w):
            for step in range(2):
                v, u = (y, x + 1) if step == 0 else (y + 1, x)
                if v >= h or u >= w or regions[v, u] == regions[y, x]:
                    continue
                a, b = candidate[regions[y, x]], candidate[regions[v, u]]
                if a >= 0:
                    out[a, labels[v, u]] += 1
                if b >= 0:
                    out[b, labels[y, x]] += 1


@jit
def _perimeters(regions: Any, count: int) -> Any:
    out = np.zeros(count, np.int64)
    h, w = regions.shape
    for y in range(h):
        for x in range(w):
            for step in range(2):
                v, u = (y, x + 1) if step == 0 else (y + 1, x)
                if v < h and u < w and regions[v, u] != regions[y, x]:
                    out[regions[y, x]] += 1
                    out[regions[v, u]] += 1
    return out


@jit
def _give_away(labels: Any, regions: Any, rgb: Any, colours: Any, first: Any, second: Any) -> None:
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            a, b = first[regions[y, x]], second[regions[y, x]]
            if a >= 0:
                labels[y, x] = b if _cost(rgb, y, x, colours[a], colours[b]) < 0 else a


def dissolve_fringes(labels: LabelArray, rgb: npt.NDArray[np.uint8], colours: npt.NDArray[np.float32]) -> LabelArray:
    """Thin areas that lie between two colours and look like their mix are parted among these two.

    JPEG smears an edge over several pixels; where the smear of A and B happens to look like a third colour of the picture,
    a band of it would appear along the edge. It also rings beside edges, which lifts a colour towards another that is nearly
    the same; thin areas beside such a colour join it.
    """
    out = labels.copy()
    for _ in range(2):
        regions, count = find_regions(out)
        area, label = _measure(out, regions, count)
        perimeter = _perimeters(regions, count)
        thin = np.flatnonzero(2.0 * area <= _FRINGE_PX * perimeter)
        if not len(thin) or len(thin) > 40_000:
            return out
        candidate = np.full(count, -1, np.int32)
        candidate[thin] = np.arange(len(thin), dtype=np.int32)
        borders = np.zeros((len(thin), len(colours)), np.int32)
        _label_borders(out, regions, candidate, len(colours), borders)
        first, second = np.full(count, -1, np.int16), np.full(count, -1, np.int16)
        for k, region in enumerate(thin.tolist()):
            own = colours[label[region]]
            beside = borders[k] >= _FRINGE_SHARE * borders[k].sum()
            alike = np.where(beside, np.linalg.norm(colours - own, axis=1), np.inf)
            if alike.min() <= _RINGING_LEVELS:
                first[region] = second[region] = int(np.argmin(alike))
                continue
            a, b = np.argsort(-borders[k], kind="stable")[:2].tolist()
            if not beside[b]:
                continue
            if smear_residual(colours[label[region]], colours[a], colours[b]) <= _FRINGE_RESIDUAL**2:
                first[region], second[region] = a, b
        if not np.any(first >= 0):
            return out
        _give_away(out, regions, rgb, colours, first, second)
    return out


@jit
def _cost(rgb: Any, y: int, x: int, own: Any, other: Any) -> float:
    a = 0.0
    b = 0.0
    for c in range(3):
        a += (rgb[y, x, c] - own[c]) ** 2
        b += (rgb[y, x, c] - other[c]) ** 2
    return b - a


@jit
def part_touching_corners(labels: Any, rgb: Any, colours: Any) -> int:
    """Gives one pixel of every 2 x 2 chequer to the other label, in place: the one that costs least.

    Areas then never merely touch at a corner, so a thin slanting line stays one piece. Returns how many were changed.
    """
    h, w = labels.shape
    changed = 0
    for y in range(h - 1):
        for x in range(w - 1):
            a, b = labels[y, x], labels[y, x + 1]
            if a == b or labels[y + 1, x + 1] != a or labels[y + 1, x] != b:
                continue
            costs = (
                _cost(rgb, y, x, colours[a], colours[b]),
                _cost(rgb, y, x + 1, colours[b], colours[a]),
                _cost(rgb, y + 1, x, colours[b], colours[a]),
                _cost(rgb, y + 1, x + 1, colours[a], colours[b]),
            )
            k = 0
            for i in range(1, 4):
                if costs[i] < costs[k]:
                    k = i
            v, u = y + k // 2, x + k % 2
            labels[v, u] = b if labels[v, u] == a else a
            changed += 1
    return changed
