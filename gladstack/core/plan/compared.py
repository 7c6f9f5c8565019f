"""What was cut, laid on what was planned: what is missing, cut twice or not closed, how far off, and how round its corners.

Both are polylines on the same sheet. Every stroke of the plot is taken for a stroke along the contour that it follows; what
of a contour lies within `NEAR_MM` of such a stroke counts as cut by it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree  # type: ignore[import-untyped]

from gladstack.core.base.plane import Point

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

ALLOWED_MM = 0.05
"""How far a cut may be off before it is told."""
NEAR_MM = 0.5
"""How near a stroke must lie to a contour to count as cutting it."""
_STEP_MM = 0.1
_CORNER_DEG = 30.0
_ALONG_MM = 1.0
"""What may be cut twice of a contour (overcut, and where an interrupted cut was taken up again), beside a tenth of it."""


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
        return max((c.corner_mm for c in self.contours if not c.missing), default=0.0)

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
    line = shapely.LineString(contour)
    cut = shapely.MultiLineString([shapely.LineString(p) for p in plot])
    wanted = shapely.points(sample)
    to_cut = shapely.distance(wanted, cut)
    done = to_cut <= NEAR_MM
    points = np.vstack(dense)
    off = shapely.distance(shapely.points(points), line)
    worst = int(np.argmax(off))
    missed = float(to_cut[done].max()) if done.any() else 0.0
    largest, at = float(off[worst]), points[worst]
    if missed > largest:
        largest, at = missed, sample[int(np.flatnonzero(done)[np.argmax(to_cut[done])])]
    length = max(1e-9, line.length)
    drawn = sum(float(np.hypot(*np.diff(p, axis=0).T).sum()) for p in plot)
    over = max(0.0, drawn / passes - length)
    # What is cut again where a cut begins or was taken up is not a second cut.
    times = drawn / passes / length if over > max(_ALONG_MM * len(plot), 0.1 * length) else min(1.0, drawn / length)
    corners = _corners(contour)
    away = float(shapely.distance(shapely.points(corners), cut).max()) if len(corners) else 0.0
    return ContourFigures(float(done.mean()), times, largest, _point(at), _longest(~done), away)


def _longest(missing: npt.NDArray[np.bool_]) -> float:
    """The longest run of samples left out, in mm, round a closed contour."""
    if missing.all():
        return len(missing) * _STEP_MM
    around = np.roll(missing, -int(np.argmin(missing)))
    edges = np.flatnonzero(np.diff(np.concatenate([[False], around, [False]]).astype(np.int8)))
    return float(np.diff(edges.reshape(-1, 2), axis=1).max(initial=0) * _STEP_MM)


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
    """Points along a polyline, no further apart than the step."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    at = np.linspace(0.0, along[-1], max(2, int(np.ceil(along[-1] / _STEP_MM)) + 1))
    return np.stack([np.interp(at, along, points[:, 0]), np.interp(at, along, points[:, 1])], axis=1)


def _point(at: FloatArray) -> Point:
    return float(at[0]), float(at[1])
