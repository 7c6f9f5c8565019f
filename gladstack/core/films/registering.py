"""One picture of a motif brought over another by its outlines: how it is scaled, turned and shifted to lie on it.

The nearest edges of both are drawn together, again and again, from many beginnings (iterated closest points, Besl and McKay
1992; to lines rather than points, Chen and Medioni 1992). Edges without a like one nearby have no say, so that a part that
was drawn anew does not pull at the rest.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from scipy.ndimage import gaussian_filter  # type: ignore[import-untyped]
from scipy.spatial import cKDTree  # type: ignore[import-untyped]
from shapely import MultiPolygon

from gladstack.core.films.regions import Painting
from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.edge_points import edge_points

FloatArray = npt.NDArray[np.float64]

_POINTS, _FINE_POINTS = 240, 1600
_STEPS, _FINE_STEPS = 14, 40
_TURNS_DEG = (0.0, -2.5, 2.5, -5.0, 5.0, 90.0, 180.0, 270.0)
_SCALES, _SCALE_STEPS = (0.4, 2.5), 33
_LEAST_SCALE, _MOST_SCALE = 0.3, 3.3
_CELLS, _GRID = 60, 128
"""Edges are pictured with so many cells across the larger motif, on a grid of so many."""
_LIKELIEST, _REFINED = 24, 4
_ASIDE = 0.15
_SLANT = math.cos(math.radians(25.0))
_REACHES = (0.12, 0.02)
"""At first edges as far apart as this share of the motif's size draw at each other; in the end only those this near."""
AGREES = 0.006
"""Edges no farther apart than this share of the motif's size are the same edge."""
_LEAST_MM = 0.15


@dataclass(frozen=True)
class Fit:
    """Where a new art lies on an old one, both in their own mm: scaled, turned (degrees, clockwise), then shifted."""

    scale: float = 1.0
    turn_deg: float = 0.0
    x_mm: float = 0.0
    y_mm: float = 0.0

    @property
    def matrix(self) -> Matrix:
        """From the new art's own mm to the old one's."""
        turn = math.radians(self.turn_deg)
        a, b = self.scale * math.cos(turn), self.scale * math.sin(turn)
        return a, b, -b, a, self.x_mm, self.y_mm


@dataclass(frozen=True)
class Edges:
    """Points along all edges of an art, and which way the edge runs at each."""

    at: FloatArray
    along: FloatArray

    @property
    def size(self) -> float:
        """Across all of it, mm."""
        return float(np.hypot(*np.ptp(self.at, axis=0))) if len(self.at) else 0.0

    def some(self, count: int) -> Edges:
        """So many of them, spread over all."""
        keep = np.linspace(0, len(self.at) - 1, min(count, len(self.at))).round().astype(int)
        return Edges(self.at[keep], self.along[keep])


def edges_of(painting: Painting) -> Edges:
    """The edges of all that an art paints, but for the border of its page, which says nothing of the motif."""
    width, height = painting.size_mm
    step = max(0.1, math.hypot(width, height) / 1500)
    shapes = [p for paint in painting.painted for p in paint.shape.geoms]
    points = edge_points(MultiPolygon(shapes), step) if shapes else None
    if points is None:
        return Edges(np.zeros((0, 2)), np.zeros((0, 2)))
    x, y = points.at.T
    inside = (x > step) & (x < width - step) & (y > step) & (y < height - step) & (points.corner == 0)
    return Edges(points.at[inside], points.along[inside])


def reach_of(old: Edges) -> float:
    """How far apart edges may lie and still be the same, mm."""
    return max(_LEAST_MM, AGREES * old.size)


def registered(old: Edges, new: Edges) -> Fit:
    """How a new art lies best on an old one; as it comes, where either has no edges."""
    if len(old.at) < 8 or len(new.at) < 8:
        return Fit()
    target = _Target(old)
    a, b = old.some(_POINTS), new.some(_POINTS)
    reach = reach_of(old)
    begun = _beginnings(old, new)
    drawn = [target.drawn_to(fit, b, a, _STEPS, _REACHES[1]) for fit in begun]
    drawn.sort(key=lambda fit: _ASIDE * (abs(fit.turn_deg) > 45.0) - target.likeness(fit, b, a, 2 * reach))
    fine_a, fine_b = old.some(_FINE_POINTS), new.some(_FINE_POINTS)
    fine = [target.drawn_to(fit, fine_b, fine_a, _FINE_STEPS, 2 * AGREES) for fit in drawn[:_REFINED]]
    # Where nothing agrees a fit may shrink to a speck: then the likeliest beginning stands.
    fine = [fit for fit in fine if _LEAST_SCALE <= fit.scale <= _MOST_SCALE] or begun[:1]
    # A motif may look the same from several sides: it is taken to stand as it stood.
    return max(fine, key=lambda fit: target.likeness(fit, fine_b, fine_a, reach) - _ASIDE * (abs(fit.turn_deg) > 45.0))


