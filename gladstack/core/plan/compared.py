"""What was cut, laid on what was planned: what is missing, cut twice or not closed, how far off, and how round its corners.

Both are polylines on the same sheet. Every stroke of the plot is taken for a stroke along the contour that it follows; what
of a contour lies within `NEAR_MM` of such a stroke counts as cut by it. Distances are taken to the pieces next to the
nearest of many points along a line.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.spatial import cKDTree  # type: ignore[import-untyped]

from gladstack.core.base.plane import Point

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

NEAR_MM = 0.2
"""How near a stroke must lie to a contour to count as cutting it."""
_STEP_MM = 0.1
_CORNER_DEG = 30.0
_SHORT_MM = 15.0
"""A contour longer than this is not drawn half as long again by an overcut, or where a cut was taken up."""


@dataclass(frozen=True)
class ContourFigures:
    """One contour as it was cut.

    `cut` is the share of it that was cut, `times` how often it was on the whole, `off_mm` the largest deviation and
    `at` where; `gap_mm` the longest stretch left uncut (0: closed); `corner_mm` how far the cut stays from its corners.
    """

    cut: float
    times: float
    off_mm: float
    at: Point
    gap_mm: float
    corner_mm: float

    @property
    def missing(self) -> bool:
        """Whether it was not cut, or not all of it."""
        return self.gap_mm > 2 * _STEP_MM

    @property
    def once(self) -> bool:
        """Whether it was cut whole, and once."""
        return not self.missing and not self.twice

    @property
    def twice(self) -> bool:
        """Whether it was cut more than once."""
        return self.times > 1.5


@dataclass(frozen=True)
class Compared:
    """All contours of a sheet; `stray` are strokes, by number, that follow no contour."""

    contours: tuple[ContourFigures, ...]
    stray: tuple[int, ...]

    @property
    def largest_mm(self) -> float:
        """The largest deviation of what was cut."""
        return max((c.off_mm for c in self.contours if c.cut > 0), default=0.0)

    @property
    def corner_mm(self) -> float:
        """How far the cut stays from a corner at most."""
        return max((c.corner_mm for c in self.contours if c.cut > 0), default=0.0)

    @property
    def missing(self) -> tuple[int, ...]:
        """The contours not cut, or not whole."""
        return tuple(k for k, c in enumerate(self.contours) if c.missing)

    @property
    def twice(self) -> tuple[int, ...]:
        """The contours cut more than once."""
        return tuple(k for k, c in enumerate(self.contours) if c.twice)


def compare(contours: Sequence[FloatArray], plot: Sequence[FloatArray], passes: int = 1) -> Compared:
    """Lays strokes that were cut (each (n, 2)) on contours that were wanted; so many `passes` over each were meant."""
    if not contours:
        return Compared((), tuple(range(len(plot))))
    samples = [_sampled(c) for c in contours]
    owner = np.repeat(np.arange(len(contours)), [len(s) for s in samples])
    tree = cKDTree(np.vstack(samples))
    own: list[list[int]] = [[] for _ in contours]
    stray = []
    strokes = [_sampled(s) for s in plot]
    for k, stroke in enumerate(strokes):
        near, at = tree.query(stroke, distance_upper_bound=5.0)
        held = np.isfinite(near)
        if not held.any():
            stray.append(k)
            continue
        own[int(np.bincount(owner[at[held]]).argmax())].append(k)
    figures = [
        _figures(contour, sample, [plot[j] for j in own[k]], [strokes[j] for j in own[k]], passes)
        for k, (contour, sample) in enumerate(zip(contours, samples, strict=True))
    ]
    return Compared(tuple(figures), tuple(stray))


def _figures(
    contour: FloatArray, sample: FloatArray, plot: Sequence[FloatArray], dense: Sequence[FloatArray], passes: int
) -> ContourFigures:
    if not plot:
        length = float(np.hypot(*np.diff(contour, axis=0).T).sum())
        return ContourFigures(0.0, 0.0, 0.0, _point(contour[0]), length, 0.0)
    each = [_distances(sample, [stroke]) for stroke in dense]
    to_cut = np.min(each, axis=0)
    done = to_cut <= NEAR_MM
    points = np.vstack(dense)
    off = _distances(points, [sample])
    worst = int(np.argmax(off))
    missed = float(to_cut[done].max()) if done.any() else 0.0
    largest, at = float(off[worst]), points[worst]
    if missed > largest:
        largest, at = missed, sample[int(np.flatnonzero(done)[np.argmax(to_cut[done])])]
    length = max(1e-9, float(np.hypot(*np.diff(contour, axis=0).T).sum()))
    drawn = sum(float(np.hypot(*np.diff(p, axis=0).T).sum()) for p in plot)
    # On a small contour the turning blade draws much beside; there, what counts is how many strokes run along it.
    strokes = float(np.mean(np.sum([d <= NEAR_MM / 2 for d in each], axis=0)))
    times = max(strokes, drawn / length if length > _SHORT_MM else 0.0) / passes
    corners = _corners(contour)
    away = float(_distances(corners, dense).max()) if len(corners) else 0.0
    return ContourFigures(float(done.mean()), times, largest, _point(at), _longest(sample, ~done), away)


def _distances(points: FloatArray, lines: Sequence[FloatArray]) -> FloatArray:
    """How far points are from densely sampled lines."""
    starts = np.vstack(lines)
    # The piece after the last point of a line is no piece.
    ends = np.vstack([np.vstack([line[1:], line[-1:]]) for line in lines])
    before = np.vstack([np.vstack([line[:1], line[:-1]]) for line in lines])
    _, near = cKDTree(starts).query(points, k=min(2, len(starts)))
    near = near.reshape(len(points), -1)
    best = np.full(len(points), np.inf)
    for k in range(near.shape[1]):
        at = near[:, k]
        for other in (ends, before):
            best = np.minimum(best, _to_piece(points, starts[at], other[at]))
    return best


def _to_piece(p: FloatArray, a: FloatArray, b: FloatArray) -> FloatArray:
    way = b - a
    t = ((p - a) * way).sum(axis=1) / np.maximum((way * way).sum(axis=1), 1e-18)
    foot = a + np.clip(t, 0.0, 1.0)[:, None] * way
    return np.asarray(np.hypot(*(p - foot).T))


def _longest(sample: FloatArray, missing: npt.NDArray[np.bool_]) -> float:
    """The longest run of samples left out, in mm, round a closed contour."""
    if not missing.any():
        return 0.0
    steps = np.hypot(*np.diff(sample, axis=0).T)
    if missing.all():
        return float(steps.sum())
    around = int(np.argmin(missing))
    steps, missing = np.roll(np.append(steps, 0.0), -around), np.roll(missing, -around)
    longest = run = 0.0
    for gone, step in zip(missing.tolist(), steps.tolist(), strict=True):
        run = run + step if gone else 0.0
        longest = max(longest, run)
    return longest


def _corners(contour: FloatArray) -> FloatArray:
    steps = np.diff(contour, axis=0)
    if np.all(contour[0] == contour[-1]):
        steps = np.vstack([steps[-1:], steps])
        at = contour[:-1]
    else:
        at = contour[1:-1]
    a, b = steps[:-1], steps[1:]
    turn = np.degrees(np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1))))
    return np.asarray(at[turn > _CORNER_DEG])


def _sampled(points: FloatArray) -> FloatArray:
    """The points of a polyline and as many between them as no two are further apart than the step."""
    steps = np.hypot(*np.diff(points, axis=0).T)
    counts = np.maximum(1, np.ceil(steps / _STEP_MM).astype(np.int64))
    piece = np.repeat(np.arange(len(steps)), counts)
    first = np.cumsum(counts) - counts
    t = (np.arange(len(piece)) - first[piece]) / counts[piece]
    between = points[piece] + t[:, None] * (points[piece + 1] - points[piece])
    return np.vstack([between, points[-1:]])


def _point(at: FloatArray) -> Point:
    return float(at[0]), float(at[1])
