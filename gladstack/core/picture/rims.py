"""Thin rims: a line of another colour between two, whole or so thin that the picture shows no more of it than dashes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.picture.areas import find_regions

LabelArray = npt.NDArray[np.int16]
Rims = Literal["broken", "all"]
"""Which thin rims go to what lies beside them."""

_THIN_RADIUS_PX = 2.2
_EITHER_SIDE = 0.2
_FEWEST_DASHES = 6
_LONGEST_DASH_PX2 = 60.0
_MOST_PARTS = 60_000


@dataclass(frozen=True)
class Rim:
    """Whole lines of one label between two others, and about how wide they are."""

    label: int
    width_px: float


def without_rims(
    labels: LabelArray, count: int, *, whole: bool = False, held: npt.NDArray[np.bool_] | None = None
) -> tuple[LabelArray, int, tuple[Rim, ...]]:
    """`labels` of `count` colours with broken rims given to what lies on their sides, how many colours had any, and the
    rims that are whole.

    A rim lies between two other colours. Those that are whole can be cut, and stay, but go like the rest if `whole` is
    asked. What is mostly `held` is a line of its own, and no dash of a rim.
    """
    parts, many = find_regions(labels, corners=True)
    if many > _MOST_PARTS:
        return labels, 0, ()
    size, label, deepest = _measured(labels, parts, _inner(labels), many)
    thin = deepest <= _THIN_RADIUS_PX
    if not thin.any():
        return labels, 0, ()
    sides = _sides(labels, parts, thin, count)
    total = np.maximum(1, sides.sum(axis=1))
    ranked = np.sort(sides, axis=1)
    between = thin & (ranked[:, -2] >= _EITHER_SIDE * total) if count > 1 else thin & False
    gone = np.zeros(len(size), np.bool_)
    rims, kept = 0, []
    kept_by_line = np.zeros(len(size), bool)
    if held is not None:
        kept_by_line = np.bincount(parts.ravel(), held.ravel(), len(size)) > 0.5 * size
    for k in range(count):
        own = between & (label == k)
        loose = own & ~kept_by_line
        dashes = int(np.count_nonzero(loose)) >= _FEWEST_DASHES and float(size[loose].mean()) < _LONGEST_DASH_PX2
        lines = own & (size >= _LONGEST_DASH_PX2)
        if dashes or (whole and lines.any()):
            gone |= loose if dashes else lines
            rims += 1
        elif lines.any():
            kept.append(Rim(k, 2.0 * float(size[lines].sum() / total[lines].sum())))
    if not rims:
        return labels, 0, tuple(kept)
    lost = gone[parts]
    _, near = cv2.distanceTransformWithLabels(lost.astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    value = np.zeros(int(near.max()) + 1, np.int16)
    value[near[~lost]] = labels[~lost]
    return np.where(lost, value[near], labels).astype(np.int16), rims, tuple(kept)


def _inner(labels: LabelArray) -> npt.NDArray[np.float32]:
    """How far each pixel lies from the nearest of another label."""
    kernel = np.array([[0, 1, 0], [1, 1, 1], [0, 1, 0]], np.uint8)
    within = (cv2.dilate(labels, kernel) == cv2.erode(labels, kernel)).astype(np.uint8)
    return np.asarray(cv2.distanceTransform(within, cv2.DIST_L2, 3) + 1.0, np.float32)


@jit
def _measured(labels: Any, parts: Any, inner: Any, many: int) -> tuple[Any, Any, Any]:
    """Of each part its pixels, its label, and how deep it is."""
    size = np.zeros(many, np.int64)
    label = np.zeros(many, np.int16)
    deepest = np.zeros(many, np.float32)
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            k = parts[y, x]
            size[k] += 1
            label[k] = labels[y, x]
            deepest[k] = max(deepest[k], inner[y, x])
    return size, label, deepest


@jit
def _sides(labels: Any, parts: Any, thin: Any, count: int) -> Any:
    """How long each thin part borders on every label that is not thin there, (parts, count)."""
    out = np.zeros((thin.shape[0], count), np.int64)
    h, w = labels.shape
    for y in range(h):
        for x in range(w):
            for dy, dx in ((0, 1), (1, 0)):
                if y + dy == h or x + dx == w:
                    continue
                a, b = parts[y, x], parts[y + dy, x + dx]
                if a == b:
                    continue
                if thin[a] and not thin[b]:
                    out[a, labels[y + dy, x + dx]] += 1
                elif thin[b] and not thin[a]:
                    out[b, labels[y, x]] += 1
    return out