def agreement(old: Edges, new: Edges, fit: Fit) -> npt.NDArray[np.bool_]:
    """Which points of the old edges have a like edge of the new one where it lies."""
    if not len(old.at) or not len(new.at):
        return np.zeros(len(old.at), bool)
    at, along = _laid(fit, new)
    away, near = cKDTree(at).query(old.at, distance_upper_bound=reach_of(old))
    met = np.isfinite(away)
    alike = np.zeros(len(old.at), bool)
    alike[met] = np.abs((old.along[met] * along[near[met]]).sum(axis=1)) > _SLANT
    return alike


def _beginnings(old: Edges, new: Edges) -> list[Fit]:
    """The likeliest ways in which it may lie: of each scale and turn the best shift, by correlation of pictured edges."""
    cell = max(old.size, new.size) / _CELLS
    middle = _middle(old.at)
    held = np.conj(_pictured(old.at - middle, old.along, cell))
    scored = []
    for turn in _TURNS_DEG:
        for scale in np.geomspace(*_SCALES, _SCALE_STEPS):
            plain = Fit(float(scale), turn)
            at, along = _laid(plain, new)
            own = _middle(at)
            laid = _pictured(at - own, along, cell)
            met = np.fft.irfft2((held * laid).sum(axis=0))
            score = met.max() / math.sqrt((np.abs(laid) ** 2).sum() * (np.abs(held) ** 2).sum())
            row, column = np.unravel_index(int(met.argmax()), met.shape)
            down, across = (int(k) if k < _GRID // 2 else int(k) - _GRID for k in (row, column))
            x, y = middle - own - (across * cell, down * cell)
            scored.append((score * (1 - _ASIDE * (abs(turn) > 45.0)), Fit(float(scale), turn, float(x), float(y))))
    scored.sort(key=lambda one: -one[0])
    return [fit for _, fit in scored[:_LIKELIEST]]


def _pictured(at: FloatArray, along: FloatArray, cell: float) -> npt.NDArray[np.complex128]:
    """Edges as pictures by the way they run, twice as often turned so that both ways along an edge are one; transformed."""
    across, down = (np.floor(at / cell).astype(np.int64) % _GRID).T
    kept = (np.abs(at) < cell * _GRID / 2).all(axis=1)
    key = (down * _GRID + across)[kept]
    x, y = along[kept].T
    channels = [np.ones(len(key)), x * x - y * y, 2 * x * y]
    out = np.stack([np.bincount(key, weights=c, minlength=_GRID * _GRID).reshape(_GRID, _GRID) for c in channels])
    out[0] = np.minimum(out[0], np.percentile(out[0][out[0] > 0], 90) if (out[0] > 0).any() else 1.0)
    return np.fft.rfft2(gaussian_filter(out, (0, 1, 1), mode="wrap"))


def _middle(at: FloatArray) -> FloatArray:
    return np.asarray((at.min(axis=0) + at.max(axis=0)) / 2)


def _laid(fit: Fit, edges: Edges) -> tuple[FloatArray, FloatArray]:
    """Points and ways of a new art's edges, in the old one's mm."""
    a, b, c, d, x, y = fit.matrix
    linear = np.array([[a, b], [c, d]])
    return edges.at @ linear + (x, y), edges.along @ (linear / fit.scale)


class _Target:
    """The old edges, ready to be drawn to."""

    def __init__(self, old: Edges) -> None:
        self._old = old
        self._tree: Any = cKDTree(old.at)

    def likeness(self, fit: Fit, new: Edges, old: Edges, reach: float) -> float:
        """The share of edges that have a like one within a reach, of the new ones and the old, whichever is less."""
        at, along = _laid(fit, new)
        away, near = self._tree.query(at, distance_upper_bound=reach)
        met = np.isfinite(away)
        here = np.abs((along[met] * self._old.along[near[met]]).sum(axis=1)) > _SLANT
        tree = cKDTree(at)
        back, other = tree.query(old.at, distance_upper_bound=reach + self._gap(at))
        met_back = np.isfinite(back)
        there = np.abs((old.along[met_back] * along[other[met_back]]).sum(axis=1)) > _SLANT
        return float(min(here.sum() / len(at), there.sum() / len(old.at)))

    @staticmethod
    def _gap(at: FloatArray) -> float:
        """How far apart the points are that stand for an edge."""
        return float(np.hypot(*np.ptp(at, axis=0))) / max(1, len(at)) * 3

    def drawn_to(self, fit: Fit, new: Edges, old: Edges, steps: int, last: float) -> Fit:
        """A fit drawn nearer, step by step, by edges ever nearer to each other."""
        size = self._old.size
        for k in range(steps):
            reach = size * (_REACHES[0] * (last / _REACHES[0]) ** (k / max(1, steps - 1)))
            fit = self._nearer(fit, new, old, reach)
        return fit

    def _nearer(self, fit: Fit, new: Edges, old: Edges, reach: float) -> Fit:
        at, along = _laid(fit, new)
        away, near = self._tree.query(at, distance_upper_bound=reach)
        met = np.flatnonzero(np.isfinite(away))
        met = met[np.abs((along[met] * self._old.along[near[met]]).sum(axis=1)) > _SLANT]
        back, other = cKDTree(at).query(old.at, distance_upper_bound=reach)
        met_back = np.flatnonzero(np.isfinite(back))
        met_back = met_back[np.abs((old.along[met_back] * along[other[met_back]]).sum(axis=1)) > _SLANT]
        # Both ways: else a small art would be drawn to one edge of a large one.
        here = np.vstack([at[met], at[other[met_back]]])
        there = np.vstack([self._old.at[near[met]], old.at[met_back]])
        way = np.vstack([self._old.along[near[met]], old.along[met_back]])
        if len(here) < 8:
            return fit
        normal = np.stack([-way[:, 1], way[:, 0]], axis=1)
        middle = here.mean(axis=0)
        p = here - middle
        off = ((there - here) * normal).sum(axis=1)
        weight = (1 - np.minimum(1.0, np.hypot(*(there - here).T) / reach) ** 2) ** 2 + 1e-6
        spin = np.stack([-p[:, 1], p[:, 0]], axis=1)
        rows = np.stack([(p * normal).sum(axis=1), (spin * normal).sum(axis=1), normal[:, 0], normal[:, 1]], axis=1)
        weighed = rows * weight[:, None]
        # A little of each unknown is held back, for edges that say nothing of it: a circle does not tell how it is turned.
        scale = np.maximum(1e-9, np.abs(p).mean())
        held = np.diag([scale**2, scale**2, 1.0, 1.0]) * 1e-4 * weight.sum()
        grow, turn, x, y = np.linalg.solve(weighed.T @ rows + held, weighed.T @ off)
        return _after(fit, float(np.clip(grow, -0.2, 0.2)), float(np.clip(turn, -0.2, 0.2)), middle, (float(x), float(y)))


def _after(fit: Fit, grow: float, turn: float, about: FloatArray, shift: tuple[float, float]) -> Fit:
    """A fit with a little more scaling and turning about a point, and a shift."""
    factor, angle = (1 + grow), math.atan2(turn, 1 + grow)
    cos, sin = factor * math.cos(angle), factor * math.sin(angle)
    x, y = fit.x_mm - about[0], fit.y_mm - about[1]
    turned = (fit.turn_deg + math.degrees(angle) + 180.0) % 360.0 - 180.0
    return Fit(
        fit.scale * factor, turned,
        float(cos * x - sin * y + about[0] + shift[0]), float(sin * x + cos * y + about[1] + shift[1]),
    )  # fmt: skip


def near_edges(old: Edges, agreed: npt.NDArray[np.bool_], around: shapely.Geometry, reach_mm: float) -> float | None:
    """The share of old edges within reach of a shape that have like ones; None where there are no edges."""
    near = shapely.dwithin(around, shapely.points(old.at), reach_mm) if len(old.at) else np.zeros(0, bool)
    return float(agreed[near].mean()) if near.any() else None
